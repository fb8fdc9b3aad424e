#include "core/steps/sort/scene_view.h"

#include "core/base/median.h"
#include "core/source/transfer.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

namespace frenlo {

namespace {

constexpr int width = 96, height = 64, block = 8;
constexpr int most_shift = 5;           ///< of a map half as large
constexpr double one = 40;              ///< of a map's values: a standard deviation
constexpr double least_contrast = 0.12; ///< stops; below it a place is plain, and noise

const std::array<float, 256>& logarithms()
{
    static const std::array<float, 256> table = [] {
        std::array<float, 256> t{};
        constexpr double darkest = 0.004; // below it code values are noise
        for (std::size_t i = 0; i < t.size(); ++i)
            t[i] = float(std::log2(linear_of(double(i) / 255.0) + darkest));
        return t;
    }();
    return table;
}

std::int64_t squares_of(const cv::Mat& a)
{
    std::int64_t sum = 0;
    for (int y = 0; y < a.rows; ++y) {
        const auto* p = a.ptr<std::int8_t>(y);
        int row = 0;
        for (int x = 0; x < a.cols; ++x)
            row += p[x] * p[x];
        sum += row;
    }
    return sum;
}

/// Correlation of two equally large parts; values are about 0 in the mean.
double correlation(const cv::Mat& a, const cv::Mat& b)
{
    std::int64_t ab = 0, aa = 0, bb = 0;
    for (int y = 0; y < a.rows; ++y) {
        const auto* p = a.ptr<std::int8_t>(y);
        const auto* q = b.ptr<std::int8_t>(y);
        int row_ab = 0, row_aa = 0, row_bb = 0;
        for (int x = 0; x < a.cols; ++x) {
            row_ab += p[x] * q[x];
            row_aa += p[x] * p[x];
            row_bb += q[x] * q[x];
        }
        ab += row_ab;
        aa += row_aa;
        bb += row_bb;
    }
    const double floor = 0.02 * one * one * double(a.total()); // plain against plain does not agree
    return double(ab) / std::sqrt((double(aa) + floor) * (double(bb) + floor));
}

struct Overlap
{
    cv::Rect in_a, in_b;
};

Overlap overlap_of(cv::Size size, cv::Point shift)
{
    const cv::Size common(size.width - std::abs(shift.x), size.height - std::abs(shift.y));
    return {{{std::max(0, -shift.x), std::max(0, -shift.y)}, common},
            {{std::max(0, shift.x), std::max(0, shift.y)}, common}};
}

/// OpenCV does not resize signed bytes.
cv::Mat resized(const cv::Mat& map, cv::Size size)
{
    cv::Mat wide, out;
    map.convertTo(wide, CV_16S);
    cv::resize(wide, wide, size, 0, 0, cv::INTER_AREA);
    wide.convertTo(out, CV_8S);
    return out;
}

cv::Mat halved(const cv::Mat& map)
{
    return resized(map, map.size() / 2);
}

/// The best of the shifts around, each way by so many pixels.
std::pair<cv::Point, double> best_shift(const cv::Mat& a, const cv::Mat& b, cv::Point around, int reach)
{
    std::pair<cv::Point, double> best{around, -2};
    for (int dy = -reach; dy <= reach; ++dy)
        for (int dx = -reach; dx <= reach; ++dx) {
            const cv::Point shift = around + cv::Point(dx, dy);
            const auto [in_a, in_b] = overlap_of(a.size(), shift);
            if (const double c = correlation(a(in_a), b(in_b)); c > best.second)
                best = {shift, c};
        }
    return best;
}

double share_of_blocks(const cv::Mat& a, const cv::Mat& b)
{
    constexpr double enough = 0.5, structured = 0.15;
    int seen = 0, agree = 0;
    for (int y = 0; y + block <= a.rows; y += block)
        for (int x = 0; x + block <= a.cols; x += block) {
            const cv::Rect r(x, y, block, block);
            const double limit = structured * one * one * block * block;
            if (double(std::max(squares_of(a(r)), squares_of(b(r)))) < limit)
                continue;
            ++seen;
            agree += correlation(a(r), b(r)) > enough;
        }
    return seen == 0 ? 0 : double(agree) / seen;
}

}

SceneView scene_view_of(const cv::Mat& pixels)
{
    cv::Mat small, grey, slow, power;
    cv::resize(pixels, small, {width, height}, 0, 0, cv::INTER_AREA);
    cv::cvtColor(small, grey, cv::COLOR_BGR2GRAY);
    cv::Mat light(grey.size(), CV_32F);
    for (int y = 0; y < grey.rows; ++y)
        for (int x = 0; x < grey.cols; ++x)
            light.at<float>(y, x) = logarithms()[grey.at<std::uint8_t>(y, x)];
    constexpr double around = 5;
    cv::GaussianBlur(light, light, {}, 0.7);
    cv::GaussianBlur(light, slow, {}, around);
    const cv::Mat local = light - slow;
    cv::GaussianBlur(local.mul(local), power, {}, around);
    SceneView view;
    view.structure = double(cv::countNonZero(power > least_contrast * least_contrast)) / double(power.total());
    cv::sqrt(power + least_contrast * least_contrast, power);
    cv::divide(local, power, slow, one);
    slow.convertTo(view.map, CV_8S);
    view.half = halved(view.map);
    const auto power_of = [&](const cv::Rect& r) {
        return cv::norm(view.map(r), cv::NORM_L2SQR) / (one * one * r.area());
    };
    cv::Mat tiny;
    cv::resize(pixels, tiny, {width / 2, height / 2}, 0, 0, cv::INTER_AREA);
    cv::GaussianBlur(tiny, tiny, {}, 0.8);
    cv::cvtColor(tiny, view.colour, cv::COLOR_BGR2Lab);
    view.middle = power_of({width / 4, height / 4, width / 2, height / 2});
    view.whole = power_of({0, 0, width, height});
    return view;
}

SceneMatch match_scenes(const SceneView& a, const SceneView& b, cv::Point expected)
{
    expected = {std::clamp(expected.x, -width / 3, width / 3), std::clamp(expected.y, -height / 3, height / 3)};
    const auto [coarse, unused] = best_shift(a.half, b.half, expected / 2, most_shift);
    const auto [shift, agreement] = best_shift(a.map, b.map, coarse * 2, 1);
    const auto [in_a, in_b] = overlap_of(a.map.size(), shift);
    return {agreement, share_of_blocks(a.map(in_a), b.map(in_b)), shift};
}

namespace {

double hidden_structure(const cv::Mat& a, const cv::Mat& b)
{
    constexpr double near = 1.5, least = 0.15, plain = 0.05, agrees = 0.3;
    cv::Mat p, q, ab, aa, bb;
    a.convertTo(p, CV_32F, 1 / one);
    b.convertTo(q, CV_32F, 1 / one);
    cv::GaussianBlur(p.mul(q), ab, {}, near);
    cv::GaussianBlur(p.mul(p), aa, {}, near);
    cv::GaussianBlur(q.mul(q), bb, {}, near);
    int structured = 0, hidden = 0;
    for (int y = 0; y < ab.rows; ++y)
        for (int x = 0; x < ab.cols; ++x) {
            const double u = aa.at<float>(y, x), v = bb.at<float>(y, x);
            if (std::max(u, v) < least)
                continue;
            ++structured;
            hidden += ab.at<float>(y, x) < agrees * std::sqrt((u + plain) * (v + plain));
        }
    return structured == 0 ? 0 : double(hidden) / structured;
}

double changed_colour(const cv::Mat& a, const cv::Mat& b)
{
    constexpr double another_light = 22, another_colour = 9; // 8-bit Lab
    std::vector<int> brighter;
    for (int y = 0; y < a.rows; ++y)
        for (int x = 0; x < a.cols; ++x)
            brighter.push_back(a.at<cv::Vec3b>(y, x)[0] - b.at<cv::Vec3b>(y, x)[0]);
    const int all = upper_median(brighter);
    int changed = 0;
    for (int y = 0; y < a.rows; ++y)
        for (int x = 0; x < a.cols; ++x) {
            const cv::Vec3b &u = a.at<cv::Vec3b>(y, x), &v = b.at<cv::Vec3b>(y, x);
            changed += std::abs(brighter[std::size_t(y * a.cols + x)] - all) > another_light ||
                       std::hypot(u[1] - v[1], u[2] - v[2]) > another_colour;
        }
    return double(changed) / double(a.total());
}

}

Hidden hidden_between(const SceneView& a, const SceneView& b)
{
    const cv::Point shift = match_scenes(a, b).shift;
    const auto [in_a, in_b] = overlap_of(a.map.size(), shift);
    const auto [colour_a, colour_b] = overlap_of(a.colour.size(), {shift.x / 2, shift.y / 2});
    return {hidden_structure(a.map(in_a), b.map(in_b)), changed_colour(a.colour(colour_a), b.colour(colour_b))};
}

int quarters_between(const SceneView& a, const SceneView& b)
{
    constexpr double clearly = 0.45;
    int best = 0;
    double most = clearly;
    for (int quarters = 1; quarters <= 3; ++quarters) {
        SceneView turned;
        cv::rotate(b.map, turned.map,
                   quarters == 1   ? cv::ROTATE_90_CLOCKWISE
                   : quarters == 2 ? cv::ROTATE_180
                                   : cv::ROTATE_90_COUNTERCLOCKWISE);
        turned.map = resized(turned.map, a.map.size());
        turned.half = halved(turned.map);
        if (const double agreement = match_scenes(a, turned).agreement; agreement > most) {
            most = agreement;
            best = quarters;
        }
    }
    return best;
}

}
