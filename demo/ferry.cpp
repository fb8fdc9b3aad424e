#include "demo/shots.h"

#include <opencv2/imgproc.hpp>

#include <cmath>
#include <random>

namespace frenlo::demo {

namespace {

constexpr int ferry_photos = 48;
constexpr int knocked = 30; ///< from this photo on the tripod stands elsewhere

Outline wave(float top, float length, float height, float phase)
{
    const cv::Size s = scene_size();
    Outline o;
    for (int x = -20; x <= s.width + 20; x += 4) {
        const float t = std::fmod((float(x) + phase) / length, 1.0F);
        const float scallop = std::sqrt(std::max(0.0F, 1 - std::pow(2 * (t < 0 ? t + 1 : t) - 1, 2.0F)));
        o.emplace_back(float(x), top - height * scallop);
    }
    o.emplace_back(float(s.width + 20), float(s.height + 20));
    o.emplace_back(-20.0F, float(s.height + 20));
    return o;
}

Outline circle(cv::Point2f centre, float radius)
{
    Outline o;
    for (int i = 0; i < 72; ++i)
        o.emplace_back(centre.x + radius * std::cos(float(i) * float(CV_PI) / 36),
                       centre.y + radius * std::sin(float(i) * float(CV_PI) / 36));
    return o;
}

Scene backdrop()
{
    const cv::Size s = scene_size();
    Scene scene(s, paint(228, 204, 160));
    const cv::Mat1f paper = fibres(s, 11, 0.05F);
    scene.forEach([&](cv::Vec3f& p, const int* at) { p *= paper(at[0], at[1]); });
    lay(scene, filled(s, circle({1240, 260}, 104)), paint(247, 236, 208), fibres(s, 21, 0.03F), {{5, 9}, 12, 0.35F});
    lay(scene,
        filled(s, {{-20, 640}, {180, 500}, {420, 390}, {610, 520}, {800, 450}, {1010, 580}, {1120, 700}, {-20, 900}}),
        paint(154, 134, 108), fibres(s, 31, 0.07F), {{6, 8}, 12, 0.4F});
    lay(scene, filled(s, {{640, 700}, {900, 560}, {1160, 455}, {1420, 560}, {1720, 640}, {1720, 900}, {640, 900}}),
        paint(180, 162, 134), fibres(s, 41, 0.06F), {{6, 8}, 12, 0.4F});
    lay(scene, filled(s, wave(676, 92, 26, 0)), paint(102, 156, 172), fibres(s, 51, 0.06F), {{3, -6}, 9, 0.35F});
    return scene;
}

void fore_waves(Scene& scene)
{
    const cv::Size s = scene_size();
    static const cv::Mat1f near_shape = filled(s, wave(812, 118, 30, 40));
    static const cv::Mat1f front_shape = filled(s, wave(980, 150, 36, 90));
    static const cv::Mat1f near_paper = fibres(s, 61, 0.07F);
    static const cv::Mat1f front_paper = fibres(s, 71, 0.08F);
    lay(scene, near_shape, paint(70, 122, 144), near_paper, {{3, -7}, 10, 0.4F});
    lay(scene, front_shape, paint(46, 90, 114), front_paper, {{3, -8}, 12, 0.45F});
}

/// The boat: folded white paper with a red sail, at x, bobbing and leaning a little as a hand sets it down.
void boat(Scene& scene, int photo)
{
    const cv::Size s = scene_size();
    std::mt19937 hand(unsigned(500 + photo));
    std::normal_distribution<float> slip(0, 1);
    const float t = float(photo) / float(ferry_photos - 1);
    const cv::Point2f at(150 + 1330 * t + slip(hand) * 1.6F, 742 + 9 * std::sin(t * 17) + slip(hand) * 0.8F);
    const float lean = (4.5F * std::sin(t * 17 + 1.2F) + slip(hand) * 0.5F) * float(CV_PI) / 180;
    const auto placed = [&](const Outline& o) {
        Outline r;
        for (const auto& p : o)
            r.emplace_back(at.x + p.x * std::cos(lean) - p.y * std::sin(lean),
                           at.y + p.x * std::sin(lean) + p.y * std::cos(lean));
        return r;
    };
    static const cv::Mat1f paper = fibres(s, 81, 0.035F);
    const Shadow cast{{7, 9}, 9, 0.4F};
    lay(scene, filled(s, placed({{-8, -60}, {14, -246}, {22, -244}, {6, -60}})), paint(150, 120, 84), paper, cast);
    lay(scene, filled(s, placed({{-122, -66}, {8, -240}, {2, -66}})), paint(248, 245, 236), paper, cast);
    lay(scene, filled(s, placed({{18, -66}, {22, -222}, {110, -72}})), paint(206, 92, 66), paper, cast);
    lay(scene, filled(s, placed({{-190, -62}, {182, -66}, {128, 40}, {-126, 44}})), paint(244, 240, 230), paper, cast);
    lay(scene, filled(s, placed({{-190, -62}, {-10, -64}, {-62, 43}, {-126, 44}})), paint(226, 220, 206), paper,
        {{2, 2}, 3, 0.15F});
}

}

std::vector<Truth> paper_ferry(const std::filesystem::path& folder, const Job& job, const FirstAreThere& there)
{
    const Scene still = backdrop();
    const auto scene = [&](int i) {
        Scene s = still.clone();
        boat(s, i);
        fore_waves(s);
        light_from(s, {620, 380}, 1350, 0.42F);
        return s;
    };
    const auto truth = [](int i) {
        std::mt19937 rng(unsigned(900 + i));
        std::normal_distribution<double> tremble(0, 1);
        Truth t;
        if (i > 0) {
            t.shift_x = 0.12 * tremble(rng);
            t.shift_y = 0.12 * tremble(rng);
            t.turn_degrees = 0.004 * tremble(rng);
        }
        if (i >= knocked) {
            t.shift_x += 6.4;
            t.shift_y -= 3.7;
            t.turn_degrees += 0.31;
        }
        return t;
    };
    const auto exposure = [](int i) {
        std::mt19937 rng(unsigned(300 + i));
        std::uniform_int_distribution<std::int64_t> fiddling(0, 9'000'000);
        // From 10:42 on 3 May 2026, some 20 seconds to move the boat, a longer stop for the knock.
        const std::int64_t start = 1'777'804'920'000'000;
        return Exposure{start + i * 21'000'000LL + fiddling(rng) + (i >= knocked ? 95'000'000 : 0), 30, 80, 200};
    };
    return take_all(folder, "ferry", {ferry_photos, scene, truth, exposure}, job, there);
}

}
