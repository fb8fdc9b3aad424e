#include "demo/shots.h"

#include <opencv2/imgproc.hpp>

#include <cmath>
#include <random>

namespace frenlo::demo {

namespace {

constexpr int sprout_photos = 150;

Outline box(float x, float y, float w, float h)
{
    return {{x, y}, {x + w, y}, {x + w, y + h}, {x, y + h}};
}

Scene sill()
{
    const cv::Size s = scene_size();
    Scene scene(s, paint(136, 168, 184));
    const cv::Mat1f plaster = fibres(s, 111, 0.06F);
    scene.forEach([&](cv::Vec3f& p, const int* at) { p *= plaster(at[0], at[1]); });
    lay(scene, filled(s, box(1010, 70, 520, 560), 1.2F), paint(176, 160, 136), grain(s, 121, 0.08F),
        {{-8, 12}, 16, 0.4F});
    for (int pane = 0; pane < 4; ++pane)
        lay(scene, filled(s, box(1040 + 238.0F * float(pane % 2), 98 + 262.0F * float(pane / 2), 222, 244), 1.5F),
            paint(250, 240, 208), fibres(s, 131 + std::uint64_t(pane) * 10, 0.03F), {{0, 0}, 4, 0.2F});
    lay(scene, filled(s, box(-20, 800, float(s.width + 40), 420), 1.0F), paint(138, 104, 76), grain(s, 171, 0.16F),
        {{0, -10}, 18, 0.35F});
    // The pot: terracotta, shaded by its roundness.
    const cv::Mat1f clay = fibres(s, 181, 0.07F);
    cv::Mat1f rounded = clay.clone();
    rounded.forEach([](float& v, const int* at) {
        const float u = (float(at[1]) - 700) / 180;
        v *= 0.62F + 0.5F * std::exp(-std::pow(u - 0.45F, 2.0F) * 1.6F);
    });
    lay(scene, filled(s, {{572, 690}, {828, 690}, {792, 930}, {608, 930}}), paint(190, 98, 66), rounded,
        {{-26, 20}, 24, 0.5F});
    lay(scene, filled(s, box(552, 640, 296, 62)), paint(198, 106, 72), rounded, {{-8, 12}, 9, 0.45F});
    Outline soil;
    for (int i = 0; i < 48; ++i)
        soil.emplace_back(700 + 132 * std::cos(float(i) * float(CV_PI) / 24),
                          648 + 17 * std::sin(float(i) * float(CV_PI) / 24));
    lay(scene, filled(s, soil), paint(62, 46, 36), fibres(s, 191, 0.3F), {{0, 2}, 3, 0.3F});
    return scene;
}

Outline leaf(cv::Point2f at, float length, float direction)
{
    Outline o;
    for (int i = 0; i <= 40; ++i) {
        const float t = float(i) / 20 - 1; // out along one edge, back along the other
        const float along = 1 - std::abs(t);
        const float wide = (t < 0 ? 1.0F : -1.0F) * 0.30F * std::sin(float(CV_PI) * std::pow(along, 0.8F));
        const cv::Point2f p(length * along, length * wide);
        o.emplace_back(at.x + p.x * std::cos(direction) - p.y * std::sin(direction),
                       at.y + p.x * std::sin(direction) + p.y * std::cos(direction));
    }
    return o;
}

/// Grows out of the soil, bends to the window, opens two leaves.
void sprout(Scene& scene, int photo)
{
    const cv::Size s = scene_size();
    const float age = float(photo) / float(sprout_photos - 1);
    const float height = 16 + 350 * age * age * (3 - 2 * age);
    const float sway = 5 * std::sin(age * 40);
    const cv::Point2f root(700, 650);
    const cv::Point2f tip(root.x + 60 * age + sway, root.y - height);
    static const cv::Mat1f green = fibres(s, 201, 0.08F);
    const Shadow soft{{-9, 7}, 7, 0.3F};
    const Outline stem = smooth_line({root, {root.x - 14 * age, root.y - height * 0.45F}, tip}, 16);
    lay(scene, filled(s, band(stem, 17, 10)), paint(104, 148, 62), green, soft);
    const float open = std::clamp((age - 0.15F) / 0.85F, 0.0F, 1.0F);
    const float length = 26 + 140 * open;
    const float lift = 1.25F - 0.95F * open;
    lay(scene, filled(s, leaf(tip, length, float(CV_PI) + lift)), paint(122, 170, 70), green, soft);
    lay(scene, filled(s, leaf(tip, length * 1.08F, -lift)), paint(138, 184, 82), green, soft);
}

}

std::vector<Truth> bean_sprout(const std::filesystem::path& folder, const Job& job, const FirstAreThere& there)
{
    const Scene still = sill();
    const auto scene = [&](int i) {
        Scene s = still.clone();
        sprout(s, i);
        light_from(s, {1200, 330}, 1250, 0.3F);
        return s;
    };
    const auto truth = [](int i) {
        std::mt19937 rng(unsigned(7000 + i));
        std::normal_distribution<double> aperture(0, 0.12);
        Truth t;
        t.gain_stops = aperture(rng);
        const double day = double(i) / (sprout_photos - 1);
        t.scene_stops = -0.95 + 1.2 * std::sin(day * CV_PI * 0.85); // the sun comes round and leaves
        return t;
    };
    const auto exposure = [](int i) {
        return Exposure{1'777'963'200'000'000 + i * 60'000'000LL + (i * 37 % 11) * 10'000, 125, 110, 100};
    };
    return take_all(folder, "sprout", {sprout_photos, scene, truth, exposure}, job, there);
}

}
