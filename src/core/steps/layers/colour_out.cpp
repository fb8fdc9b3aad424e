#include "core/steps/layers/colour_out.h"

#include "core/source/transfer.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <memory>
#include <vector>

namespace frenlo {

namespace {

using Colour = cv::Vec3f; ///< B, G, R, linear

Colour light_of(const Backdrop& colour)
{
    const auto& linear = linear_table<std::uint8_t>();
    return {linear[colour[2]], linear[colour[1]], linear[colour[0]]};
}

/// How strongly a colour shows the backdrop's tint; of the backdrop itself well above 0, of greys 0.
class Tint
{
public:
    explicit Tint(const Colour& backdrop)
    {
        const float b = backdrop[0], g = backdrop[1], r = backdrop[2];
        strongest_ = g >= b && g >= r ? 1 : b >= r ? 0 : 2;
        const float next = std::max(backdrop[(strongest_ + 1) % 3], backdrop[(strongest_ + 2) % 3]);
        strong_ = backdrop[strongest_] > 0.004F && next < 0.75F * backdrop[strongest_];
    }
    [[nodiscard]] bool strong() const { return strong_; }
    [[nodiscard]] int strongest() const { return strongest_; }
    [[nodiscard]] float next(const float* c) const
    {
        return std::max(c[(strongest_ + 1) % 3], c[(strongest_ + 2) % 3]);
    }
    [[nodiscard]] float of(const float* c) const { return c[strongest_] - next(c); }

private:
    int strongest_ = 1;
    bool strong_ = true;
};

/// Distance of colours where tints say nothing, by how bright they look.
float distance(const float* a, const float* b)
{
    float sum = 0;
    for (int c = 0; c < 3; ++c) {
        const float d = std::sqrt(std::max(0.0F, a[c])) - std::sqrt(std::max(0.0F, b[c]));
        sum += d * d;
    }
    return std::sqrt(sum);
}
constexpr float far_apart = 0.35F; ///< in that distance a colour is surely another one

/// How much figure a pixel seems to have. map: B, G, R of the backdrop, and the figure's tint.
float seeming(const Tint& tint, const float* c, const float* map)
{
    if (!tint.strong())
        return std::clamp(distance(c, map) / far_apart, 0.0F, 1.0F);
    const float backdrop = tint.of(map);
    if (backdrop <= 1e-5F)
        return 1;
    return std::clamp((backdrop - tint.of(c)) / std::max(1e-5F, backdrop - map[3]), 0.0F, 1.0F);
}

constexpr int terms = 10; ///< of a polynomial of third degree in x and y
std::array<double, terms> powers(double x, double y)
{
    return {1, x, y, x * x, x * y, y * y, x * x * x, x * x * y, x * y * y, y * y * y};
}

/// The backdrop everywhere in the picture, as a smooth surface through what of it can be seen.
void fit_backdrop(const Canvas& small, const Tint& tint, const Colour& picked, Canvas& map)
{
    const auto at = [&](int i, int n) { return n > 1 ? 2.0 * i / (n - 1) - 1 : 0; };
    for (int round = 0; round < 3; ++round) {
        cv::Matx<double, terms, terms> normal = cv::Matx<double, terms, terms>::zeros();
        cv::Matx<double, terms, 3> right = cv::Matx<double, terms, 3>::zeros();
        double count = 0;
        for (int y = 0; y < small.rows; ++y)
            for (int x = 0; x < small.cols; ++x) {
                const float* c = small(y, x).val;
                const float like = round == 0 ? 0.4F : 0.15F;
                if (seeming(tint, c, map(y, x).val) > like)
                    continue;
                const auto p = powers(at(x, small.cols), at(y, small.rows));
                for (int i = 0; i < terms; ++i) {
                    for (int j = 0; j < terms; ++j)
                        normal(i, j) += p[std::size_t(i)] * p[std::size_t(j)];
                    for (int k = 0; k < 3; ++k)
                        right(i, k) += p[std::size_t(i)] * double(c[k]);
                }
                ++count;
            }
        if (count < 4 * terms) // too little to be seen: as picked
            return;
        for (int i = 0; i < terms; ++i) // towards no bends where little is seen
            normal(i, i) += (i < 3 ? 1e-6 : 1e-3) * count;
        const cv::Matx<double, terms, 3> solved = normal.solve(right, cv::DECOMP_CHOLESKY);
        for (int y = 0; y < small.rows; ++y)
            for (int x = 0; x < small.cols; ++x) {
                const auto p = powers(at(x, small.cols), at(y, small.rows));
                for (int k = 0; k < 3; ++k) {
                    double v = 0;
                    for (int i = 0; i < terms; ++i)
                        v += p[std::size_t(i)] * solved(i, k);
                    map(y, x)[k] = std::clamp(float(v), picked[k] * 0.2F, picked[k] * 5 + 0.02F);
                }
            }
    }
}

/// The tint of what is surely figure, carried on to all places near by. What is mixed with the backdrop looks like
/// figure of a weaker tint: once the stronger tint near by is known it is told apart, and left out.
void spread_figure(const Canvas& small, const Tint& tint, Canvas& map)
{
    const double sigma = std::max(small.cols, small.rows) / 40.0;
    for (int round = 0; round < 5; ++round) {
        cv::Mat1f sum(small.size(), 0.0F), weight(small.size(), 0.0F);
        for (int y = 0; y < small.rows; ++y)
            for (int x = 0; x < small.cols; ++x) {
                const float* c = small(y, x).val;
                if (seeming(tint, c, map(y, x).val) < 0.96F)
                    continue;
                sum(y, x) = std::min(0.0F, tint.of(c));
                weight(y, x) = 1;
            }
        cv::Mat1f near_sum, near_weight;
        cv::GaussianBlur(sum, near_sum, {}, sigma);
        cv::GaussianBlur(weight, near_weight, {}, sigma);
        for (int y = 0; y < small.rows; ++y)
            for (int x = 0; x < small.cols; ++x) {
                constexpr float some = 0.004F; // of weight: towards grey where no figure is near
                map(y, x)[3] = near_sum(y, x) / (near_weight(y, x) + some);
            }
    }
}

/// The backdrop, and the figure's tint, of each place of the photo, small.
Canvas map_of(const ColourOut& out, const StagePhoto& photo, const Tint& tint)
{
    const Colour picked = light_of(out.colour);
    const Canvas small = photo.overview ? photo.overview() : Canvas();
    Canvas map(small.empty() ? cv::Size(1, 1) : small.size(), cv::Vec4f(picked[0], picked[1], picked[2], 0));
    if (small.empty())
        return map;
    fit_backdrop(small, tint, picked, map);
    if (tint.strong())
        spread_figure(small, tint, map);
    return map;
}

cv::Vec4f looked_up(const Canvas& map, double x, double y)
{
    x = std::clamp(x, 0.0, map.cols - 1.0);
    y = std::clamp(y, 0.0, map.rows - 1.0);
    const int left = std::min(int(x), std::max(0, map.cols - 2)), top = std::min(int(y), std::max(0, map.rows - 2));
    const int right = std::min(left + 1, map.cols - 1), bottom = std::min(top + 1, map.rows - 1);
    const auto across = float(x - left), down = float(y - top);
    return (map(top, left) * (1 - across) + map(top, right) * across) * (1 - down) +
           (map(bottom, left) * (1 - across) + map(bottom, right) * across) * down;
}

/// What seems to be nearly nothing is nothing, what seems to be nearly all is all; in between it stays.
float with_knees(float a, float low, float solid)
{
    if (a < 2 * low)
        return std::max(0.0F, 2 * (a - low));
    if (const float left = 1 - a; left < 2 * solid)
        return 1 - std::max(0.0F, 2 * (left - solid));
    return a;
}

}

RowStage row_stage(const ColourOut& out, const StagePhoto& photo)
{
    const Tint tint(light_of(out.colour));
    auto map = std::make_shared<const Canvas>(map_of(out, photo, tint));
    const auto low = float(out.tolerance), solid = float(out.solid);
    return [map, tint, low, solid, spill = float(out.spill), to_photo = photo.to_photo](int y, int begin, int end,
                                                                                        float* p) {
        const cv::Vec3d row = to_photo * cv::Vec3d(0, y, 1); // affine
        for (int x = begin; x < end; ++x, p += 4) {
            if (p[3] <= 0)
                continue;
            const cv::Vec4f here = looked_up(*map, (row[0] + to_photo(0, 0) * x) * map->cols - 0.5,
                                             (row[1] + to_photo(1, 0) * x) * map->rows - 0.5);
            const float a = with_knees(seeming(tint, p, here.val), low, solid);
            if (a <= 0) {
                p[0] = p[1] = p[2] = p[3] = 0;
                continue;
            }
            for (int c = 0; c < 3; ++c)
                p[c] = std::max(0.0F, p[c] - (1 - a) * here[c]);
            if (tint.strong()) {
                float& most = p[tint.strongest()];
                most = std::min(most, most + spill * (tint.next(p) - most));
            }
            p[3] *= a;
        }
    };
}

}
