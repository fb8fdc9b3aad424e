#pragma once
#include "core/export/kept_presets.h"

#include <QObject>

#include <filesystem>
#include <vector>

namespace frenlo::app {

/// All presets: Frenlo's, and the user's own, which are kept in a file.
class PresetShelf : public QObject
{
    Q_OBJECT
public:
    explicit PresetShelf(std::filesystem::path file, QObject* parent = nullptr);

    /// Reads them; failed() or changed() follows.
    void load();
    [[nodiscard]] const std::vector<Preset>& own() const { return own_; }
    /// Frenlo's film where there is none of this name.
    [[nodiscard]] const Preset& find(const QString& name) const;
    [[nodiscard]] bool is_own(const QString& name) const;
    void keep(const Preset& preset);
    void forget(const QString& name);

Q_SIGNALS:
    void changed();
    void failed(const QString& message);

private:
    template <class Change>
    void with_file(const Change& change);

    std::filesystem::path file_;
    std::vector<Preset> own_;
};

}
