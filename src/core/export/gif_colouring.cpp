#include "core/export/gif_colouring.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <cstdlib>

namespace frenlo {

namespace {

cv::Rect part_that_changes(const cv::Mat& changes)
{
    const cv::Rect part = cv::boundingRect(changes);
    return part.empty() ? cv::Rect(0, 0, 1, 1) : part;
}

int most_of(const cv::Vec3s& change)
{
    return std::max({std::abs(change[0]), std::abs(change[1]), std::abs(change[2])});
}

}

LoopColouring::LoopColouring(std::vector<cv::Vec3b> palette, bool dither, double stay, bool alpha)
    : palette_(std::move(palette)), nearest_(palette_), dither_(dither), alpha_(alpha), stay_(stay)
{
    distances_.colours = palette_.size();
    distances_.between.reserve(palette_.size() * palette_.size());
    for (const cv::Vec3b& a : palette_)
        for (const cv::Vec3b& b : palette_)
            distances_.between.push_back(colour_distance(a, b));
}

/// Not 0 where the screen will not do: what changed there is more than noise, alone or with its neighbours.
cv::Mat LoopColouring::changes(const cv::Mat& picture) const
{
    cv::Mat change, around;
    cv::subtract(picture, drawn_from_, change, cv::noArray(), CV_16S);
    cv::Mat changes(picture.size(), CV_8U);
    if (stay_ <= 0) {
        for (int y = 0; y < change.rows; ++y)
            for (int x = 0; x < change.cols; ++x)
                changes.at<std::uint8_t>(y, x) = most_of(change.at<cv::Vec3s>(y, x)) > 0 ? 255 : 0;
        return changes;
    }
    // Noise goes when neighbours are added up, what moves does not; and one pixel by itself is noise for longer.
    constexpr double alone = 3, lonely = 4, neighbours = 9;
    const auto by_sum = float(neighbours * stay_), by_one = float(alone * stay_), by_lonely = float(lonely * stay_);
    cv::boxFilter(change, around, -1, {3, 3}, {-1, -1}, false);
    cv::Mat far(picture.size(), CV_8U);
    for (int y = 0; y < change.rows; ++y) {
        const auto *one = change.ptr<cv::Vec3s>(y), *sum = around.ptr<cv::Vec3s>(y);
        const auto* grain = grain_.ptr<float>(y);
        auto *is = changes.ptr<std::uint8_t>(y), *is_far = far.ptr<std::uint8_t>(y);
        for (int x = 0; x < change.cols; ++x) {
            // Whole numbers would all pass a threshold at once: a little more is asked here, a little less there.
            const float by_itself = float(most_of(one[x])) + grain[x];
            is[x] = float(most_of(sum[x])) > by_sum || by_itself > by_one ? 255 : 0;
            is_far[x] = by_itself > by_lonely ? 255 : 0;
        }
    }
    cv::morphologyEx(changes, changes, cv::MORPH_OPEN, cv::getStructuringElement(cv::MORPH_RECT, {2, 2}));
    changes |= far;
    return changes;
}

ColouredPicture LoopColouring::colour(const cv::Mat& picture)
{
    cv::Mat opaque, solid = picture;
    if (picture.channels() == 4) {
        cv::extractChannel(picture, opaque, 3);
        cv::cvtColor(picture, solid, cv::COLOR_BGRA2BGR);
    }
    const bool first = drawn_from_.empty() || alpha_;
    const cv::Mat changes = first ? cv::Mat(solid.size(), CV_8U, cv::Scalar(255)) : this->changes(solid);
    ColouredPicture made;
    made.part = first ? cv::Rect({}, solid.size()) : part_that_changes(changes);
    made.colours.resize(std::size_t(made.part.area()));
    made.may_stay.resize(made.colours.size());
    if (drawn_from_.empty()) {
        drawn_from_ = solid.clone();
        grain_.create(solid.size(), CV_32F);
        cv::RNG random(7);
        random.fill(grain_, cv::RNG::UNIFORM, -0.5, 0.5);
    }
    // What a colour is off by goes to its neighbours that are not drawn yet (Floyd, Steinberg 1976), to and fro.
    constexpr float strength = 0.8F;
    std::vector<cv::Vec3f> row(std::size_t(made.part.width) + 2), below(row.size());
    for (int y = 0; y < made.part.height; ++y) {
        std::fill(below.begin(), below.end(), cv::Vec3f());
        const bool forth = y % 2 == 0;
        const int step = forth ? 1 : -1;
        for (int i = 0; i < made.part.width; ++i) {
            const int x = forth ? i : made.part.width - 1 - i;
            const int px = made.part.x + x, py = made.part.y + y;
            const auto at = std::size_t(y) * std::size_t(made.part.width) + std::size_t(x);
            if (alpha_ && !opaque.empty() && opaque.at<std::uint8_t>(py, px) < 128) {
                made.colours[at] = through();
                continue;
            }
            if (changes.at<std::uint8_t>(py, px) == 0) {
                made.may_stay[at] = 1;
                continue;
            }
            cv::Vec3f wish(solid.at<cv::Vec3b>(py, px));
            if (dither_)
                wish += row[std::size_t(x) + 1];
            made.colours[at] =
                nearest_(cv::Vec3b(cv::saturate_cast<std::uint8_t>(wish[0]), cv::saturate_cast<std::uint8_t>(wish[1]),
                                   cv::saturate_cast<std::uint8_t>(wish[2])));
            if (!dither_)
                continue;
            const cv::Vec3b& got = palette_[made.colours[at]];
            cv::Vec3f off = wish - cv::Vec3f(got);
            for (int c = 0; c < 3; ++c) // what no colour comes near does not spread
                off[c] = std::clamp(off[c], -48.0F, 48.0F) * strength;
            const std::size_t n = std::size_t(x) + 1;
            row[n + std::size_t(step)] += off * (7.0F / 16);
            below[n - std::size_t(step)] += off * (3.0F / 16);
            below[n] += off * (5.0F / 16);
            below[n + std::size_t(step)] += off * (1.0F / 16);
        }
        row.swap(below);
    }
    keep(made, solid);
    return made;
}

void LoopColouring::keep(const ColouredPicture& made, const cv::Mat& picture)
{
    for (int y = 0; y < made.part.height; ++y) {
        auto* drawn_from = drawn_from_.ptr<cv::Vec3b>(made.part.y + y, made.part.x);
        const auto* drawn = picture.ptr<cv::Vec3b>(made.part.y + y, made.part.x);
        const std::size_t line = std::size_t(y) * std::size_t(made.part.width);
        for (int x = 0; x < made.part.width; ++x)
            if (const std::size_t at = line + std::size_t(x); made.may_stay[at] == 0 && made.colours[at] != through())
                drawn_from[x] = drawn[x];
    }
}

LoopScreen::LoopScreen(cv::Size size, std::uint8_t through, bool alpha)
    : shown_(size, std::uint8_t(0)), through_(through), alpha_(alpha)
{
}

void LoopScreen::meet(ColouredPicture& picture) const
{
    if (empty_ || alpha_)
        return;
    for (int y = 0; y < picture.part.height; ++y) {
        const auto* shown = shown_.ptr(picture.part.y + y, picture.part.x);
        const std::size_t line = std::size_t(y) * std::size_t(picture.part.width);
        for (int x = 0; x < picture.part.width; ++x) {
            const std::size_t at = line + std::size_t(x);
            if (picture.may_stay[at] != 0)
                picture.colours[at] = shown[x];
            else if (picture.colours[at] == shown[x])
                picture.may_stay[at] = 1;
        }
    }
}

void LoopScreen::show(const ColouredPicture& picture, const std::vector<std::uint8_t>& colours)
{
    empty_ = false;
    for (int y = 0; y < picture.part.height; ++y) {
        auto* shown = shown_.ptr(picture.part.y + y, picture.part.x);
        const std::size_t line = std::size_t(y) * std::size_t(picture.part.width);
        for (int x = 0; x < picture.part.width; ++x)
            if (const std::uint8_t colour = colours[line + std::size_t(x)]; colour != through_)
                shown[x] = colour;
    }
}

}
