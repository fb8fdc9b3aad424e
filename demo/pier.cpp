#include "demo/shots.h"

#include <opencv2/imgproc.hpp>

#include <cmath>
#include <random>

namespace frenlo::demo {

namespace {

constexpr int pier_photos = 90;
constexpr float stride = 21;       ///< pixels that the pier passes by from photo to photo
constexpr float far_share = 0.35F; ///< how much slower the other shore passes by

cv::Size long_size(float share)
{
    const cv::Size s = scene_size();
    return {s.width + static_cast<int>(std::ceil(pier_photos * stride * share)) + 8, s.height};
}

Scene far_shore()
{
    const cv::Size s = long_size(far_share);
    Scene scene(s);
    const cv::Vec3f high = paint(150, 178, 196), low = paint(232, 220, 196);
    scene.forEach([&](cv::Vec3f& p, const int* at) {
        const float t = std::min(1.0F, float(at[0]) / 520);
        p = high * (1 - t) + low * t;
    });
    const cv::Mat1f paper = fibres(s, 311, 0.04F);
    scene.forEach([&](cv::Vec3f& p, const int* at) { p *= paper(at[0], at[1]); });
    std::mt19937 rng(77);
    std::uniform_real_distribution<float> rise(20, 120);
    Outline hills;
    for (int x = -60; x <= s.width + 60; x += 130)
        hills.emplace_back(float(x), 530 - rise(rng));
    Outline shape = smooth_line(hills, 10);
    shape.emplace_back(float(s.width + 60), 700.0F);
    shape.emplace_back(-60.0F, 700.0F);
    lay(scene, filled(s, shape), paint(134, 140, 122), fibres(s, 321, 0.08F), {{4, 6}, 10, 0.3F});
    for (int x = 40; x < s.width - 120; x += 90) { // sheds and houses on the other side
        const float w = 34 + rise(rng) * 0.3F, h = 26 + rise(rng) * 0.35F, left = float(x) + rise(rng) * 0.2F;
        const int tint = static_cast<int>(rise(rng));
        lay(scene,
            filled(s,
                   {{left, 566}, {left, 566 - h}, {left + w / 2, 566 - h - 18}, {left + w, 566 - h}, {left + w, 566}}),
            paint(170 + tint / 3, 120 + tint / 2, 96 + tint / 2), fibres(s, 331 + std::uint64_t(x), 0.05F),
            {{3, 4}, 4, 0.35F});
    }
    lay(scene, filled(s, {{-20, 566}, {float(s.width + 20), 566}, {float(s.width + 20), 1300}, {-20, 1300}}),
        paint(74, 118, 136), grain(s, 341, 0.16F), {{0, -3}, 5, 0.2F});
    return scene;
}

struct Near
{
    Scene colour;
    cv::Mat1f cover; ///< 1 where the pier hides the shore
};

Near near_pier()
{
    const cv::Size s = long_size(1);
    Near n{Scene(s, cv::Vec3f(0, 0, 0)), cv::Mat1f(s, 0.0F)};
    const auto add = [&](const Outline& o, cv::Vec3f colour, const cv::Mat1f& texture, const Shadow& shadow) {
        const cv::Mat1f shape = filled(s, o);
        lay(n.colour, shape, colour, texture, shadow);
        n.cover = cv::max(n.cover, shape);
    };
    const cv::Mat1f wood = grain(s, 411, 0.2F);
    const cv::Mat1f upright = fibres(s, 421, 0.12F);
    const auto right = float(s.width + 20);
    add({{-20, 820}, {right, 820}, {right, 1300}, {-20, 1300}}, paint(146, 118, 90), wood, {});
    for (int y = 866; y < s.height; y += 44 + (y - 866) / 4) // gaps between the planks
        add({{-20, float(y)}, {right, float(y)}, {right, float(y) + 4}, {-20, float(y) + 4}}, paint(70, 54, 42), wood,
            {{0, 3}, 3, 0.3F});
    std::mt19937 rng(99);
    std::uniform_real_distribution<float> vary(0, 1);
    for (float x = 60; x < right; x += 210) {
        const float w = 30 + 8 * vary(rng), top = 600 + 14 * vary(rng);
        add({{x, top}, {x + w, top - 4}, {x + w + 3, 860}, {x - 3, 860}}, paint(112, 88, 66), upright,
            {{10, 8}, 9, 0.45F});
        Outline rope;
        for (int k = 0; k <= 12; ++k) {
            const float t = float(k) / 12;
            rope.emplace_back(x + w / 2 + 210 * t, top + 46 + 46 * 4 * t * (1 - t));
        }
        add(band(rope, 8, 8), paint(206, 186, 146), upright, {{4, 5}, 5, 0.35F});
    }
    for (float x = 330; x < right; x += 640 + 160 * vary(rng)) { // lamps
        add({{x, 240}, {x + 12, 240}, {x + 16, 850}, {x - 4, 850}}, paint(58, 66, 70), upright, {{8, 6}, 8, 0.4F});
        add({{x - 26, 250}, {x - 16, 186}, {x + 28, 186}, {x + 38, 250}}, paint(196, 80, 54), upright,
            {{6, 6}, 6, 0.4F});
        add({{x - 14, 250}, {x + 26, 250}, {x + 18, 276}, {x - 6, 276}}, paint(252, 238, 196), upright,
            {{0, 3}, 5, 0.2F});
    }
    for (float x = 560; x < right; x += 520 + 300 * vary(rng)) { // crates
        const float w = 90 + 60 * vary(rng), h = 70 + 50 * vary(rng), y = 900 + 60 * vary(rng);
        add({{x, y - h}, {x + w, y - h - 3}, {x + w, y}, {x, y + 2}}, paint(178, 142, 92), wood, {{14, 10}, 14, 0.5F});
        add({{x, y - h}, {x + 14, y - h}, {x + w, y - 14}, {x + w, y}, {x + w - 14, y}, {x, y - h + 14}},
            paint(150, 116, 72), wood, {{2, 3}, 3, 0.3F});
    }
    return n;
}

cv::Mat slice(const cv::Mat& wide, float x)
{
    cv::Mat part;
    const cv::Size s = scene_size();
    cv::getRectSubPix(wide, s, {x + float(s.width - 1) / 2, float(s.height - 1) / 2}, part);
    return part;
}

}

std::vector<Truth> pier_walk(const std::filesystem::path& folder, const Job& job, const FirstAreThere& there)
{
    const Scene far = far_shore();
    const Near near = near_pier();
    const auto scene = [&](int i) {
        Scene s = slice(far, float(i) * stride * far_share);
        const cv::Mat3f colour = slice(near.colour, float(i) * stride);
        const cv::Mat1f cover = slice(near.cover, float(i) * stride);
        s.forEach([&](cv::Vec3f& p, const int* at) {
            const float c = cover(at[0], at[1]);
            p = p * (1 - c) + colour(at[0], at[1]) * c;
        });
        light_from(s, {900, 420}, 1500, 0.5F);
        return s;
    };
    const auto truth = [](int i) {
        std::mt19937 rng(unsigned(5000 + i));
        std::normal_distribution<double> shake(0, 1);
        Truth t; // relative to the walked path, not to the first photo: the pier itself passes by
        t.shift_x = 5 * shake(rng);
        t.shift_y = 5 * shake(rng) + 6 * std::sin(i * 0.9); // steps
        t.turn_degrees = 0.35 * shake(rng);
        t.lens = wide_lens;
        return t;
    };
    const auto exposure = [](int i) {
        return Exposure{1'778'061'600'000'000 + i * 1'400'000LL + (i * 53 % 17) * 20'000, 250, 56, 200};
    };
    return take_all(folder, "pier", {pier_photos, scene, truth, exposure}, job, there);
}

}
