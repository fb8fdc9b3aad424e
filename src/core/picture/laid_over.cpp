#include "core/picture/laid_over.h"

#include "core/picture/frame_request.h"
#include "core/picture/warp.h"
#include "core/source/transfer.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <optional>

namespace frenlo {

bool operator==(const Matte& a, const Matte& b)
{
    return all_fields(a) && same_fields(a, b);
}
bool operator==(const LaidOver& a, const LaidOver& b)
{
    return all_fields(a) && same_fields(a, b);
}

void blend_onto(float* below, const float* layer, int pixels, Blend blend)
{
    for (int i = 0; i < pixels; ++i, below += 4, layer += 4) {
        const float a = layer[3], b = below[3];
        if (a == 0 && layer[0] == 0 && layer[1] == 0 && layer[2] == 0)
            continue;
        for (int c = 0; c < 3; ++c)
            switch (blend) {
            case Blend::over:
                below[c] = layer[c] + below[c] * (1 - a);
                break;
            case Blend::add:
                below[c] += layer[c];
                break;
            case Blend::multiply:
                below[c] = layer[c] * (1 - b) + below[c] * (1 - a) + layer[c] * below[c];
                break;
            case Blend::screen:
                below[c] = layer[c] + below[c] - layer[c] * below[c];
                break;
            }
        below[3] = a + b * (1 - a);
    }
}

void blend_behind(float* above, const float* layer, int pixels)
{
    for (int i = 0; i < pixels; ++i, above += 4, layer += 4)
        if (const float left = 1 - above[3]; left > 0)
            for (int c = 0; c < 4; ++c)
                above[c] += layer[c] * left;
}

namespace {

/// Pixels of the picture for one of the frame, along its widest side.
double pixels_a_pixel(const Transform& to_frame)
{
    const double across = std::hypot(to_frame(0, 0), to_frame(1, 0)), down = std::hypot(to_frame(0, 1), to_frame(1, 1));
    return 1 / std::max(1e-6, std::min(across, down));
}

/// Where it only moves by whole pixels, by how many.
std::optional<cv::Point> whole_shift(const Transform& t)
{
    constexpr double nothing = 1e-9;
    const Transform rest = t - Transform::eye();
    for (const int i : {0, 1, 3, 4, 6, 7, 8})
        if (std::abs(rest.val[i]) > nothing)
            return std::nullopt;
    const cv::Point by(int(std::lround(t(0, 2))), int(std::lround(t(1, 2))));
    return std::abs(t(0, 2) - by.x) < nothing && std::abs(t(1, 2) - by.y) < nothing ? std::optional(by) : std::nullopt;
}

/// What of the frame, and of this much around it, the picture can reach.
cv::Rect reach(cv::Size picture, const Transform& to_frame, cv::Size frame, int margin)
{
    constexpr double soft = 2; // pixels that its edge is smeared over
    double left = 1e9, top = 1e9, right = -1e9, bottom = -1e9;
    for (const double x : {0.0, double(picture.width)})
        for (const double y : {0.0, double(picture.height)}) {
            const cv::Point2d p = moved(to_frame, {x, y});
            left = std::min(left, p.x - soft);
            right = std::max(right, p.x + soft);
            top = std::min(top, p.y - soft);
            bottom = std::max(bottom, p.y + soft);
        }
    left = std::clamp(std::floor(left), double(-margin), double(frame.width + margin));
    right = std::clamp(std::ceil(right), double(-margin), double(frame.width + margin));
    top = std::clamp(std::floor(top), double(-margin), double(frame.height + margin));
    bottom = std::clamp(std::ceil(bottom), double(-margin), double(frame.height + margin));
    return {cv::Point(int(left), int(top)), cv::Point(int(right), int(bottom))};
}

/// It comes in from its own edge: half of it is there at half of the way.
void soften(Canvas& padded, double pixels)
{
    cv::Mat1f alpha, blurred;
    cv::extractChannel(padded, alpha, 3);
    cv::GaussianBlur(alpha, blurred, {}, pixels / 2, pixels / 2, cv::BORDER_CONSTANT);
    tbb::parallel_for(0, padded.rows, [&](int y) {
        auto* p = padded.ptr<float>(y);
        const float *b = blurred.ptr<float>(y), *a = alpha.ptr<float>(y);
        for (int x = 0; x < padded.cols; ++x, p += 4) {
            const float share = std::clamp(2 * b[x] - 1, 0.0F, 1.0F) / std::max(a[x], 1e-6F);
            for (int c = 0; c < 4; ++c)
                p[c] *= std::min(1.0F, share);
        }
    });
}

CanvasRows rows_of(const Canvas& canvas)
{
    return {canvas.size(),
            [canvas](int y, int begin, int end, float* out) {
                const auto* from = canvas.ptr<float>(y) + std::ptrdiff_t(begin) * 4;
                std::copy_n(from, std::ptrdiff_t(end - begin) * 4, out);
            },
            false,
            {}};
}

/// Lanczos swings over: no alpha below nothing, or above all.
void keep_alpha(Canvas& pixels)
{
    tbb::parallel_for(0, pixels.rows, [&](int y) {
        auto* p = pixels.ptr<float>(y);
        for (int x = 0; x < pixels.cols; ++x, p += 4) {
            if (p[3] <= 0)
                p[0] = p[1] = p[2] = 0;
            p[3] = std::clamp(p[3], 0.0F, 1.0F);
        }
    });
}

}

PlacedLayer placed_layer(const Canvas& picture, const LaidOver& layer, cv::Size frame)
{
    const double shadow_reach = layer.shadow ? (layer.shadow->distance + 3 * layer.shadow->softness) * frame.height : 0;
    PlacedLayer placed;
    placed.where = reach(picture.size(), layer.to_frame, frame, int(std::ceil(shadow_reach)));
    if (placed.where.empty())
        return placed;
    const double dense = pixels_a_pixel(layer.to_frame);
    const int pad = std::max(4, int(std::ceil(3.5 * dense)));
    const auto shift = layer.soft_edge > 0 ? std::nullopt : whole_shift(layer.to_frame);
    if (shift) {
        placed.where &= cv::Rect(*shift, picture.size());
        picture(placed.where - *shift).copyTo(placed.pixels);
    } else {
        Canvas padded;
        cv::copyMakeBorder(picture, padded, pad, pad, pad, pad, cv::BORDER_CONSTANT, cv::Scalar::all(0));
        if (layer.soft_edge > 0)
            soften(padded, layer.soft_edge * frame.height * dense);
        const Transform to_centres{1, 0, pad - 0.5, 0, 1, pad - 0.5, 0, 0, 1};
        const Transform to_corners{1, 0, placed.where.x + 0.5, 0, 1, placed.where.y + 0.5, 0, 0, 1};
        placed.pixels = warped(rows_of(padded), to_centres * layer.to_frame.inv() * to_corners, placed.where.size());
        keep_alpha(placed.pixels);
    }
    if (layer.opacity < 1)
        placed.pixels *= layer.opacity;
    return placed;
}

PlacedLayer shadow_of(const PlacedLayer& layer, const LayerShadow& shadow, cv::Size frame)
{
    const double turn = shadow.degrees * std::numbers::pi / 180, far = shadow.distance * frame.height;
    const cv::Point2d by(far * std::cos(turn), far * std::sin(turn));
    const double sigma = shadow.softness * frame.height;
    const int around = int(std::ceil(3 * sigma)) + 2;
    PlacedLayer fallen;
    fallen.where =
        cv::Rect(layer.where.x + int(std::floor(by.x)) - around, layer.where.y + int(std::floor(by.y)) - around,
                 layer.where.width + 2 * around, layer.where.height + 2 * around) &
        cv::Rect({-around, -around}, frame + cv::Size(2 * around, 2 * around));
    if (fallen.where.empty() || layer.where.empty())
        return {};
    cv::Mat1f alpha, dark;
    cv::extractChannel(layer.pixels, alpha, 3);
    const cv::Point2d there = cv::Point2d(layer.where.tl()) + by - cv::Point2d(fallen.where.tl());
    cv::warpAffine(alpha, dark, cv::Matx23d(1, 0, there.x, 0, 1, there.y), fallen.where.size(), cv::INTER_LINEAR,
                   cv::BORDER_CONSTANT, 0);
    if (sigma > 0.1)
        cv::GaussianBlur(dark, dark, {}, sigma, sigma, cv::BORDER_CONSTANT);
    const auto& linear = linear_table<std::uint8_t>();
    const cv::Vec4f colour(linear[shadow.colour[2]], linear[shadow.colour[1]], linear[shadow.colour[0]], 1);
    fallen.pixels.create(fallen.where.size());
    for (int y = 0; y < dark.rows; ++y)
        for (int x = 0; x < dark.cols; ++x)
            fallen.pixels(y, x) = colour * (dark(y, x) * float(shadow.strength));
    return fallen;
}

cv::Mat1f matte_shares(const PlacedLayer& by, const Matte& matte, cv::Size frame)
{
    cv::Mat1f shares(frame, matte.inverse ? 1.0F : 0.0F);
    const cv::Rect seen = by.where & cv::Rect({0, 0}, frame);
    for (int y = seen.y; y < seen.br().y; ++y)
        for (int x = seen.x; x < seen.br().x; ++x) {
            const cv::Vec4f& p = by.pixels(y - by.where.y, x - by.where.x);
            const float light = matte.brightness ? 0.0722F * p[0] + 0.7152F * p[1] + 0.2126F * p[2] : p[3];
            const float share = std::clamp(light, 0.0F, 1.0F);
            shares(y, x) = matte.inverse ? 1 - share : share;
        }
    return shares;
}

}
