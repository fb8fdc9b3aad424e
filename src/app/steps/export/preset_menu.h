#pragma once
#include "app/steps/export/preset_shelf.h"

#include <QPushButton>

#include <functional>
#include <optional>

class QMenu;

namespace frenlo::app {

/// What is set in Export is kept under a name, with what the place that it goes to demands; or forgotten.
class PresetMenu : public QPushButton
{
    Q_OBJECT
public:
    /// settings: as they are now; none while they make no sense.
    PresetMenu(PresetShelf& shelf, std::function<std::optional<Preset>()> settings, QWidget* parent = nullptr);

Q_SIGNALS:
    void kept(const QString& name);

private:
    void fill(QMenu& menu);

    PresetShelf& shelf_;
    std::function<std::optional<Preset>()> settings_;
};

}
