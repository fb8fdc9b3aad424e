#pragma once
#include "app/widgets/photo_plot.h"

namespace frenlo::app {

/// How the photos of the shot had moved: across, down (pixels) and turned (degrees), one after the other.
class MotionPlot : public PhotoPlot
{
    Q_OBJECT
public:
    explicit MotionPlot(QWidget* parent = nullptr);
    void show_shot(const Shot& shot);

protected:
    void paint_graphs(const Colours& colours) override;
};

}
