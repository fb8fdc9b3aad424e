#pragma once
#include "app/work/background.h"
#include "core/sound/peaks.h"

#include <QObject>

#include <filesystem>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <stop_token>

namespace frenlo::app {

/// What waveforms of sound files are drawn of: read once, in the background, shown while it is read, and kept on disk.
class Waveforms : public QObject
{
    Q_OBJECT
public:
    /// folder: where they are kept; may not be there yet.
    Waveforms(Background& background, std::filesystem::path folder, QObject* parent = nullptr);
    ~Waveforms() override { stop_.request_stop(); }

    /// What there is by now; null where there is nothing yet. Asks for it where nobody did.
    [[nodiscard]] std::shared_ptr<const Peaks> of(const std::filesystem::path& file);

    /// Why there is none; nothing where it was not read yet.
    [[nodiscard]] std::optional<Problem> problem(const std::filesystem::path& file) const;

Q_SIGNALS:
    void changed();

private:
    Background& background_;
    std::filesystem::path folder_;
    std::map<std::filesystem::path, std::shared_ptr<const Peaks>> known_;
    std::map<std::filesystem::path, Problem> problems_;
    std::set<std::filesystem::path> asked_;
    std::stop_source stop_;
};

}
