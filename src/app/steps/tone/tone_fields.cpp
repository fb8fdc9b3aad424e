#include "app/steps/tone/tone_fields.h"

#include "app/steps/tone/tone_words.h"
#include "app/widgets/value_field.h"

#include <QGridLayout>

namespace frenlo::app {

namespace {
constexpr int rows = 5;
}

ToneFields::ToneFields(ToneController& tone_controller, QWidget* parent) : QWidget(parent)
{
    struct Line
    {
        ToneValue value;
        Limits limits;
        ValueField::Spec spec;
    };
    const QString stop = tr("stop"), percent = QStringLiteral("%");
    const Line lines[] = {
        {&Tone::exposure,
         tone_exposure,
         {{}, tr("All light is made more or less, as a longer exposure would have"), stop, 0, 0, 0, 0.1, 2}},
        {&Tone::contrast,
         tone_percent,
         {{}, tr("How steep the curve is at middle grey; white stays white"), percent, 0, 0, 0, 5, 0}},
        {&Tone::toe,
         tone_end,
         {{}, tr("The dark end is raised or lowered, to open shadows or to make them deep"), stop, 0, 0, 0, 0.1, 2}},
        {&Tone::shoulder,
         tone_end,
         {{},
          tr("The light end is raised or lowered, to keep a bright sky or to make whites clean"),
          stop,
          0,
          0,
          0,
          0.1,
          2}},
        {&Tone::local_contrast,
         tone_percent,
         {{},
          tr("Parts of the photo stand out from what is around them, without a halo at edges"),
          percent,
          0,
          0,
          0,
          5,
          0}},
        {&Tone::warmth,
         tone_kelvin,
         {{},
          tr("The colour temperature of the light that looks white: higher is warmer"),
          tr("K"),
          0,
          0,
          0,
          100,
          0,
          false}},
        {&Tone::green_magenta,
         tone_percent,
         {{}, tr("Greener below 0, more magenta above: for lamps with a green cast"), percent, 0, 0, 0, 2, 0}},
        {&Tone::colour,
         tone_percent,
         {{},
          tr("How strong colours are; what is strong already changes least, so that nothing breaks"),
          percent,
          0,
          0,
          0,
          5,
          0}},
        {&Tone::corners, tone_corners, {{}, tr("Lifts corners that the lens left dark"), stop, 0, 0, 0, 0.1, 2}},
    };
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(10);
    grid->setVerticalSpacing(2);
    int n = 0;
    for (const Line& line : lines) {
        ValueField::Spec spec = line.spec;
        spec.name = name_of(line.value);
        spec.least = line.limits.low;
        spec.most = line.limits.high;
        spec.neutral = Tone().*line.value;
        auto* field = new ValueField(spec);
        grid->addWidget(field, n % rows, n / rows);
        fields_.emplace_back(line.value, field);
        connect(field, &ValueField::begun, &tone_controller, &ToneController::begin_change);
        connect(field, &ValueField::edited, &tone_controller,
                [&tone_controller, value = line.value](double to) { tone_controller.set(value, to); });
        ++n;
    }
    for (int column = 0; column < 2; ++column)
        grid->setColumnStretch(column, 1);
}

void ToneFields::show_tone(const Tone& tone)
{
    for (const auto& [value, field] : fields_)
        field->show_value(tone.*value);
}

void ToneFields::add_button(QWidget* button)
{
    const int place = int(fields_.size());
    static_cast<QGridLayout*>(layout())->addWidget(button, place % rows, place / rows, Qt::AlignLeft);
}

}
