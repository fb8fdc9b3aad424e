#pragma once
#include "app/steps/layers/layer_page.h"
#include "app/steps/layers/layers_tool.h"

#include <vector>

class QCheckBox;
class QPushButton;
class QSpinBox;

namespace frenlo::app {

class ValueField;

/// The pen that drawings are made with, and how long each is held.
class PenPage : public LayerPage
{
    Q_OBJECT
public:
    explicit PenPage(LayersController& controller);

    /// What the hand does; never LayerHand::place.
    [[nodiscard]] LayerHand hand() const { return hand_; }
    /// Tells the tool what it draws with.
    void equip(LayersTool& tool) const;

    [[nodiscard]] bool applies(const Layer* layer) const override { return layer && !layer->shot; }
    void refresh(const Layer* layer) override;
    void follow_playhead(const Layer* layer) override;

Q_SIGNALS:
    void changed();

private:
    void choose_colour();
    void show_pen();

    LayerHand hand_ = LayerHand::free;
    Backdrop colour_{34, 38, 42};
    std::vector<std::pair<LayerHand, QPushButton*>> hands_;
    QPushButton *colour_button_, *unstroke_;
    ValueField* width_;
    QCheckBox* onion_;
    QSpinBox* held_;
};

}
