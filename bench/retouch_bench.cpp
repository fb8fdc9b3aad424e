// Retouch on real photographs (Debian's opencv-doc) with planted specks: which are found, and what is found beside
// them.
#include "bench/measure.h"
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
#include <stdexcept>
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

/// Photographs in light that changes, with specks that stay. Of one scene: a window that goes over it, as one walks or
/// pans. Of many: one from each.
Series series_over(const std::vector<cv::Mat>& scenes, int photos, unsigned seed)
{
    constexpr int specks = 7;
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
    const auto any_place = [&](const cv::Mat& scene) {
        return cv::Point2d(between(0, scene.cols - size.width), between(0, scene.rows - size.height));
    };
    do {
        from = any_place(scenes.front());
        to = any_place(scenes.front());
    } while (cv::norm(to - from) < 420);
    Shot shot;
    shot.name = "specks";
    for (int i = 0; i < photos; ++i) {
        const cv::Mat& scene = scenes[std::size_t(i) % scenes.size()];
        const cv::Point2d on_way =
            from + (to - from) * (double(i) / (photos - 1)) + cv::Point2d(between(0, 6), between(0, 6));
        const cv::Point2d at = scenes.size() == 1 ? on_way : any_place(scene);
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

struct Count
{
    int planted = 0, found = 0, beside = 0, photos = 0;
    Count& operator+=(const Count& o)
    {
        planted += o.planted;
        found += o.found;
        beside += o.beside;
        photos += o.photos;
        return *this;
    }
    void say(const char* of) const
    {
        std::cout << "dust of 3 to 30 px in photos " << of << ": found " << found << " of " << planted
                  << " (aim: 95 %), and " << beside << " others in " << photos << " photos (aim: at most 1 in 50)\n";
    }
};

Count specks_found(const Series& s)
{
    const Shot& shot = s.project.shot(ShotIndex(0));
    const Project with = find_dust(shot)(s.source, Job())(s.project);
    const auto spots = retouch_of(with.shot(ShotIndex(0))).spots;
    const cv::Size size = shot.photos.front().photo->size;
    const auto is_on = [&](const Spot& spot, const Speck& speck) {
        const cv::Point2d at(spot.keys[0].points[0] * size.width - 0.5, spot.keys[0].points[1] * size.height - 0.5);
        return cv::norm(at - speck.at) < speck.diameter / 2 + 1.5;
    };
    Count count{.planted = int(s.specks.size()), .photos = int(shot.photos.size())};
    for (const Speck& speck : s.specks)
        count.found += std::any_of(spots.begin(), spots.end(), [&](const Spot& p) { return is_on(p, speck); });
    for (const Spot& spot : spots)
        count.beside += std::none_of(s.specks.begin(), s.specks.end(), [&](const Speck& p) { return is_on(spot, p); });
    return count;
}

}

void bench_retouch()
{
    constexpr std::array names{"fruits.jpg", "aloeL.jpg",        "leuvenA.jpg", "building.jpg",
                               "home.jpg",   "starry_night.jpg", "messi5.jpg",  "board.jpg"};
    std::vector<cv::Mat> scenes;
    for (const char* name : names) {
        cv::Mat scene = cv::imread("/usr/share/doc/opencv-doc/examples/data/" + std::string(name));
        if (scene.empty())
            throw std::runtime_error(std::string(name) + " is not there: install opencv-doc");
        const double larger = std::max({1.0, 1500.0 / scene.cols, 1050.0 / scene.rows});
        cv::resize(scene, scene, {}, larger, larger, cv::INTER_CUBIC);
        scenes.push_back(scene);
    }
    Count moved, unrelated;
    for (unsigned i = 0; i < 4 * scenes.size(); ++i)
        moved += specks_found(series_over({scenes[i / 4]}, 14, 7000 + 31 * i));
    for (unsigned i = 0; i < 8; ++i)
        unrelated += specks_found(series_over(scenes, 40, 9000 + 31 * i));
    moved.say("of a scene that moves");
    unrelated.say("of scenes that have nothing to do with each other");
}

}
