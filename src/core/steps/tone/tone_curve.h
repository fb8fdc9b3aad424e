#pragma once
#include "core/steps/tone/tone_values.h"

#include <vector>

namespace frenlo {

/// The characteristic curve of a tone, as sensitometry draws it: how much light goes in, how much comes out, both in
/// stops around middle grey (0 is 0.18 of scene white, so that white is at 2.47). Exposure moves it sideways. At middle
/// grey its slope is 2^(contrast / 100); scene white stays where it is by contrast, and far from grey all goes on
/// straight. Toe and shoulder move the ends, each joining smoothly at middle grey: the lower one fully from 6 stops
/// below it on, the upper one at scene white. It rises everywhere: where the settings would turn tones round, the ends
/// give way.
class ToneCurve
{
public:
    explicit ToneCurve(const Tone& tone);
    /// Stops out for stops in.
    [[nodiscard]] double operator()(double stops) const;
    /// Nothing but exposure.
    [[nodiscard]] bool straight() const { return straight_; }

private:
    double exposure_;
    bool straight_;
    std::vector<double> out_; ///< in even steps, exposure aside; straight beyond
};

inline constexpr double white_stops = 2.473931188332412; ///< of scene white: -log2 0.18

}
