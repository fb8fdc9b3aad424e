#pragma once
#include "app/steps/layers/layers_controller.h"

#include <QString>
#include <QWidget>

#include <functional>
#include <initializer_list>

namespace frenlo::app {

/// A few rows of what can be set of the layer in hand.
class LayerPage : public QWidget
{
    Q_OBJECT
public:
    LayerPage(LayersController& controller, const QString& name, QWidget* parent = nullptr);

    [[nodiscard]] const QString& name() const { return name_; }
    /// Whether there is something to be set here. layer: null where none is in hand.
    [[nodiscard]] virtual bool applies(const Layer* layer) const { return layer != nullptr; }
    /// A lock on the layer does not hold here.
    [[nodiscard]] virtual bool whatever_is_locked() const { return false; }
    /// Only where it applies.
    virtual void refresh(const Layer* layer) = 0;
    /// Only what is another at another frame: called for every frame that plays.
    virtual void follow_playhead(const Layer*) {}

protected:
    void set_rows(std::initializer_list<QWidget*> rows);
    /// One change of the layer in hand.
    void change(const QString& what, const std::function<void(Layer&)>& how);

    LayersController& controller_;

private:
    QString name_;
};

LayerPage* text_page(LayersController& controller);
LayerPage* place_page(LayersController& controller);
LayerPage* keys_page(LayersController& controller);
LayerPage* when_page(LayersController& controller);
LayerPage* look_page(LayersController& controller);
LayerPage* shadow_page(LayersController& controller);

}
