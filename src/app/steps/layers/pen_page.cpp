#include "app/steps/layers/pen_page.h"

#include "app/widgets/layouts.h"
#include "app/widgets/swatch.h"
#include "app/widgets/value_field.h"

#include <QCheckBox>
#include <QColorDialog>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSpinBox>

#include <algorithm>

namespace frenlo::app {

namespace {
constexpr int most_photos = 9999;
}

PenPage::PenPage(LayersController& controller)
    : LayerPage(controller, tr("Pen")),
      hands_{{LayerHand::free, tool(tr("Draw freely"), tr("A line as the hand goes"))},
             {LayerHand::straight, tool(tr("Draw straight"), tr("A straight line"))},
             {LayerHand::filled, tool(tr("Fill a shape"), tr("Draw round it; it is closed by itself"))},
             {LayerHand::erase, tool(tr("Rub out"), tr("Takes away what was drawn"))}},
      colour_button_(tool(tr("Colour…"))), unstroke_(tool(tr("Take the last stroke away"))),
      width_(new ValueField(
          {tr("width"), tr("Of the pen, of the frame's height"), QStringLiteral("%"), 0.05, 30, 1, 0.1, 2, false})),
      onion_(new QCheckBox(tr("onion skin"))), held_(new QSpinBox)
{
    for (const auto& [hand, button] : hands_) {
        button->setCheckable(true);
        connect(button, &QPushButton::clicked, this, [this, h = hand] {
            hand_ = h;
            show_pen();
            Q_EMIT changed();
        });
    }
    width_->show_value(1);
    onion_->setChecked(true);
    onion_->setToolTip(tr("What was drawn on the photos before and after"));
    held_->setRange(1, most_photos);
    const auto count_photos = [this](int photos) { held_->setSuffix(photos == 1 ? tr(" photo") : tr(" photos")); };
    connect(held_, &QSpinBox::valueChanged, this, count_photos);
    count_photos(1);
    held_->setAccessibleName(tr("Photos that this drawing lies over"));
    held_->setToolTip(tr("From the photo it was drawn on; the next drawing takes its place"));
    set_rows({one_row({hands_[0].second, hands_[1].second, hands_[2].second, hands_[3].second}),
              one_row({colour_button_, width_, onion_}), one_row({secondary(tr("lies over")), held_, unstroke_})});
    connect(colour_button_, &QPushButton::clicked, this, &PenPage::choose_colour);
    connect(width_, &ValueField::edited, this, [this](double v) {
        width_->show_value(v);
        Q_EMIT changed();
    });
    connect(onion_, &QCheckBox::toggled, this, &PenPage::changed);
    connect(unstroke_, &QPushButton::clicked, &controller_, &LayersController::remove_last_stroke);
    connect(held_, &QSpinBox::valueChanged, this, [this](int photos) { controller_.hold_drawing(photos); });
    show_pen();
}

void PenPage::choose_colour()
{
    const QColor chosen = QColorDialog::getColor(qt_colour(colour_), this, tr("Colour of the pen"));
    if (!chosen.isValid())
        return;
    colour_ = own_colour(chosen);
    show_pen();
    Q_EMIT changed();
}

void PenPage::show_pen()
{
    for (const auto& [hand, button] : hands_)
        button->setChecked(hand == hand_);
    colour_button_->setIcon(swatch(colour_));
}

void PenPage::equip(LayersTool& tool) const
{
    tool.set_pen(colour_, width_->value() / 100);
    tool.set_onion(onion_->isChecked());
}

void PenPage::refresh(const Layer* layer)
{
    follow_playhead(layer);
}

void PenPage::follow_playhead(const Layer* layer)
{
    const Drawing* d = controller_.drawing_here(*layer);
    const QSignalBlocker quiet(held_);
    held_->setEnabled(d != nullptr);
    held_->setValue(d ? int(std::min<std::int64_t>(d->photos, most_photos)) : 1);
    held_->setSuffix(held_->value() == 1 ? tr(" photo") : tr(" photos"));
    unstroke_->setEnabled(d != nullptr);
}

}
