#include "core/time/cadence.h"

#include <algorithm>

namespace frenlo {

Cadence cadence(Rate paced_at, Rate delivered_at)
{
    const Fraction ratio = delivered_at.value() / paced_at.value();
    Cadence c{ratio.den(), ratio.num(), {}};
    std::int64_t begin = 0;
    for (std::int64_t n = 1; n <= std::min(c.paced, Cadence::most_shown); ++n) {
        const std::int64_t end = (Fraction(n) * ratio).rounded();
        c.pattern.push_back(static_cast<int>(end - begin));
        begin = end;
    }
    return c;
}

std::string cadence_text(const Cadence& c)
{
    if (c.paced == c.delivered)
        return "the same frames";
    if (c.even())
        return c.delivered / c.paced == 2 ? "every frame twice"
                                          : "every frame " + std::to_string(c.delivered / c.paced) + " times";
    const auto in = [&](std::int64_t n) {
        return std::string(n == 1 ? "one frame" : std::to_string(n) + " frames") + " in " + std::to_string(c.paced) +
               (n == 1 ? " is " : " are ");
    };
    if (c.delivered < c.paced)
        return in(c.paced - c.delivered) + "left out";
    const std::int64_t whole = c.delivered / c.paced, more = c.delivered % c.paced;
    return whole == 1 ? in(more) + "repeated" : in(more) + "shown once more than the others";
}

}
