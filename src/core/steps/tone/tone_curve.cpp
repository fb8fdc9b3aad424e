#include "core/steps/tone/tone_curve.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

constexpr double lowest = -16, highest = 8, per_stop = 64;
constexpr double least_slope = 0.02; ///< so that tones that differ stay apart
constexpr double toe_stops = 6;      ///< below middle grey, where the lower end is

double eased(double x)
{
    const double t = std::clamp(x, 0.0, 1.0);
    return t * t * (3 - 2 * t);
}

/// What a slope of 2 at middle grey adds: as much as the light itself near grey, nothing at white, no more than wide at
/// the lower end. Its slope is above -0.8 and at most 1.
double bend(double stops)
{
    constexpr double wide = 4;
    if (stops < 0)
        return wide * std::tanh(stops / wide);
    const double t = stops / white_stops, open = std::max(0.0, 1 - t * t);
    return stops * open * open;
}

double out_of(const Tone& tone, double stops)
{
    return stops + (std::exp2(tone.contrast / 100) - 1) * bend(stops) + tone.toe * eased(-stops / toe_stops) +
           tone.shoulder * eased(stops / white_stops);
}

}

ToneCurve::ToneCurve(const Tone& tone)
    : exposure_(tone.exposure), straight_(tone.contrast == 0 && tone.toe == 0 && tone.shoulder == 0)
{
    if (straight_)
        return;
    constexpr auto count = std::size_t((highest - lowest) * per_stop) + 1, grey = std::size_t(-lowest * per_stop);
    for (std::size_t i = 0; i < count; ++i)
        out_.push_back(out_of(tone, lowest + double(i) / per_stop));
    for (std::size_t i = grey + 1; i < count; ++i)
        out_[i] = std::max(out_[i], out_[i - 1] + least_slope / per_stop);
    for (std::size_t i = grey; i-- > 0;)
        out_[i] = std::min(out_[i], out_[i + 1] - least_slope / per_stop);
}

double ToneCurve::operator()(double stops) const
{
    const double in = stops + exposure_;
    if (straight_)
        return in;
    const double at = (in - lowest) * per_stop;
    if (at <= 0)
        return out_.front() + in - lowest;
    const auto i = std::size_t(at);
    if (i + 1 >= out_.size())
        return out_.back() + in - highest;
    return out_[i] + (out_[i + 1] - out_[i]) * (at - double(i));
}

}
