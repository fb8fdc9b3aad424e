#include "core/source/lens.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

constexpr int rings = 64; ///< at which a lens is looked at

/// Of the distance from the middle, by the square of that.
double factor(const Lens& lens, double r2)
{
    return 1 + (lens.k1 + lens.k2 * r2) * r2;
}

/// How much further out lies what is a little further out.
double slope(const Lens& lens, double r2)
{
    return 1 + (3 * lens.k1 + 5 * lens.k2 * r2) * r2;
}

}

bool can_be_taken_out(const Lens& lens)
{
    constexpr double least = 0.05;
    for (int i = 0; i <= rings; ++i)
        if (const double r = double(i) / rings; !(slope(lens, r * r) >= least))
            return false;
    return true;
}

LensMap::LensMap(const Lens& lens, cv::Size2d photo)
    : lens_(lens), middle_((photo.width - 1) / 2, (photo.height - 1) / 2),
      unit_(std::max(1e-9, std::hypot(photo.width, photo.height) / 2)), smallest_(0)
{
    // All points of the photo's edge stay inside of it.
    const double nearest = std::min(photo.width, photo.height) / 2 / unit_;
    for (int i = 0; i <= rings; ++i) {
        const double r = nearest + (1 - nearest) * i / rings;
        smallest_ = std::max(smallest_, factor(lens_, r * r));
    }
    smallest_ = std::max(smallest_, 1e-3);
}

cv::Point2d LensMap::taken(cv::Point2d straight) const
{
    const cv::Point2d p = (straight - middle_) / unit_;
    return middle_ + (straight - middle_) * (factor(lens_, p.dot(p)) / smallest_);
}

cv::Point2d LensMap::straight(cv::Point2d taken) const
{
    const double wanted = cv::norm(taken - middle_) / unit_ * smallest_;
    if (wanted < 1e-12)
        return taken;
    double r = wanted;
    for (int i = 0; i < 30; ++i) { // Newton's steps, kept where the lens is known
        const double off = r * factor(lens_, r * r) - wanted;
        const double next = std::clamp(r - off / std::max(0.02, slope(lens_, r * r)), 0.0, 4.0);
        if (std::abs(next - r) < 1e-12)
            break;
        r = next;
    }
    return middle_ + (taken - middle_) * (r / (wanted / smallest_));
}

double LensMap::covered(cv::Point2d straight) const
{
    const cv::Point2d p = (straight - middle_) / unit_;
    const double r2 = p.dot(p);
    return std::max(factor(lens_, r2), slope(lens_, r2)) / smallest_;
}

}
