#pragma once
#include "core/project/operation.h"
#include "core/steps/tone/tone_values.h"
#include "core/steps/tone/white_balance.h"

#include <optional>
#include <string>
#include <vector>

namespace frenlo {

/// Measures how bright each photo in the film is before it is toned. The edit leaves photos out that were turned or
/// exchanged meanwhile.
Operation measure_tone_light(const Project& project, ShotIndex shot);

/// The flicker of the film without tone and with it, stops.
struct ToneFigures
{
    double flicker = 0;
    double toned = 0;
};
/// Measures them. Throws Stopped.
ToneFigures tone_figures(const Shot& shot, const PhotoSource& source, const Job& job);

/// Photos in the film whose light is not known, or was measured before flicker was removed in another way.
std::int64_t tone_light_missing(const Shot& shot);

/// The light that makes this place of a photo grey; pixel: of the photo as seen, full size. Looks at five by five
/// pixels as flicker removal leaves them. Throws Failure where the photo cannot be read, or the place is black.
WhitePoint white_at(const Shot& shot, PhotoIndex photo, cv::Point pixel, const PhotoSource& source);

/// A photo that is worth being toned, since others lie between it and the next one.
struct AnchorSuggestion
{
    PhotoIndex photo;
    enum class Why
    {
        first,
        last,
        darkest,
        brightest
    } why;
};
/// The first and the last photo in the film and, where their light is known, the darkest and the brightest, in order;
/// each photo once.
std::vector<AnchorSuggestion> suggested_anchors(const Shot& shot);

}
