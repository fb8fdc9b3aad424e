#include "app/widgets/entries.h"

#include "core/time/schedule.h"

namespace frenlo::app {

std::optional<Seconds> parse_length(const QString& text, Rate rate)
{
    const auto hold = parse_hold(text.toStdString());
    if (!hold || !is_shown(*hold))
        return std::nullopt;
    return length_of(*hold, rate);
}

std::optional<double> parse_share(QString text, double most)
{
    bool fits = false;
    const double percent = text.remove(QLatin1Char('%')).trimmed().toDouble(&fits);
    return fits && percent >= 0 && percent <= most * 100 ? std::optional(percent / 100) : std::nullopt;
}

}
