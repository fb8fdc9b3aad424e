#include "app/steps/frame/looks_part.h"

#include "app/steps/frame/frame_row.h"
#include "app/widgets/entries.h"
#include "app/widgets/number_fields.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <array>

namespace frenlo::app {

namespace {

constexpr std::array offered_bars{"none", "2.39:1", "2:1", "1.85:1", "16:9", "1:1"};

/// A miniature's numbers, in percent and degrees.
constexpr std::array miniature_table{
    NumberField<Miniature>{&Miniature::y, QT_TRANSLATE_NOOP("frenlo::app::LooksPart", "at"),
                           QT_TRANSLATE_NOOP("frenlo::app::LooksPart", "How far down the sharp band lies"), "%", -50,
                           150, 100, 1, 0},
    NumberField<Miniature>{
        &Miniature::width, QT_TRANSLATE_NOOP("frenlo::app::LooksPart", "width"),
        QT_TRANSLATE_NOOP("frenlo::app::LooksPart", "Of the band that is wholly sharp, of the frame's height"), "%", 0,
        200, 100, 1, 0},
    NumberField<Miniature>{&Miniature::angle, QT_TRANSLATE_NOOP("frenlo::app::LooksPart", "angle"),
                           QT_TRANSLATE_NOOP("frenlo::app::LooksPart", "Of the band, clockwise"), "°", -180, 180, 1, 1,
                           0},
    NumberField<Miniature>{
        &Miniature::softness, QT_TRANSLATE_NOOP("frenlo::app::LooksPart", "soft"),
        QT_TRANSLATE_NOOP("frenlo::app::LooksPart", "How far it is from sharp to blurred, of the frame's height"), "%",
        1, 200, 100, 1, 0},
    NumberField<Miniature>{
        &Miniature::blur, QT_TRANSLATE_NOOP("frenlo::app::LooksPart", "blur"),
        QT_TRANSLATE_NOOP("frenlo::app::LooksPart", "How large a bright point becomes, of the frame's height"), "%", 0,
        10, 100, 0.1, 1},
};

}

LooksPart::LooksPart(Viewing& viewing, FrameController& frame_controller, QWidget* parent)
    : QWidget(parent), viewing_(viewing), frame_controller_(frame_controller), bars_(new QComboBox),
      fade_in_(field(tr("Fade in"), tr("From black, in seconds or frames: 1 s, 12 f"), 64)),
      fade_out_(field(tr("Fade out"), tr("To black, in seconds or frames"), 64)),
      grain_held_(new QCheckBox(tr("stays with the photo"))), miniature_(new QCheckBox(tr("on")))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(row_gap);
    column->addWidget(over_the_frame());
    column->addWidget(miniature_part());
}

QWidget* LooksPart::over_the_frame()
{
    auto* holder = new QWidget;
    auto* row = frame_row(holder, tr("Looks"));
    row->addWidget(secondary(tr("bars")));
    for (const char* text : offered_bars)
        bars_->addItem(QString::fromLatin1(text) == QLatin1String("none") ? tr("none") : QString::fromLatin1(text));
    bars_->setAccessibleName(tr("Bars"));
    bars_->setToolTip(tr("Bars over the picture that leave this shape"));
    row->addWidget(bars_);
    row->addWidget(secondary(tr("fade in")));
    row->addWidget(fade_in_);
    row->addWidget(secondary(tr("out")));
    row->addWidget(fade_out_);
    grain_ = new ValueField({tr("grain"), tr("As of film"), QStringLiteral("%"), 0, 100, 0, 5, 0, false});
    row->addWidget(grain_);
    row->addWidget(grain_held_);
    connect(bars_, &QComboBox::activated, this, [this](int which) {
        frame_controller_.begin_change();
        frame_controller_.change(
            [&](Framing& f) {
                if (which == 0)
                    f.bars.reset();
                else
                    f.bars = Letterbox{parse_shape(offered_bars.at(std::size_t(which)))->ratio,
                                       f.bars.value_or(Letterbox()).easing};
            },
            tr("Set the bars"));
    });
    for (QLineEdit* line : {fade_in_, fade_out_})
        connect(line, &QLineEdit::editingFinished, this, [this, line] {
            bool understood = false;
            const Seconds length = length_in(*line, understood);
            mark_wrong(line, !understood);
            if (!understood)
                return;
            frame_controller_.begin_change();
            frame_controller_.change([&](Framing& f) { (line == fade_in_ ? f.fades.in : f.fades.out) = length; },
                                     tr("Set the fade"));
        });
    connect(grain_, &ValueField::begun, &frame_controller_, &FrameController::begin_change);
    connect(grain_, &ValueField::edited, this, [this](double percent) {
        frame_controller_.change(
            [&](Framing& f) {
                if (percent <= 0)
                    f.grain.reset();
                else
                    f.grain = Grain{percent / 100, f.grain.value_or(Grain()).held};
            },
            tr("Set the grain"));
    });
    connect(grain_held_, &QCheckBox::clicked, this, [this](bool on) {
        frame_controller_.begin_change();
        frame_controller_.change(
            [&](Framing& f) {
                if (f.grain)
                    f.grain->held = on;
            },
            tr("Set the grain"));
    });
    return holder;
}

QWidget* LooksPart::miniature_part()
{
    auto* holder = new QWidget;
    auto* column = new QVBoxLayout(holder);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(row_gap);
    auto *first = new QWidget, *second = new QWidget;
    auto *row = frame_row(first, tr("Miniature")), *below = frame_row(second, {});
    column->addWidget(first);
    column->addWidget(second);
    miniature_more_ = second;
    miniature_->setAccessibleName(tr("Miniature"));
    miniature_->setToolTip(tr("A band of focus, and blur as of a lens beyond it, as if it were small and near"));
    row->addWidget(miniature_);
    connect(miniature_, &QCheckBox::clicked, this, [this](bool on) {
        frame_controller_.begin_change();
        frame_controller_.change([&](Framing& f) { f.miniature = on ? std::optional(Miniature()) : std::nullopt; },
                                 tr("Miniature"));
    });
    miniature_fields_ = number_fields<Miniature>(
        miniature_table, "frenlo::app::LooksPart", [this] { frame_controller_.begin_change(); },
        [this](double Miniature::*member, double value) {
            frame_controller_.change(
                [&](Framing& framing) {
                    if (framing.miniature)
                        (*framing.miniature).*member = value;
                },
                tr("Miniature"));
        });
    for (std::size_t i = 0; i < miniature_fields_.size(); ++i) {
        constexpr std::size_t in_first = 3;
        (i < in_first ? row : below)->addWidget(miniature_fields_[i]);
    }
    return holder;
}

Seconds LooksPart::length_in(const QLineEdit& line, bool& understood) const
{
    const QString text = line.text().trimmed();
    understood = true;
    if (text.isEmpty() || text == QLatin1String("0") || text == tr("none"))
        return {};
    const auto length = parse_length(text, viewing_.schedule().rate());
    understood = length.has_value();
    return length.value_or(Seconds());
}

void LooksPart::refresh(const Shot& shot)
{
    const Framing f = framing_of(shot);
    const QSignalBlocker quiet(bars_);
    int bars = 0;
    for (std::size_t i = 1; i < offered_bars.size(); ++i)
        if (f.bars && f.bars->shape == parse_shape(offered_bars.at(i))->ratio)
            bars = int(i);
    bars_->setCurrentIndex(bars);
    for (auto* line : {fade_in_, fade_out_}) {
        const Seconds length = line == fade_in_ ? f.fades.in : f.fades.out;
        if (!line->hasFocus())
            line->setText(length.value > Fraction(0) ? QString::fromStdString(shown_hold(length)) : tr("none"));
    }
    grain_->show_value(f.grain ? f.grain->strength * 100 : 0);
    grain_held_->setVisible(f.grain.has_value());
    grain_held_->setChecked(f.grain && f.grain->held);
    miniature_->setChecked(f.miniature.has_value());
    miniature_more_->setVisible(f.miniature.has_value());
    for (ValueField* field : miniature_fields_)
        field->setVisible(f.miniature.has_value());
    show_numbers(miniature_fields_, miniature_table, f.miniature.value_or(Miniature()));
}

}
