#include "core/base/ease.h"

#include <algorithm>

namespace frenlo {

double eased(double time, Ease ease, double strength)
{
    const double u = std::clamp(time, 0.0, 1.0);
    double e = u;
    switch (ease) {
    case Ease::none:
        break;
    case Ease::in:
        e = u * u * (3 - u) / 2;
        break;
    case Ease::out:
        e = 1 - (1 - u) * (1 - u) * (2 + u) / 2;
        break;
    case Ease::both:
        e = u * u * u * (10 + u * (6 * u - 15));
        break;
    }
    return u + strength * (e - u);
}

}
