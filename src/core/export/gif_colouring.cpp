#include "core/export/gif_colouring.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <limits>

namespace frenlo {

namespace {

constexpr int blue_weight = 2, green_weight = 3, red_weight = 2;

float squared(const cv::Vec3b& a, const cv::Vec3b& b)
{
    constexpr float all = blue_weight + green_weight + red_weight;
    const float db = float(a[0]) - float(b[0]), dg = float(a[1]) - float(b[1]), dr = float(a[2]) - float(b[2]);
    return (blue_weight * db * db + green_weight * dg * dg + red_weight * dr * dr) / all;
}

cv::Rect part_that_changes(const cv::Mat& stays)
{
    cv::Mat changes = stays == 0;
    const cv::Rect part = cv::boundingRect(changes);
    return part.empty() ? cv::Rect(0, 0, 1, 1) : part;
}

}

float colour_distance(const cv::Vec3b& a, const cv::Vec3b& b)
{
    return std::sqrt(squared(a, b));
}

LoopColouring::LoopColouring(std::vector<cv::Vec3b> palette, bool dither, double stay, bool alpha,
                             std::vector<std::int16_t> nearest)
    : palette_(std::move(palette)), dither_(dither), alpha_(alpha), stay_(stay), known_(std::move(nearest))
{
    known_.resize(std::size_t(1) << 24U, -1);
    for (const cv::Vec3b& c : palette_) {
        blues_.push_back(c[0]);
        greens_.push_back(c[1]);
        reds_.push_back(c[2]);
    }
    distances_.colours = palette_.size();
    distances_.between.reserve(palette_.size() * palette_.size());
    for (const cv::Vec3b& a : palette_)
        for (const cv::Vec3b& b : palette_)
            distances_.between.push_back(colour_distance(a, b));
}

std::uint8_t LoopColouring::nearest(const cv::Vec3b& colour)
{
    std::int16_t& known = known_[std::size_t(colour[0]) << 16U | std::size_t(colour[1]) << 8U | colour[2]];
    if (known >= 0)
        return std::uint8_t(known);
    // Squared distances in whole numbers with the place behind them: the least of these is the nearest, of equals the
    // first, and all are worked out side by side.
    std::uint32_t least = std::numeric_limits<std::uint32_t>::max();
    const int blue = colour[0], green = colour[1], red = colour[2];
    for (std::size_t i = 0; i < blues_.size(); ++i) {
        const int db = blues_[i] - blue, dg = greens_[i] - green, dr = reds_[i] - red;
        const auto far = std::uint32_t(blue_weight * db * db + green_weight * dg * dg + red_weight * dr * dr);
        least = std::min(least, far << 8U | std::uint32_t(i));
    }
    const std::size_t best = least & 0xffU;
    known = std::int16_t(best);
    return std::uint8_t(best);
}

/// Not 0 where the screen will do: what changed there is no more than noise, alone and with its neighbours.
cv::Mat LoopColouring::stays(const cv::Mat& picture) const
{
    cv::Mat change;
    cv::subtract(picture, drawn_from_, change, cv::noArray(), CV_32F);
    const auto most_of = [](const cv::Mat& signed_change) {
        cv::Mat size = cv::abs(signed_change), channels[3], most;
        cv::split(size, channels);
        cv::max(channels[0], channels[1], most);
        cv::max(most, channels[2], most);
        return most;
    };
    if (stay_ <= 0)
        return most_of(change) == 0;
    // Noise goes when neighbours are added up, what moves does not; and one pixel by itself is noise for longer.
    constexpr double alone = 3, lonely = 4;
    cv::Mat around;
    cv::blur(change, around, {3, 3});
    // Whole numbers would all pass a threshold at once: a little more is asked here, a little less there.
    const cv::Mat by_itself = most_of(change) + grain_;
    cv::Mat changes = (most_of(around) > stay_) | (by_itself > alone * stay_), together;
    cv::morphologyEx(changes, together, cv::MORPH_OPEN, cv::getStructuringElement(cv::MORPH_RECT, {2, 2}));
    changes = together | (by_itself > lonely * stay_);
    return changes == 0;
}

ColouredPicture LoopColouring::colour(const cv::Mat& picture)
{
    cv::Mat opaque, solid = picture;
    if (picture.channels() == 4) {
        cv::extractChannel(picture, opaque, 3);
        cv::cvtColor(picture, solid, cv::COLOR_BGRA2BGR);
    }
    const bool first = shown_.empty() || alpha_;
    const cv::Mat stays = first ? cv::Mat(solid.size(), CV_8U, cv::Scalar(0)) : this->stays(solid);
    ColouredPicture made;
    made.part = first ? cv::Rect({}, solid.size()) : part_that_changes(stays);
    made.colours.resize(std::size_t(made.part.area()));
    made.may_stay.resize(made.colours.size());
    if (shown_.empty()) {
        shown_ = cv::Mat(solid.size(), CV_8U, cv::Scalar(0));
        drawn_from_ = solid.clone();
        grain_.create(solid.size(), CV_32F);
        cv::RNG random(7);
        random.fill(grain_, cv::RNG::UNIFORM, -0.5, 0.5);
    }
    picture_ = solid;
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
            if (stays.at<std::uint8_t>(py, px) != 0) {
                made.colours[at] = shown_.at<std::uint8_t>(py, px);
                made.may_stay[at] = 1;
                continue;
            }
            cv::Vec3f wish(solid.at<cv::Vec3b>(py, px));
            if (dither_)
                wish += row[std::size_t(x) + 1];
            made.colours[at] =
                nearest(cv::Vec3b(cv::saturate_cast<std::uint8_t>(wish[0]), cv::saturate_cast<std::uint8_t>(wish[1]),
                                  cv::saturate_cast<std::uint8_t>(wish[2])));
            if (!first && made.colours[at] == shown_.at<std::uint8_t>(py, px))
                made.may_stay[at] = 1;
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
    return made;
}

void LoopColouring::written(const ColouredPicture& picture, const std::vector<std::uint8_t>& colours)
{
    for (int y = 0; y < picture.part.height; ++y)
        for (int x = 0; x < picture.part.width; ++x) {
            const auto at = std::size_t(y) * std::size_t(picture.part.width) + std::size_t(x);
            if (colours[at] == through())
                continue;
            const cv::Point p = picture.part.tl() + cv::Point(x, y);
            shown_.at<std::uint8_t>(p) = colours[at];
            if (picture.may_stay[at] == 0)
                drawn_from_.at<cv::Vec3b>(p) = picture_.at<cv::Vec3b>(p);
        }
}

}
