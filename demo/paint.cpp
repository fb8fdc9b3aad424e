#include "demo/paint.h"

#include <opencv2/imgproc.hpp>

#include <cmath>

namespace frenlo::demo {

namespace {

cv::Mat1f noise(cv::Size size, std::uint64_t seed, double blur_x, double blur_y)
{
    cv::RNG rng(seed);
    // Slow noise is made small and enlarged: the same look for a fraction of the time.
    const int step = std::max(1, static_cast<int>(std::min(blur_x, blur_y) / 4));
    cv::Mat1f n(cv::Size(size.width / step + 2, size.height / step + 2));
    rng.fill(n, cv::RNG::NORMAL, 0, 1);
    cv::GaussianBlur(n, n, {}, blur_x / step, blur_y / step, cv::BORDER_REFLECT);
    if (step > 1)
        cv::resize(n, n, size, 0, 0, cv::INTER_CUBIC);
    cv::Mat1f cut = n(cv::Rect({0, 0}, size)).clone();
    cv::Scalar mean, sigma;
    cv::meanStdDev(cut, mean, sigma);
    return (cut - mean[0]) / std::max(sigma[0], 1e-6);
}

cv::Rect grown(const cv::Rect& r, float by, cv::Size within)
{
    if (r.empty())
        return {};
    const int n = static_cast<int>(std::ceil(by));
    return cv::Rect(r.x - n, r.y - n, r.width + 2 * n, r.height + 2 * n) & cv::Rect({0, 0}, within);
}

cv::Mat1f around_one(const cv::Mat1f& n, float strength)
{
    cv::Mat1f t;
    cv::exp(n * strength, t);
    return t;
}

}

cv::Vec3f paint(int red, int green, int blue)
{
    const auto linear = [](int code) { // IEC 61966-2-1
        const float v = static_cast<float>(code) / 255.0F;
        return v <= 0.04045F ? v / 12.92F : std::pow((v + 0.055F) / 1.055F, 2.4F);
    };
    return {linear(blue), linear(green), linear(red)};
}

cv::Mat1f fibres(cv::Size size, std::uint64_t seed, float strength)
{
    return around_one(noise(size, seed, 0.8, 0.8) * 0.45 + noise(size, seed + 1, 4, 1.5) * 0.4 +
                          noise(size, seed + 2, 9, 9) * 0.5 + noise(size, seed + 3, 70, 70) * 0.6,
                      strength);
}

cv::Mat1f grain(cv::Size size, std::uint64_t seed, float strength)
{
    return around_one(noise(size, seed, 60, 1.2) * 0.8 + noise(size, seed + 1, 14, 0.8) * 0.4 +
                          noise(size, seed + 2, 120, 14) * 0.8,
                      strength);
}

cv::Mat1f filled(cv::Size size, const Outline& outline, float blur)
{
    constexpr int shift = 4;
    std::vector<cv::Point> points;
    for (const auto& p : outline)
        points.emplace_back(static_cast<int>(std::lround(p.x * (1 << shift))),
                            static_cast<int>(std::lround(p.y * (1 << shift))));
    cv::Mat1b mask(size, std::uint8_t(0));
    cv::fillPoly(mask, std::vector<std::vector<cv::Point>>{points}, 255, cv::LINE_AA, shift);
    cv::Mat1f soft(size, 0.0F);
    const cv::Rect touched = grown(cv::boundingRect(mask), 3 * blur + 2, size);
    if (touched.empty())
        return soft;
    cv::Mat1f part;
    mask(touched).convertTo(part, CV_32F, 1.0 / 255);
    cv::GaussianBlur(part, soft(touched), {}, blur);
    return soft;
}

void lay(Scene& scene, const cv::Mat1f& shape, cv::Vec3f colour, const cv::Mat1f& texture, const Shadow& shadow)
{
    // Only what the paper and its shadow touch is worked on: a boat is a small part of a bay.
    const float reach = std::max(std::abs(shadow.offset.x), std::abs(shadow.offset.y)) + 3 * shadow.blur + 2;
    const cv::Rect touched = grown(cv::boundingRect(cv::Mat1b(shape > 0)), reach, shape.size());
    if (touched.empty())
        return;
    const cv::Mat1f here = shape(touched);
    cv::Mat1f dark;
    const cv::Matx23f move(1, 0, shadow.offset.x, 0, 1, shadow.offset.y);
    cv::warpAffine(here, dark, move, here.size(), cv::INTER_LINEAR, cv::BORDER_REPLICATE);
    cv::GaussianBlur(dark, dark, {}, shadow.blur);
    const cv::Mat1f paper = texture(touched);
    cv::Mat3f(scene(touched)).forEach([&](cv::Vec3f& p, const int* at) {
        const float inside = here(at[0], at[1]);
        const float kept = 1 - shadow.strength * dark(at[0], at[1]);
        p = p * (kept * (1 - inside)) + colour * (paper(at[0], at[1]) * inside);
    });
}

void light_from(Scene& scene, cv::Point2f centre, float radius, float rest)
{
    const auto fall = [&](int count, float middle) { // of both sides apart: their product is that of the distance
        std::vector<float> along;
        for (int i = 0; i < count; ++i) {
            const float d = (float(i) - middle) / radius;
            along.push_back(std::exp(-d * d));
        }
        return along;
    };
    const std::vector<float> across = fall(scene.cols, centre.x), down = fall(scene.rows, centre.y);
    scene.forEach([&](cv::Vec3f& p, const int* at) {
        p *= rest + (1 - rest) * across[std::size_t(at[1])] * down[std::size_t(at[0])];
    });
}

Outline smooth_line(const Outline& points, int steps)
{
    Outline line;
    const auto at = [&](std::ptrdiff_t i) {
        return points[static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(i, 0, std::ptrdiff_t(points.size()) - 1))];
    };
    for (std::ptrdiff_t i = 0; i + 1 < std::ptrdiff_t(points.size()); ++i)
        for (int s = 0; s < steps; ++s) { // Catmull-Rom
            const float t = float(s) / float(steps);
            const cv::Point2f a = at(i - 1), b = at(i), c = at(i + 1), d = at(i + 2);
            line.push_back(0.5F * (2 * b + t * (c - a) + t * t * (2 * a - 5 * b + 4 * c - d) +
                                   t * t * t * (3 * b - a - 3 * c + d)));
        }
    line.push_back(points.back());
    return line;
}

Outline band(const Outline& line, float width_begin, float width_end)
{
    Outline left, right;
    for (std::size_t i = 0; i < line.size(); ++i) {
        const cv::Point2f along = line[std::min(i + 1, line.size() - 1)] - line[i > 0 ? i - 1 : 0];
        const float length = std::max(1e-3F, std::hypot(along.x, along.y));
        const float t = float(i) / float(std::max<std::size_t>(1, line.size() - 1));
        const cv::Point2f side =
            cv::Point2f(-along.y, along.x) * ((width_begin + (width_end - width_begin) * t) / 2 / length);
        left.push_back(line[i] + side);
        right.push_back(line[i] - side);
    }
    left.insert(left.end(), right.rbegin(), right.rend());
    return left;
}

}
