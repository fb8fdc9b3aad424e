#include "core/steps/pace/stumbles.h"

#include "core/base/median.h"
#include "core/steps/pace/movement.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <optional>

namespace frenlo {

namespace {

constexpr int side = 320; ///< pixels across, for steps

cv::Mat eight_bit(const cv::Mat& pixels)
{
    cv::Mat bgr = pixels;
    if (bgr.depth() == CV_16U)
        bgr.convertTo(bgr, CV_8U, 1 / 257.0);
    else if (bgr.depth() == CV_32F)
        bgr.convertTo(bgr, CV_8U, 255);
    if (bgr.channels() == 4)
        cv::cvtColor(bgr, bgr, cv::COLOR_BGRA2BGR);
    return bgr;
}

}

namespace {

/// By how far all of the picture moved, pixels: phase correlation (Kuglin, Hines 1975).
cv::Point whole_shift(const cv::Mat1f& from, const cv::Mat1f& to)
{
    cv::Mat window;
    cv::createHanningWindow(window, from.size(), CV_32F);
    double sure = 0;
    const cv::Point2d by = cv::phaseCorrelate(from, to, window, &sure);
    constexpr double surely = 0.2;
    return sure > surely ? cv::Point(int(std::lround(by.x)), int(std::lround(by.y))) : cv::Point();
}

/// As tall and as bright as the other: flicker is no movement.
cv::Mat1f prepared(const cv::Mat& bgr, cv::Size size)
{
    cv::Mat grey;
    cv::cvtColor(bgr, grey, cv::COLOR_BGR2GRAY);
    cv::resize(grey, grey, size, 0, 0, cv::INTER_AREA);
    cv::Mat1f light;
    grey.convertTo(light, CV_32F);
    cv::Scalar mean, spread;
    cv::meanStdDev(light, mean, spread);
    const double by = 60 / std::max(1.0, spread[0]);
    light.convertTo(light, CV_32F, by, -mean[0] * by);
    return light;
}

/// Where what a block of the first shows lies in the second, against where it lay: nothing where it is not sure, or has
/// not moved.
std::optional<cv::Point2d> block_went(const cv::Mat1f& from, const cv::Mat1f& to, const cv::Rect& block,
                                      cv::Point whole)
{
    const cv::Mat1f part = from(block);
    cv::Scalar mean, spread;
    cv::meanStdDev(part, mean, spread);
    constexpr double flat = 6;
    if (spread[0] < flat)
        return std::nullopt;
    const cv::Rect all({0, 0}, to.size());
    const int far = to.cols / 3;
    const cv::Rect where =
        cv::Rect(block.x + whole.x - far, block.y + whole.y - far, block.width + 2 * far, block.height + 2 * far) & all;
    const cv::Rect stays = (block + whole) & all;
    if (where.width <= block.width || where.height <= block.height || stays.size() != block.size())
        return std::nullopt;
    cv::Mat1f likeness;
    cv::matchTemplate(to(where), part, likeness, cv::TM_CCOEFF_NORMED);
    double best = 0;
    cv::Point at;
    cv::minMaxLoc(likeness, nullptr, &best, nullptr, &at);
    const cv::Point there = stays.tl() - where.tl();
    const double stayed = double(likeness(there));
    constexpr double alike = 0.75, better = 0.15;
    if (best < alike || best < stayed + better)
        return std::nullopt;
    return cv::Point2d(at - there);
}

}

double step_size(const cv::Mat& first, const cv::Mat& second)
{
    CV_Assert(first.size() == second.size() && first.type() == CV_8UC3 && second.type() == CV_8UC3);
    const cv::Size size(side, std::max(1, int(std::lround(double(first.rows) * side / first.cols))));
    constexpr int block = 20, apart = 10;
    if (size.height < 3 * block)
        return 0;
    const cv::Mat1f from = prepared(first, size), to = prepared(second, size);
    const cv::Point whole = whole_shift(from, to);
    // Where most differs, both having been laid over each other.
    struct Place
    {
        cv::Rect block;
        double differs;
    };
    std::vector<Place> places;
    const cv::Rect all({0, 0}, size);
    for (int y = 0; y + block <= size.height; y += apart)
        for (int x = 0; x + block <= size.width; x += apart) {
            const cv::Rect here(x, y, block, block), there = here + whole;
            if ((there & all) == there)
                places.push_back({here, cv::norm(from(here), to(there), cv::NORM_L1) / (block * block)});
        }
    std::sort(places.begin(), places.end(), [](const Place& a, const Place& b) { return a.differs > b.differs; });
    constexpr std::size_t most = 48;
    constexpr double least = 4; // of what noise makes
    std::vector<double> ways;
    for (std::size_t i = 0; i < std::min(places.size(), most) && places[i].differs > least; ++i)
        if (const auto by = block_went(from, to, places[i].block, whole))
            ways.push_back(cv::norm(*by));
    if (ways.empty())
        return 0;
    const auto middle = ways.begin() + std::ptrdiff_t(ways.size() * 3 / 4); // what moves most, but for what is mistaken
    std::nth_element(ways.begin(), middle, ways.end());
    return *middle / side;
}

std::vector<std::size_t> steps_too_large(std::span<const double> steps)
{
    constexpr std::ptrdiff_t about = 4;
    constexpr double times = 2.2, times_beside = 1.5, least = 0.01; // of the width: less is seen as none
    std::vector<std::size_t> found;
    const auto count = std::ptrdiff_t(steps.size());
    for (std::ptrdiff_t i = 0; i < count; ++i) {
        std::vector<float> others;
        double beside = 0;
        for (std::ptrdiff_t k = std::max<std::ptrdiff_t>(0, i - about); k <= std::min(count - 1, i + about); ++k)
            if (k != i) {
                others.push_back(float(steps[std::size_t(k)]));
                if (std::abs(k - i) == 1)
                    beside = std::max(beside, steps[std::size_t(k)]);
            }
        const double step = steps[std::size_t(i)];
        if (others.size() >= 3 && step >= least && step > times * double(upper_median(others)) &&
            step > times_beside * beside)
            found.push_back(std::size_t(i));
    }
    return found;
}

Stumbles find_stumbles(const Shot& shot, const PhotoSource& source, const Job& job)
{
    Stumbles found;
    const auto photos = held_photos(shot);
    cv::Mat last_blocks, last;
    std::vector<PhotoIndex> reached; // by each step
    std::vector<double> steps;
    for (std::size_t i = 0; i < photos.size(); ++i) {
        job.check();
        job.report(double(i + 1) / double(photos.size()), "");
        constexpr int wide = 640;
        const PhotoFile& file = *shot.photos[photos[i].photo.at()].photo;
        if (file.size.empty())
            continue;
        const auto pixels =
            source.pixels(file, {wide, std::max(1, wide * file.size.height / file.size.width)}, Damage::accept);
        if (!pixels)
            continue;
        const cv::Mat blocks = movement_blocks(*pixels);
        if (!last_blocks.empty() && last_blocks.size() == blocks.size() && movement(last_blocks, blocks) < 1) {
            found.still.push_back(photos[i].photo);
            continue;
        }
        cv::Mat now;
        cv::resize(eight_bit(*pixels), now, {wide, std::max(1, wide * pixels->rows / pixels->cols)}, 0, 0,
                   cv::INTER_AREA);
        if (!last.empty() && last.size() == now.size()) {
            reached.push_back(photos[i].photo);
            steps.push_back(step_size(last, now));
        }
        last_blocks = blocks;
        last = now;
    }
    for (const std::size_t at : steps_too_large(steps))
        found.too_far.push_back(reached[at]);
    return found;
}

}
