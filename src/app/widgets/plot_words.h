#pragma once
#include <QString>

namespace frenlo::app {

/// What a plot says to screen readers beside its name: its points, one after the other. A widget that draws a plot is
/// one of these, too.
class PlotWords
{
public:
    struct Point
    {
        QString name;  ///< "photo 12"
        QString value; ///< "as shot −0.31 stop, evened +0.02 stop"
    };

    virtual ~PlotWords() = default;
    [[nodiscard]] virtual int spoken_points() const = 0;
    /// at: below spoken_points().
    [[nodiscard]] virtual Point spoken_point(int at) const = 0;
};

/// Makes plots known to screen readers as charts of their points. Once for the application; further calls do nothing.
void install_plot_accessibility();

}
