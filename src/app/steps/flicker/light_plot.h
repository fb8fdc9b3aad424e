#pragma once
#include "app/widgets/photo_plot.h"

namespace frenlo::app {

/// Brightness over the photos of the shot, stops: as shot and evened, with what stands out and where the light changes
/// at once.
class LightPlot : public PhotoPlot
{
    Q_OBJECT
public:
    explicit LightPlot(QWidget* parent = nullptr);
    void show_shot(const Shot& shot);

protected:
    void paint_graphs(const Colours& colours) override;
};

}
