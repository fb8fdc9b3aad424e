#pragma once
#include "app/theme/colours.h"

#include <QFont>

class QCustomPlot;

namespace frenlo::app {

/// Every plot of a bench: the theme's colours, small figures, thin lines.
void style_plot(QCustomPlot& plot, const Colours& colours, const QFont& font);

}
