// Where a layer is, and its way through keys.
#include "app/steps/layers/layer_page.h"
#include "app/widgets/layouts.h"
#include "app/widgets/number_fields.h"

#include <QComboBox>
#include <QPushButton>
#include <QSignalBlocker>

#include <algorithm>

namespace frenlo::app {

namespace {

constexpr const char* place_context = "frenlo::app::LayerPage";
constexpr std::array place_table{
    NumberField<LayerKey>{&LayerKey::x, QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "across"),
                          QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "Of its middle, share of the frame's width"), "%",
                          -1000, 1000, 100, 0.5, 1},
    NumberField<LayerKey>{&LayerKey::y, QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "down"),
                          QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "Of its middle, share of the frame's height"),
                          "%", -1000, 1000, 100, 0.5, 1},
    NumberField<LayerKey>{&LayerKey::size, QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "size"),
                          QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "At 100 % it just fits inside the frame"), "%",
                          0.1, 10'000, 100, 1, 1},
    NumberField<LayerKey>{
        &LayerKey::turn, QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "turn"),
        QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "Clockwise. Above 360 it goes round more than once between keys"),
        "°", -36'000, 36'000, 1, 1, 1},
    NumberField<LayerKey>{&LayerKey::opacity, QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "opacity"),
                          QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "How much of it covers what lies below"), "%", 0,
                          100, 100, 5, 0},
};

class PlacePage : public LayerPage
{
public:
    explicit PlacePage(LayersController& controller)
        : LayerPage(controller, tr("Place")),
          fields_(number_fields<LayerKey>(
              place_table, place_context, [this] { controller_.begin_change(); },
              [this](double LayerKey::*member, double value) {
                  controller_.change_place([&](LayerKey& k) { k.*member = value; }, tr("Place the layer"));
              }))
    {
        set_rows({one_row({fields_[0], fields_[1], fields_[2]}), one_row({fields_[3], fields_[4]})});
    }
    void refresh(const Layer* layer) override { follow_playhead(layer); }
    void follow_playhead(const Layer* layer) override { show_numbers(fields_, place_table, controller_.place(*layer)); }

private:
    std::vector<ValueField*> fields_;
};

class KeysPage : public LayerPage
{
public:
    explicit KeysPage(LayersController& controller)
        : LayerPage(controller, tr("Keys")),
          here_(tool(tr("Set a key here"), tr("Keeps where the layer is at this frame; between keys it moves, and what "
                                              "you change at another frame becomes a key there"))),
          back_(tool(QStringLiteral("←"), tr("To the key before"))),
          on_(tool(QStringLiteral("→"), tr("To the next key"))), gone_(tool(tr("Remove the key"))),
          ease_(choice(tr("How it moves on from this key"),
                       {tr("evenly"), tr("slow at first"), tr("slow at last"), tr("slow at both ends")})),
          way_(choice(tr("Its way"), {tr("straight"), tr("curved")}, tr("Curved: through its keys without corners"))),
          again_(choice(tr("After its last key"), {tr("then stays"), tr("then again"), tr("then back and forth")},
                        tr("Again: from its first key, for ever; an exact turn loops")))
    {
        set_rows({one_row({here_, back_, on_, gone_}), one_row({ease_, way_, again_})});
        connect(here_, &QPushButton::clicked, &controller_, &LayersController::new_key_here);
        connect(gone_, &QPushButton::clicked, &controller_, &LayersController::remove_key_here);
        connect(back_, &QPushButton::clicked, this, [this] { controller_.go_to_key(-1); });
        connect(on_, &QPushButton::clicked, this, [this] { controller_.go_to_key(1); });
        connect(ease_, &QComboBox::activated, this, [this](int which) {
            controller_.begin_change();
            controller_.change_place([&](LayerKey& k) { k.ease = Ease(which); }, tr("Set the ease"));
        });
        connect(way_, &QComboBox::activated, this,
                [this](int which) { change(tr("Set the layer's way"), [&](Layer& l) { l.curved = which == 1; }); });
        connect(again_, &QComboBox::activated, this, [this](int which) {
            change(tr("Repeat the movement"), [&](Layer& l) { l.movement_end = MovementEnd(which); });
        });
    }
    void refresh(const Layer* layer) override
    {
        const QSignalBlocker quiet1(way_), quiet2(again_);
        way_->setCurrentIndex(layer->curved ? 1 : 0);
        again_->setCurrentIndex(int(layer->movement_end));
        for (QWidget* w : std::initializer_list<QWidget*>{back_, on_, way_, again_})
            w->setVisible(layer->keys.size() > 1);
        follow_playhead(layer);
    }
    void follow_playhead(const Layer* layer) override
    {
        const bool moves = layer->keys.size() > 1;
        const Seconds here = controller_.here();
        const auto key =
            std::find_if(layer->keys.begin(), layer->keys.end(), [&](const LayerKey& k) { return k.at == here; });
        const bool on_key = key != layer->keys.end();
        gone_->setVisible(moves && on_key);
        here_->setVisible(!moves || !on_key);
        ease_->setVisible(moves && on_key);
        const QSignalBlocker quiet(ease_);
        if (on_key)
            ease_->setCurrentIndex(int(key->ease));
    }

private:
    QPushButton *here_, *back_, *on_, *gone_;
    QComboBox *ease_, *way_, *again_;
};

}

LayerPage* place_page(LayersController& controller)
{
    return new PlacePage(controller);
}

LayerPage* keys_page(LayersController& controller)
{
    return new KeysPage(controller);
}

}
