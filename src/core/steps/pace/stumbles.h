#pragma once
#include "core/base/job.h"
#include "core/project/project.h"
#include "core/source/photo_source.h"

#include <opencv2/core/mat.hpp>

#include <span>
#include <vector>

namespace frenlo {

/// Photos at which a film stumbles.
struct Stumbles
{
    std::vector<PhotoIndex>
        still; ///< nothing moved since the last one that stays: taken twice, or the pose did not move
    std::vector<PhotoIndex> too_far; ///< reached by a step that is too large for those before and after it
};

/// Looks at the photos in the film, in the shot's order. What cannot be read is passed over: Sort lists it. Job: stops
/// it, and is told how far it is.
Stumbles find_stumbles(const Shot& shot, const PhotoSource& source, const Job& job);

/// How far what moves goes between two pictures of the same size, shares of their width: blocks where they differ are
/// looked for by normalised correlation, in a third of the width about them; less what all of the picture does, so that
/// a camera that was moved is no step. 0 where nothing is found again. B G R, 8 bit.
double step_size(const cv::Mat& first, const cv::Mat& second);

/// Steps that are more than twice as large as those about them, and larger than each beside. Own measure, no source.
std::vector<std::size_t> steps_too_large(std::span<const double> steps);

}
