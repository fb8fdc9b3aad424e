#pragma once
#include "core/steps/shoot/shoot_values.h"

namespace frenlo::app {

/// What is seen with the live picture.
struct LiveLook
{
    enum class Over
    {
        nothing,
        seen_through, ///< the photos before
        difference,   ///< from the last photo
        blink,        ///< with the last photo
        last_photo    ///< in place of the live picture
    };
    Over over = Over::seen_through;
    int photos = 1;        ///< that are seen through, the newest first
    double strength = 0.5; ///< of the newest
    bool grid = false;
    bool rulers = false;
    bool clipped = false;
    bool histogram = false;
    bool magnifier = false;
    Fraction mask{0};           ///< what is outside of this shape is darkened; 0: nothing is
    bool reference_over = true; ///< over the live picture; else under it, the live picture seen through
    double reference_strength = 0.4;

    static constexpr int most_photos = 3;
    bool operator==(const LiveLook&) const = default;
};

}
