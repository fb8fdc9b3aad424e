// Retouch on real photographs (Debian's opencv-doc) with planted specks: which are found, and what is found beside
// them.
#include "bench/measure.h"
#include "core/base/problem.h"
#include "core/steps/retouch/retouch_operations.h"
#include "core/steps/retouch/retouch_values.h"

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <iostream>
#include <map>
#include <memory>
#include <random>
#include <vector>

namespace frenlo::bench {

namespace {

/// Photos that lie in memory only.
class InMemory : public PhotoSource
{
public:
    std::map<std::filesystem::path, cv::Mat> pictures;
    [[nodiscard]] Result<cv::Mat> pixels(const PhotoFile& photo, cv::Size, Damage) const override
    {
        return pictures.at(photo.file).clone();
    }
};

struct Speck
{
    cv::Point2d at;
    double diameter = 0;
};

struct Series
{
    InMemory source;
    Project project;
    std::vector<Speck> specks;
};

/// A window that goes over a photograph, as one walks or pans, in light that changes, with specks that stay.
Series series_over(const cv::Mat& scene, unsigned seed)
{
    constexpr int photos = 14, specks = 7;
    const cv::Size size(900, 600);
    std::mt19937 random(seed);
    const auto between = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random);
    };
    Series made;
    std::vector<double> strengths;
    while (made.specks.size() < specks) {
        const Speck s{{between(40, size.width - 40), between(40, size.height - 40)}, 3 * std::pow(10.0, between(0, 1))};
        if (std::none_of(made.specks.begin(), made.specks.end(),
                         [&](const Speck& o) { return cv::norm(o.at - s.at) < 80; })) {
            made.specks.push_back(s);
            strengths.push_back(between(0.15, 0.4)); // of the light that is taken away
        }
    }
    cv::Point2d from, to; // of what does not move nobody can tell what is on the sensor
    do {
        for (cv::Point2d* p : {&from, &to})
            *p = {between(0, scene.cols - size.width), between(0, scene.rows - size.height)};
    } while (cv::norm(to - from) < 30 * photos);
    Shot shot;
    shot.name = "specks";
    for (int i = 0; i < photos; ++i) {
        const cv::Point2d at =
            from + (to - from) * (double(i) / (photos - 1)) + cv::Point2d(between(0, 6), between(0, 6));
        const cv::Rect window(cv::Point(std::clamp(int(at.x), 0, scene.cols - size.width),
                                        std::clamp(int(at.y), 0, scene.rows - size.height)),
                              size);
        cv::Mat3f photo;
        scene(window).convertTo(photo, CV_32F, between(0.85, 1));
        for (std::size_t s = 0; s < made.specks.size(); ++s) {
            const Speck& speck = made.specks[s];
            const int reach = int(speck.diameter) + 2;
            for (int y = int(speck.at.y) - reach; y <= int(speck.at.y) + reach; ++y)
                for (int x = int(speck.at.x) - reach; x <= int(speck.at.x) + reach; ++x)
                    if (cv::Point(x, y).inside(cv::Rect({0, 0}, size))) {
                        const double d = cv::norm(cv::Point2d(x, y) - speck.at) / (speck.diameter / 2);
                        // Encoded light is about its root.
                        photo(y, x) *= float(std::sqrt(1 - strengths[s] * std::clamp((1.4 - d) / 0.6, 0.0, 1.0)));
                    }
        }
        cv::Mat noise(size, CV_32FC3), eight;
        cv::theRNG().state = seed * 1000 + unsigned(i);
        cv::randn(noise, 0, 1.5);
        photo += noise;
        photo.convertTo(eight, CV_8U);
        auto file = std::make_shared<PhotoFile>();
        file->file = "/m/" + std::to_string(i) + ".png";
        file->size = size;
        made.source.pictures[file->file] = eight;
        shot.photos.push_back({.photo = std::move(file), .hold = Frames{1}});
    }
    give_ids(shot);
    made.project.shots.push_back(std::make_shared<const Shot>(std::move(shot)));
    return made;
}

}

void bench_retouch()
{
    constexpr std::array names{"fruits.jpg", "aloeL.jpg",        "leuvenA.jpg", "building.jpg",
                               "home.jpg",   "starry_night.jpg", "messi5.jpg",  "board.jpg"};
    int planted = 0, found = 0, beside = 0, photos = 0;
    std::map<std::string, std::array<int, 3>> by_name;
    for (const char* name : names) {
        cv::Mat scene = cv::imread("/usr/share/doc/opencv-doc/examples/data/" + std::string(name));
        if (scene.empty())
            continue;
        const double larger = std::max({1.0, 1500.0 / scene.cols, 1050.0 / scene.rows});
        cv::resize(scene, scene, {}, larger, larger, cv::INTER_CUBIC);
        for (unsigned seed = 0; seed < 4; ++seed) {
            const Series s = series_over(scene, 7000 + seed * 31 + unsigned(planted));
            const Shot& shot = s.project.shot(ShotIndex(0));
            const Project with = find_dust(shot)(s.source, Job())(s.project);
            const auto spots = retouch_of(with.shot(ShotIndex(0))).spots;
            const cv::Size size = shot.photos.front().photo->size;
            const auto is_on = [&](const Spot& spot, const Speck& speck) {
                const cv::Point2d at(spot.keys[0].points[0] * size.width - 0.5,
                                     spot.keys[0].points[1] * size.height - 0.5);
                return cv::norm(at - speck.at) < speck.diameter / 2 + 1.5;
            };
            for (const Speck& speck : s.specks) {
                const bool is = std::any_of(spots.begin(), spots.end(), [&](const Spot& p) { return is_on(p, speck); });
                found += is;
                by_name[name][is ? 0 : 1]++;
            }
            for (const Spot& spot : spots)
                if (std::none_of(s.specks.begin(), s.specks.end(), [&](const Speck& p) { return is_on(spot, p); })) {
                    ++beside;
                    by_name[name][2]++;
                }
            planted += int(s.specks.size());
            photos += int(shot.photos.size());
        }
    }
    std::cout << "dust of 3 to 30 px in photos that move: found " << found << " of " << planted << " (aim: 95 %), and "
              << beside << " others in " << photos << " photos (aim: at most 1 in 50)\n";
    for (const auto& [name, n] : by_name)
        std::cout << "  " << name << ": " << n[0] << " found, " << n[1] << " missed, " << n[2] << " others\n";
}

}
