#include "app/steps/tone/tone_words.h"

#include <QCoreApplication>

#include <utility>

namespace frenlo::app {

QString name_of(ToneValue value)
{
    constexpr std::pair<ToneValue, const char*> names[] = {
        {&Tone::exposure, QT_TRANSLATE_NOOP("Tone", "Exposure")},
        {&Tone::contrast, QT_TRANSLATE_NOOP("Tone", "Contrast")},
        {&Tone::toe, QT_TRANSLATE_NOOP("Tone", "Toe")},
        {&Tone::shoulder, QT_TRANSLATE_NOOP("Tone", "Shoulder")},
        {&Tone::local_contrast, QT_TRANSLATE_NOOP("Tone", "Local contrast")},
        {&Tone::warmth, QT_TRANSLATE_NOOP("Tone", "Warmth")},
        {&Tone::green_magenta, QT_TRANSLATE_NOOP("Tone", "Green–magenta")},
        {&Tone::colour, QT_TRANSLATE_NOOP("Tone", "Colour")},
        {&Tone::corners, QT_TRANSLATE_NOOP("Tone", "Corners")},
    };
    for (const auto& [known, name] : names)
        if (known == value)
            return QCoreApplication::translate("Tone", name);
    return {};
}

}
