#pragma once
#include "core/base/job.h"
#include "core/picture/picture.h"

namespace frenlo {

/// The photos of a shot's film, small and lined up: what strips are made of.
struct StripPhotos
{
    std::vector<PhotoIndex> at;
    std::vector<cv::Mat> small; ///< B G R, 8 bit, all of one size; grey where a photo cannot be read
    [[nodiscard]] bool empty() const { return at.empty(); }
};
StripPhotos strip_photos(const Shot& shot, const PhotoSource& source, const Job& job);

/// One column of each photo, side by side in the film's order, so that flicker is seen as stripes. column: where, 0 to
/// 1 of the width.
cv::Mat strip_of(const Shot& shot, const StripPhotos& photos, double column, Corrections corrections);

}
