#pragma once
#include "core/base/problem.h"
#include "core/source/photo_source.h"
#include "core/steps/tone/tone_values.h"

#include <opencv2/core/mat.hpp>

#include <vector>

namespace frenlo {

/// What is looked at while tone is set: of one photo, small, through the pipeline.
struct ToneScopes
{
    static constexpr double lowest = -8, highest = 4; ///< stops around middle grey
    static constexpr int bins = 144;
    std::vector<double>
        histogram;    ///< shares of its pixels by luminance before it is toned, bins from lowest to highest
    double black = 0; ///< share of the pixels of the toned photo of which a channel is black, rounded to 8 bit
    double white = 0; ///< the same of white

    static constexpr int levels = 96, columns = 240;
    cv::Mat1f
        waveform; ///< levels x columns of the toned photo, the lightest on top: how much of a column has the level
};

ToneScopes tone_scopes(const Shot& shot, PhotoIndex photo, const PhotoSource& source);

}
