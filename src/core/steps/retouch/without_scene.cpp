#include "core/base/transform.h"
#include "core/steps/retouch/lasting.h"

#include <opencv2/calib3d.hpp>
#include <opencv2/features2d.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <string>

namespace frenlo {

namespace {

/// Of a photo: the points by which others of the same scene are found (ORB, Rublee et al. 2011).
struct Landmarks
{
    std::vector<cv::Point2f> points; ///< pixels of the photo
    cv::Mat descriptions;
};

Landmarks landmarks_of(const cv::Mat1b& grey)
{
    constexpr double most_side = 1200;
    constexpr int most = 800;
    const double down = std::max(1.0, std::max(grey.cols, grey.rows) / most_side);
    cv::Mat small;
    cv::resize(grey, small, {}, 1 / down, 1 / down, cv::INTER_AREA);
    std::vector<cv::KeyPoint> keys;
    Landmarks found;
    cv::ORB::create(most)->detectAndCompute(small, {}, keys, found.descriptions);
    for (const cv::KeyPoint& key : keys)
        found.points.emplace_back((key.pt + cv::Point2f(0.5F, 0.5F)) * float(down) - cv::Point2f(0.5F, 0.5F));
    return found;
}

/// From the pixels of one photo to those of another of the same scene. None: they don't show the same.
std::optional<Transform> movement(const Landmarks& from, const Landmarks& to, double exact)
{
    constexpr std::size_t fewest = 20;
    if (from.points.size() < fewest || to.points.size() < fewest)
        return std::nullopt;
    std::vector<cv::DMatch> pairs;
    cv::BFMatcher(cv::NORM_HAMMING, true).match(from.descriptions, to.descriptions, pairs);
    if (pairs.size() < fewest)
        return std::nullopt;
    std::vector<cv::Point2f> a, b;
    for (const cv::DMatch& pair : pairs) {
        a.push_back(from.points[std::size_t(pair.queryIdx)]);
        b.push_back(to.points[std::size_t(pair.trainIdx)]);
    }
    cv::Mat1b agree;
    const cv::Mat found = cv::findHomography(a, b, cv::RANSAC, exact, agree);
    constexpr double fewest_agree = 0.2;
    if (found.empty() || cv::countNonZero(agree) < std::max(15.0, fewest_agree * double(pairs.size())))
        return std::nullopt;
    return Transform(found);
}

/// How far the scene moved, pixels: there where it moved least.
double moved_by(const Transform& t, cv::Size size)
{
    double least = std::numeric_limits<double>::infinity();
    for (const double u : {0.25, 0.5, 0.75})
        for (const double v : {0.25, 0.5, 0.75}) {
            const cv::Point2d at(u * size.width, v * size.height);
            least = std::min(least, cv::norm(moved(t, at) - at));
        }
    return least;
}

constexpr std::size_t most_others = 4; ///< with which a photo is compared

/// Less what is larger than this (pixels): light that changed, vignetting.
void take_surround(cv::Mat1f& difference, int wide)
{
    const double coarser = std::max(1.0, wide / 8.0);
    cv::Mat1f known(difference.size());
    cv::Mat1f values = difference.clone();
    for (int y = 0; y < values.rows; ++y)
        for (int x = 0; x < values.cols; ++x) {
            const bool is = !std::isnan(values(y, x));
            known(y, x) = is ? 1.0F : 0.0F;
            if (!is)
                values(y, x) = 0;
        }
    cv::Mat1f low, low_known;
    cv::resize(values, low, {}, 1 / coarser, 1 / coarser, cv::INTER_AREA);
    cv::resize(known, low_known, low.size(), 0, 0, cv::INTER_AREA);
    const int side = int(std::lround(wide / coarser)) * 2 + 1;
    for (cv::Mat1f* m : {&low, &low_known})
        for (int i = 0; i < 2; ++i)
            cv::blur(*m, *m, {side, side}, {-1, -1}, cv::BORDER_CONSTANT);
    low /= cv::max(low_known, 1e-6F);
    cv::resize(low, low, difference.size(), 0, 0, cv::INTER_LINEAR);
    difference -= low;
}

class Scene
{
public:
    Scene(const std::vector<cv::Mat1b>& greys, int wide, const Job& job)
        : greys_(greys), size_(greys.front().size()), wide_(wide), exact_(std::max(1.5, size_.width / 700.0))
    {
        for (const cv::Mat1b& grey : greys) {
            job.check();
            landmarks_.push_back(landmarks_of(grey));
        }
        way_.emplace_back(Transform::eye());
        for (std::size_t i = 1; i < greys.size(); ++i) {
            job.check();
            way_.push_back(movement(landmarks_[i - 1], landmarks_[i], exact_));
        }
    }

    /// The least difference of this photo from those that show the same place; empty where none does.
    [[nodiscard]] cv::Mat1f difference(std::size_t photo) const
    {
        const cv::Mat1f here = stops_of(greys_[photo]);
        std::vector<cv::Mat1f> differ;
        for (const std::size_t other : others(photo)) {
            const auto to_other = movement(landmarks_[photo], landmarks_[other], exact_);
            if (!to_other || moved_by(*to_other, size_) < wide_)
                continue;
            cv::Mat1f there = stops_of(greys_[other]), seen;
            cv::warpPerspective(there, seen, *to_other, size_, cv::INTER_LINEAR | cv::WARP_INVERSE_MAP,
                                cv::BORDER_CONSTANT, std::numeric_limits<double>::quiet_NaN());
            seen = here - seen;
            take_surround(seen, wide_);
            there = here - there;
            take_surround(there, wide_);
            if (explains(seen, there))
                differ.push_back(seen);
        }
        return differ.empty() ? cv::Mat1f() : middle(differ);
    }

private:
    /// Photos that may show the same, moved by enough, the nearest first.
    [[nodiscard]] std::vector<std::size_t> others(std::size_t photo) const
    {
        constexpr double far = 0.5; // of the width: beyond too little is seen in both
        std::vector<std::pair<double, std::size_t>> found;
        const auto look = [&](std::size_t other, const Transform& t) {
            if (const double by = moved_by(t, size_); by >= 0.9 * wide_ && by < far * size_.width)
                found.emplace_back(by, other);
        };
        Transform t = Transform::eye();
        for (std::size_t i = photo + 1; i < greys_.size() && way_[i]; ++i)
            look(i, t = *way_[i] * t);
        t = Transform::eye();
        for (std::size_t i = photo; i > 0 && way_[i]; --i)
            look(i - 1, t = way_[i]->inv() * t);
        std::sort(found.begin(), found.end());
        std::vector<std::size_t> nearest;
        for (const auto& [by, other] : found)
            if (nearest.size() < most_others)
                nearest.push_back(other);
        return nearest;
    }
    /// Whether the movement explains what differs: else something large moved by itself, and the scene is still there.
    static bool explains(const cv::Mat1f& moved, const cv::Mat1f& unmoved)
    {
        constexpr double less = 0.6;
        double with = 0, without = 0;
        for (int y = 0; y < moved.rows; y += 3)
            for (int x = 0; x < moved.cols; x += 3)
                if (const float v = moved(y, x); !std::isnan(v)) {
                    constexpr float most = 0.7F;
                    with += std::min(std::abs(v), most);
                    without += std::min(std::abs(unmoved(y, x)), most);
                }
        return with < less * without;
    }
    /// What most agree on: a thing that moves by itself, or a speck of another photo, is in one of them. Of two the one
    /// nearer to none, and none where they differ in direction.
    static cv::Mat1f middle(const std::vector<cv::Mat1f>& differ)
    {
        cv::Mat1f result(differ.front().size());
        std::array<float, most_others> v{};
        for (int y = 0; y < result.rows; ++y)
            for (int x = 0; x < result.cols; ++x) {
                std::size_t n = 0;
                for (const cv::Mat1f& d : differ) { // in order of size
                    float value = d(y, x);
                    if (std::isnan(value))
                        continue;
                    for (std::size_t i = 0; i < n; ++i)
                        if (value < v[i])
                            std::swap(value, v[i]);
                    v[n++] = value;
                }
                float& r = result(y, x);
                if (n == 0)
                    r = std::numeric_limits<float>::quiet_NaN();
                else if (n == 2)
                    r = v[0] * v[1] <= 0 ? 0 : v[0] > 0 ? v[0] : v[1];
                else
                    r = n % 2 == 1 ? v[n / 2] : (v[n / 2 - 1] + v[n / 2]) / 2;
            }
        return result;
    }

    const std::vector<cv::Mat1b>& greys_;
    cv::Size size_;
    int wide_;
    double exact_; ///< pixels
    std::vector<Landmarks> landmarks_;
    std::vector<std::optional<Transform>> way_; ///< from the photo before
};

}

std::optional<Differences> from_scene(const std::vector<cv::Mat1b>& greys, int wide, const Job& job)
{
    if (greys.size() < 4)
        return std::nullopt;
    const Scene scene(greys, wide, job);

    Differences found;
    for (std::size_t i = 0; i < greys.size(); ++i) {
        job.check();
        job.report(double(i) / double(greys.size()),
                   "scene of photo " + std::to_string(i + 1) + " of " + std::to_string(greys.size()));
        if (const cv::Mat1f d = scene.difference(i); !d.empty())
            found.photos.push_back(in_steps(d));
    }
    if (found.photos.size() < std::max<std::size_t>(4, greys.size() / 2))
        return std::nullopt;
    return found;
}

}
