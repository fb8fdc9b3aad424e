// When a layer is there, how it looks, and its shadow.
#include "app/steps/layers/layer_page.h"
#include "app/widgets/layouts.h"
#include "app/widgets/number_fields.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QSignalBlocker>

namespace frenlo::app {

namespace {

class WhenPage : public LayerPage
{
public:
    explicit WhenPage(LayersController& controller)
        : LayerPage(controller, tr("When")), name_(field(tr("Name of the layer"), {}, 120)),
          from_(field(tr("First frame"), tr("The layer is there from this frame on"), 52)),
          to_(field(tr("Last frame"), tr("And to this one; empty: to the end"), 52)),
          side_(choice(tr("Over or behind the photos"), {tr("over the photos"), tr("behind the photos")},
                       tr("Behind: seen where the photos are transparent, or where a colour was taken out of them"))),
          hold_(choice(tr("What it keeps its place in"), {tr("stays in the frame"), tr("stays on the scene")},
                       tr("On the scene it goes with the photos when they are cropped or drift"))),
          end_(choice(tr("When its shot ends"),
                      {tr("then holds its last photo"), tr("then goes round"), tr("then is gone")}))
    {
        set_rows({one_row({secondary(tr("from frame")), from_, secondary(tr("to")), to_, end_}),
                  one_row({side_, hold_, secondary(tr("called")), name_})});
        to_->setPlaceholderText(tr("end"));
        for (QLineEdit* line : {from_, to_})
            connect(line, &QLineEdit::editingFinished, this, [this] { take_frames(); });
        connect(name_, &QLineEdit::editingFinished, this, [this] {
            if (name_->isModified() && !name_->text().trimmed().isEmpty())
                change(tr("Name the layer"), [&](Layer& l) { l.name = name_->text().trimmed().toStdString(); });
            name_->setModified(false);
        });
        connect(side_, &QComboBox::activated, this,
                [this](int which) { change(tr("Move the layer"), [&](Layer& l) { l.behind = which == 1; }); });
        connect(hold_, &QComboBox::activated, this, [this](int which) {
            change(tr("Set what the layer stays in"), [&](Layer& l) { l.on_scene = which == 1; });
        });
        connect(end_, &QComboBox::activated, this, [this](int which) {
            change(tr("Set the end of the layer's shot"), [&](Layer& l) { l.film_end = FilmEnd(which); });
        });
    }
    void refresh(const Layer* layer) override
    {
        const Rate rate = controller_.project().delivered_at;
        show_text(name_, QString::fromStdString(layer->name));
        show_text(from_, QString::number((layer->begin.value * rate.value()).rounded() + 1));
        show_text(to_, layer->end ? QString::number((layer->end->value * rate.value()).rounded()) : QString());
        const QSignalBlocker quiet1(side_), quiet2(hold_), quiet3(end_);
        side_->setCurrentIndex(layer->behind ? 1 : 0);
        hold_->setCurrentIndex(layer->on_scene ? 1 : 0);
        hold_->setVisible(controller_.home().shot.has_value());
        end_->setCurrentIndex(int(layer->film_end));
        end_->setVisible(layer->shot.has_value());
    }

private:
    void take_frames()
    {
        if (!from_->isModified() && !to_->isModified())
            return;
        bool from_ok = false, to_ok = false;
        const std::int64_t from = from_->text().toLongLong(&from_ok);
        const bool to_end = to_->text().trimmed().isEmpty();
        const std::int64_t to = to_->text().toLongLong(&to_ok);
        from_ok = from_ok && from >= 1;
        to_ok = to_end || (to_ok && to >= from);
        mark_wrong(from_, !from_ok);
        mark_wrong(to_, !to_ok);
        if (!from_ok || !to_ok)
            return;
        from_->setModified(false);
        to_->setModified(false);
        const Rate rate = controller_.project().delivered_at;
        change(tr("Set the layer's frames"), [&](Layer& l) {
            l.begin = length_of(from - 1, rate);
            l.end = to_end ? std::nullopt : std::optional(length_of(to, rate));
        });
    }

    QLineEdit *name_, *from_, *to_;
    QComboBox *side_, *hold_, *end_;
};

class LookPage : public LayerPage
{
public:
    explicit LookPage(LayersController& controller)
        : LayerPage(controller, tr("Look")),
          blend_(choice(tr("Blend"), {tr("covers"), tr("adds its light"), tr("darkens"), tr("lightens")},
                        tr("How layer and picture become one, in linear light: covers (over), adds (light upon "
                           "light), darkens (multiply), lightens (screen)"))),
          edge_(new ValueField({tr("soft edge"), tr("How far in from its edge it comes in, of the frame's height"),
                                QStringLiteral("%"), 0, 50, 0, 0.5, 1, false})),
          matte_(choice(tr("What of it shows"), {},
                        tr("Another layer can decide what of this one shows; it may be switched off itself")))
    {
        set_rows({one_row({blend_, edge_}), one_row({secondary(tr("shows")), matte_})});
        connect(blend_, &QComboBox::activated, this,
                [this](int which) { change(tr("Set the blend"), [&](Layer& l) { l.blend = Blend(which); }); });
        connect(edge_, &ValueField::begun, &controller_, &LayersController::begin_change);
        connect(edge_, &ValueField::edited, this, [this](double v) {
            controller_.change([&](Layer& l) { l.soft_edge = v / 100; }, tr("Soften the edge"));
        });
        connect(matte_, &QComboBox::activated, this, [this](int which) {
            change(tr("Set what of the layer shows"), [&](Layer& l) { l.matte = mattes_.at(std::size_t(which)); });
        });
    }
    void refresh(const Layer* layer) override
    {
        const QSignalBlocker quiet1(blend_), quiet2(matte_);
        blend_->setCurrentIndex(int(layer->blend));
        edge_->show_value(layer->soft_edge * 100);
        matte_->clear();
        mattes_.clear();
        add(layer, std::nullopt, tr("all of it"));
        for (const Layer& other : controller_.layers()) {
            if (other.id == layer->id)
                continue;
            const QString name = QString::fromStdString(other.name);
            add(layer, LayerMatte{other.id, MatteOf::alpha, false}, tr("where “%1” is").arg(name));
            add(layer, LayerMatte{other.id, MatteOf::alpha, true}, tr("where “%1” is not").arg(name));
            add(layer, LayerMatte{other.id, MatteOf::brightness, false}, tr("where “%1” is bright").arg(name));
            add(layer, LayerMatte{other.id, MatteOf::brightness, true}, tr("where “%1” is dark").arg(name));
        }
        matte_->setEnabled(matte_->count() > 1);
    }

private:
    void add(const Layer* layer, const std::optional<LayerMatte>& matte, const QString& text)
    {
        matte_->addItem(text);
        mattes_.push_back(matte);
        if (layer->matte == matte)
            matte_->setCurrentIndex(matte_->count() - 1);
    }

    QComboBox* blend_;
    ValueField* edge_;
    QComboBox* matte_;
    std::vector<std::optional<LayerMatte>> mattes_; ///< as the box lists them
};

constexpr const char* look_context = "frenlo::app::LayerPage";
constexpr std::array shadow_table{
    NumberField<LayerShadow>{&LayerShadow::degrees, QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "towards"),
                             QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "Where it falls: 0 to the right, 90 down"),
                             "°", -360, 360, 1, 5, 0},
    NumberField<LayerShadow>{&LayerShadow::distance, QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "far"),
                             QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "Of the frame's height"), "%", 0, 100, 100,
                             0.25, 2},
    NumberField<LayerShadow>{&LayerShadow::softness, QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "soft"),
                             QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "Of its edge, of the frame's height"), "%", 0,
                             50, 100, 0.25, 2},
    NumberField<LayerShadow>{&LayerShadow::strength, QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "strong"),
                             QT_TRANSLATE_NOOP("frenlo::app::LayerPage", "How dark it is"), "%", 0, 100, 100, 5, 0},
};

class ShadowPage : public LayerPage
{
public:
    explicit ShadowPage(LayersController& controller)
        : LayerPage(controller, tr("Shadow")), casts_(new QCheckBox(tr("casts one"))),
          fields_(number_fields<LayerShadow>(
              shadow_table, look_context, [this] { controller_.begin_change(); },
              [this](double LayerShadow::*member, double value) {
                  controller_.change(
                      [&](Layer& l) {
                          if (l.shadow)
                              (*l.shadow).*member = value;
                      },
                      tr("Set the shadow"));
              }))
    {
        casts_->setAccessibleName(tr("Shadow"));
        set_rows({one_row({casts_, fields_[0], fields_[1]}), one_row({fields_[2], fields_[3]})});
        connect(casts_, &QCheckBox::clicked, this, [this](bool on) {
            change(tr("Set the shadow"),
                   [&](Layer& l) { l.shadow = on ? std::optional(l.shadow.value_or(LayerShadow())) : std::nullopt; });
        });
    }
    void refresh(const Layer* layer) override
    {
        casts_->setChecked(layer->shadow.has_value());
        for (ValueField* f : fields_)
            f->setVisible(layer->shadow.has_value());
        if (layer->shadow)
            show_numbers(fields_, shadow_table, *layer->shadow);
    }

private:
    QCheckBox* casts_;
    std::vector<ValueField*> fields_;
};

}

LayerPage* when_page(LayersController& controller)
{
    return new WhenPage(controller);
}

LayerPage* look_page(LayersController& controller)
{
    return new LookPage(controller);
}

LayerPage* shadow_page(LayersController& controller)
{
    return new ShadowPage(controller);
}

}
