#pragma once
#include "app/steps/layers/layer_page.h"

#include <vector>

class QPushButton;

namespace frenlo::app {

class ValueField;

/// A colour taken out of what the layer in hand shows, or of the shot's own photos where none is in hand.
class ColourPage : public LayerPage
{
    Q_OBJECT
public:
    explicit ColourPage(LayersController& controller);

    void show_picking(bool on);
    [[nodiscard]] bool applies(const Layer* layer) const override;
    [[nodiscard]] bool whatever_is_locked() const override { return true; }
    void refresh(const Layer* layer) override;

Q_SIGNALS:
    void pick(bool on); ///< a click on the picture is to say which

private:
    QPushButton *pick_, *keep_;
    std::vector<ValueField*> fields_;
};

}
