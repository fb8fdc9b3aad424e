#pragma once
#include "app/steps/layers/layers_controller.h"

#include <QTreeWidget>

namespace frenlo::app {

/// The layers, the highest first, a line each with a tick that says whether it is on.
class LayerList : public QTreeWidget
{
    Q_OBJECT
public:
    LayerList(Viewing& viewing, LayersController& controller, QWidget* parent = nullptr);
    void fill();

private:
    [[nodiscard]] QString frames_text(const Layer& layer) const;

    Viewing& viewing_;
    LayersController& controller_;
    std::vector<LayerId> ids_; ///< of the lines
};

}
