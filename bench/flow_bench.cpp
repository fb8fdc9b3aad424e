// In-betweens against the known middle of films, side by side with FFmpeg's motion interpolation; speed courses.
#include "bench/measure.h"
#include "core/base/picture_memory.h"
#include "core/picture/canvas.h"
#include "core/picture/in_between.h"
#include "core/steps/pace/flow_edits.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <iostream>
#include <random>
#include <vector>

namespace frenlo::bench {

namespace fs = std::filesystem;
using test::TempFolder;

namespace {

std::string name(int number)
{
    std::array<char, 16> text{};
    std::snprintf(text.data(), text.size(), "%04d.png", number);
    return text.data();
}

struct Psnr
{
    double sum = 0;
    int pictures = 0;

    void add(const cv::Mat& made, const cv::Mat& truth, const cv::Mat1b& moves)
    {
        if (made.size() != truth.size())
            return;
        cv::Mat d;
        cv::absdiff(made, truth, d);
        d.convertTo(d, CV_64F);
        const cv::Scalar m = cv::mean(d.mul(d), moves);
        sum += 10 * std::log10(255 * 255 / std::max(1e-9, (m[0] + m[1] + m[2]) / 3));
        ++pictures;
    }
    [[nodiscard]] double mean() const { return sum / std::max(1, pictures); }
};

void against_known_middles(const fs::path& film)
{
    constexpr int frames = 33; // every second one is left out, made again, and compared
    TempFolder t;
    for (const char* folder : {"all", "half", "theirs"})
        fs::create_directories(t / folder);
    test::output_of("ffmpeg -v error -y -ss 2 -i " + test::quoted(film.native()) + " -frames:v " +
                    std::to_string(frames) + " " + test::quoted((t / "all" / "%04d.png").native()));
    for (int i = 1; i <= frames; i += 2)
        if (fs::exists(t / "all" / name(i)))
            fs::copy_file(t / "all" / name(i), t / "half" / name((i + 1) / 2));
    const std::string their_way = "ffmpeg -v error -y -framerate 25 -i " +
                                  test::quoted((t / "half" / "%04d.png").native()) +
                                  " -vf minterpolate=fps=50:mi_mode=mci ";
    test::output_of(their_way + test::quoted((t / "theirs" / "%04d.png").native()));
    // Reading the photos and working out what lies between; how pictures are written is neither's.
    const double theirs_s = seconds([&] { test::output_of(their_way + "-f null -"); });
    Psnr ours, theirs, mix;
    double ours_s = 0;
    Canvas one;
    for (int i = 1; i + 2 <= frames && fs::exists(t / "all" / name(i + 2)); i += 2) {
        cv::Mat made;
        ours_s += seconds([&] {
            if (i == 1)
                one = to_canvas(cv::imread((t / "all" / name(i)).string()));
            const Canvas other = to_canvas(cv::imread((t / "all" / name(i + 2)).string()));
            made = quantised(in_between(one, other, dense_motion(one, other), 0.5).picture);
            one = other;
        });
        const cv::Mat before = cv::imread((t / "all" / name(i)).string()),
                      truth = cv::imread((t / "all" / name(i + 1)).string()),
                      after = cv::imread((t / "all" / name(i + 2)).string());
        cv::Mat difference, grey;
        cv::absdiff(before, after, difference);
        cv::cvtColor(difference, grey, cv::COLOR_BGR2GRAY);
        cv::Mat1b moves = grey > 12;
        cv::dilate(moves, moves, cv::Mat::ones(5, 5, CV_8U));
        constexpr int least = 500;
        if (cv::countNonZero(moves) < least)
            continue;
        ours.add(made, truth, moves);
        mix.add(quantised(Canvas(to_canvas(before) * 0.5 + to_canvas(after) * 0.5)), truth, moves);
        theirs.add(cv::imread((t / "theirs" / name(i + 1)).string()), truth, moves);
    }
    std::cout << "  " << ours.pictures << " in-betweens of a film: " << ours.mean() << " dB, a mix " << mix.mean()
              << " (aim: 1.5 more), FFmpeg's mci " << theirs.mean() << " (aim: at least as much); time against it "
              << ours_s / theirs_s << " (aim: at most 0.5)\n";
}

/// A thing that is cut out of one real picture goes over another one, which stands still: how far the middle is from
/// the truth within 8 pixels of the thing's edge, against elsewhere on the thing.
void halo(const fs::path& folder)
{
    const cv::Mat ground = cv::imread((folder / "aloeL.jpg").string()),
                  thing = cv::imread((folder / "baboon.jpg").string());
    if (ground.empty() || thing.empty())
        return;
    std::mt19937 random(31);
    const auto between = [&](double from, double to) {
        return std::uniform_real_distribution<double>(from, to)(random);
    };
    const cv::Size size(640, 400);
    std::vector<double> ratios;
    double at_edge = 0, elsewhere = 0;
    constexpr int things = 20;
    for (int i = 0; i < things; ++i) {
        const cv::Mat behind = ground(
            cv::Rect({int(between(0, ground.cols - size.width)), int(between(0, ground.rows - size.height))}, size));
        // An outline that is no circle, at four times the size so that its edge is soft by a pixel.
        std::vector<cv::Point> outline;
        const double radius = between(45, 80), lobes = std::floor(between(2, 6)), phase = between(0, 6);
        constexpr int fine = 4, corners = 180;
        for (int k = 0; k < corners; ++k) {
            const double a = 2 * CV_PI * k / corners, r = radius * (1 + 0.2 * std::sin(lobes * a + phase));
            outline.emplace_back(int(fine * (256 + r * std::cos(a))), int(fine * (256 + r * std::sin(a))));
        }
        cv::Mat1b cut(512 * fine, 512 * fine, std::uint8_t(0));
        cv::fillPoly(cut, std::vector<std::vector<cv::Point>>{outline}, 255);
        cv::Mat mask;
        cv::resize(cut, mask, {512, 512}, 0, 0, cv::INTER_AREA);
        const cv::Point2d way(between(12, 45) * (between(-1, 1) > 0 ? 1 : -1), between(-15, 15)),
            middle(between(200, 440), between(130, 270));
        const auto drawn = [&](double t, cv::Mat* shape) {
            const cv::Matx23d to(1, 0, middle.x + (t - 0.5) * way.x - 256, 0, 1, middle.y + (t - 0.5) * way.y - 256);
            cv::Mat moved, where;
            cv::warpAffine(thing, moved, to, size, cv::INTER_CUBIC, cv::BORDER_REFLECT);
            cv::warpAffine(mask, where, to, size, cv::INTER_LINEAR);
            Canvas light = to_canvas(behind), over = to_canvas(moved);
            for (int y = 0; y < size.height; ++y)
                for (int x = 0; x < size.width; ++x)
                    light(y, x) += (over(y, x) - light(y, x)) * (where.at<std::uint8_t>(y, x) / 255.0F);
            if (shape != nullptr)
                *shape = where;
            return light;
        };
        cv::Mat shape;
        const Canvas before = to_canvas(quantised(drawn(0, nullptr))), after = to_canvas(quantised(drawn(1, nullptr)));
        const cv::Mat truth = quantised(drawn(0.5, &shape)),
                      made = quantised(in_between(before, after, dense_motion(before, after), 0.5).picture);
        cv::Mat d, squares, inside = shape > 127, in_distance, out_distance;
        cv::absdiff(made, truth, d);
        d.convertTo(d, CV_32F);
        cv::transform(d.mul(d), squares, cv::Matx13f(1 / 3.0F, 1 / 3.0F, 1 / 3.0F));
        cv::distanceTransform(inside, in_distance, cv::DIST_L2, 5);
        cv::distanceTransform(~inside, out_distance, cv::DIST_L2, 5);
        constexpr double near = 8;
        const cv::Mat edge = (in_distance <= near) & (out_distance <= near), rest = in_distance > near;
        const double e = std::sqrt(cv::mean(squares, edge)[0]), r = std::sqrt(cv::mean(squares, rest)[0]);
        at_edge += e / things;
        elsewhere += r / things;
        ratios.push_back(e / std::max(1e-3, r));
    }
    std::sort(ratios.begin(), ratios.end());
    std::cout << "  a thing over what stands still: error (RMS of 255) within 8 px of its edge " << at_edge
              << ", elsewhere on it " << elsewhere << "; ratio, median of " << things << ": "
              << ratios[ratios.size() / 2] << " (aim: at most 1.3)\n";
}

}

void bench_flow()
{
    std::cout << "in-betweens over moving pixels, against the frames that were left out\n";
    static PictureMemory memory(std::size_t(96) << 20); // as the command line works
    cv::Mat::setDefaultAllocator(&memory);
    for (const auto& e : fs::directory_iterator("/usr/share/doc/opencv-doc/examples/data"))
        if (e.path().extension() == ".avi")
            against_known_middles(e.path());
    halo("/usr/share/doc/opencv-doc/examples/data");
    cv::Mat::setDefaultAllocator(cv::Mat::getStdAllocator());
    auto shot = std::make_shared<Shot>();
    for (int i = 0; i < 1000; ++i) {
        auto photo = std::make_shared<PhotoFile>();
        photo->size = {60, 40};
        shot->photos.push_back({.photo = std::move(photo), .hold = Frames{2}});
    }
    give_ids(*shot);
    Project p;
    p.shots = {shot};
    for (const int at : {0, 400, 999})
        p = set_speed_at(p, ShotIndex(0), PhotoIndex(at), 100);
    const PhotoId point = p.shot(ShotIndex(0)).photos[400].id;
    constexpr int pulls = 50;
    const double pulled = seconds([&] {
        for (int i = 0; i < pulls; ++i) {
            p = move_speed_point(p, ShotIndex(0), point, PhotoIndex(400), 50 + i);
            (void)display_timeline(p, p.shot(ShotIndex(0)));
        }
    });
    std::cout << "  a speed course over 1,000 photos pulled, until the page is laid out: " << 1000 * pulled / pulls
              << " ms (aim: 30 with painting)\n";
}

}
