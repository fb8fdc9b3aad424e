#include "core/steps/shoot/movement.h"

#include "core/base/median.h"

#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

constexpr int small_width = 640;

double median_of(std::vector<double> values)
{
    if (values.empty())
        return 0;
    return upper_median(std::move(values));
}

/// One sigma of what differs, from its middle half, so that what moved does not count.
double noise_of(const cv::Mat1f& difference)
{
    std::vector<double> sizes;
    for (int y = 0; y < difference.rows; y += 2)
        for (int x = 0; x < difference.cols; x += 2)
            sizes.push_back(std::abs(double(difference(y, x))));
    return median_of(std::move(sizes)) * 1.4826;
}

/// How far most of the picture has gone, pixels of it: what tiles with something to see agree on.
cv::Point2d shift_of_most(const cv::Mat1f& before, const cv::Mat1f& now)
{
    constexpr int across = 6, down = 4;
    const int wide = cv::getOptimalDFTSize(before.cols / across), high = cv::getOptimalDFTSize(before.rows / down);
    std::vector<double> xs, ys;
    cv::Mat window;
    for (int j = 0; j < down; ++j)
        for (int i = 0; i < across; ++i) {
            const cv::Rect tile = cv::Rect(before.cols * i / across, before.rows * j / down, wide, high) &
                                  cv::Rect({0, 0}, before.size());
            cv::Scalar mean, spread;
            cv::meanStdDev(before(tile), mean, spread);
            constexpr double something = 0.015;
            if (spread[0] < something || tile.width < 16 || tile.height < 16)
                continue;
            if (window.size() != tile.size())
                cv::createHanningWindow(window, tile.size(), CV_32F);
            double sure = 0;
            const cv::Point2d s = cv::phaseCorrelate(before(tile) - float(mean[0]),
                                                     now(tile) - float(cv::mean(now(tile))[0]), window, &sure);
            constexpr double sure_enough = 0.1;
            if (sure < sure_enough)
                continue;
            xs.push_back(s.x);
            ys.push_back(s.y);
        }
    constexpr std::size_t enough = 4;
    if (xs.size() < enough)
        return {};
    return {median_of(std::move(xs)), median_of(std::move(ys))};
}

double brightness(const cv::Mat1f& light)
{
    cv::Mat1f linear;
    cv::pow(light, 2.2, linear);
    return cv::mean(linear)[0];
}

/// How far what changed has gone: what nine of ten of its pixels stay below.
double subject_way(const cv::Mat1f& before, const cv::Mat1f& now, const cv::Mat1b& changed)
{
    if (cv::countNonZero(changed) == 0)
        return 0;
    cv::Mat1b a, b;
    before.convertTo(a, CV_8U, 255);
    now.convertTo(b, CV_8U, 255);
    cv::Mat2f flow;
    cv::DISOpticalFlow::create(cv::DISOpticalFlow::PRESET_FAST)->calc(a, b, flow);
    std::vector<double> ways;
    for (int y = 0; y < flow.rows; ++y)
        for (int x = 0; x < flow.cols; ++x)
            if (changed(y, x) != 0)
                ways.push_back(std::hypot(double(flow(y, x)[0]), double(flow(y, x)[1])));
    const auto at = ways.begin() + std::ptrdiff_t(double(ways.size()) * 0.9);
    std::nth_element(ways.begin(), at, ways.end());
    return *at;
}

}

SmallPhoto small_photo(const cv::Mat& pixels)
{
    SmallPhoto s;
    if (pixels.empty())
        return s;
    s.scale = std::max(1.0, double(pixels.cols) / small_width);
    cv::Mat grey;
    if (pixels.channels() == 1)
        grey = pixels;
    else
        cv::cvtColor(pixels, grey, pixels.channels() == 4 ? cv::COLOR_BGRA2GRAY : cv::COLOR_BGR2GRAY);
    const cv::Size size(int(std::lround(pixels.cols / s.scale)), std::max(1, int(std::lround(pixels.rows / s.scale))));
    cv::resize(grey, grey, size, 0, 0, cv::INTER_AREA);
    grey.convertTo(s.light, CV_32F, grey.depth() == CV_16U ? 1.0 / 65535 : 1.0 / 255);
    return s;
}

std::optional<SetMovement> movement_between(const SmallPhoto& before, const SmallPhoto& now)
{
    if (before.empty() || before.light.size() != now.light.size() || before.scale != now.scale)
        return std::nullopt;
    SetMovement m;
    const cv::Point2d shift = shift_of_most(before.light, now.light);
    cv::Mat1f still;
    const cv::Matx23d back(1, 0, shift.x, 0, 1, shift.y);
    cv::warpAffine(now.light, still, back, now.light.size(), cv::INTER_LINEAR | cv::WARP_INVERSE_MAP,
                   cv::BORDER_REPLICATE);
    constexpr double dark = 1e-4;
    const double from = brightness(before.light) + dark, to = brightness(still) + dark;
    m.light = std::log2(to / from);
    still *= std::pow(from / to, 1 / 2.2);

    cv::Mat1f a, b;
    cv::GaussianBlur(before.light, a, {}, 1);
    cv::GaussianBlur(still, b, {}, 1);
    cv::Mat1f difference;
    cv::subtract(b, a, difference);
    constexpr double least = 6.0 / 255;
    const double threshold = std::max(least, 5 * noise_of(difference));
    cv::Mat1b changed;
    cv::compare(cv::abs(difference), threshold, changed, cv::CMP_GT);
    const int rim = 2 + int(std::ceil(std::max(std::abs(shift.x), std::abs(shift.y))));
    cv::rectangle(changed, {0, 0}, {changed.cols - 1, changed.rows - 1}, 0, 2 * rim); // what came in at the border
    cv::morphologyEx(changed, changed, cv::MORPH_OPEN, cv::Mat1b::ones(2, 2));
    m.changed = double(cv::countNonZero(changed)) / double(changed.total());
    m.subject = subject_way(before.light, still, changed) * now.scale;
    m.camera = shift * now.scale;
    return m;
}

MovementNews news_of(const SetMovement& moved, std::span<const SetMovement> earlier, int width)
{
    const double unit = std::max(1.0, double(width) / small_width);
    constexpr double camera_pixels = 0.5, light_stops = 0.1, nothing_share = 0.0002;
    if (cv::norm(moved.camera) > camera_pixels * unit)
        return MovementNews::camera_moved;
    if (std::abs(moved.light) > light_stops)
        return MovementNews::light_changed;
    if (moved.changed < nothing_share)
        return MovementNews::nothing_moved;
    std::vector<double> ways;
    constexpr std::size_t looked_at = 6, enough = 3;
    for (std::size_t i = earlier.size() - std::min(earlier.size(), looked_at); i < earlier.size(); ++i)
        if (earlier[i].changed >= nothing_share)
            ways.push_back(earlier[i].subject);
    constexpr double far = 2.5, pixels = 4;
    if (ways.size() >= enough && moved.subject > std::max(pixels * unit, far * median_of(ways)))
        return MovementNews::too_far;
    return MovementNews::as_before;
}

std::vector<SetMovement> movements_of(const Shot& shot)
{
    std::vector<SetMovement> all;
    for (const ShotPhoto& p : shot.photos)
        if (const auto* taken = p.steps.find<TakenHere>(); taken && taken->moved && !p.aside)
            all.push_back(*taken->moved);
    return all;
}

bool is_black(const cv::Mat& pixels)
{
    const SmallPhoto s = small_photo(pixels);
    constexpr double black = 3.0 / 255, share = 0.001;
    return !s.empty() && cv::countNonZero(s.light > black) < share * double(s.light.total());
}

}
