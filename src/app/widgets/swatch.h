#pragma once
#include "core/project/backdrop.h"

#include <QColor>
#include <QIcon>

namespace frenlo::app {

/// Colours between the project and Qt.
QColor qt_colour(const Backdrop& colour);
Backdrop own_colour(const QColor& colour);
/// A small square of it, for a button.
QIcon swatch(const Backdrop& colour);

}
