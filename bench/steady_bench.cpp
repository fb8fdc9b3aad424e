#include "bench/measure.h"
#include "bench/sequences.h"
#include "core/base/local_fit.h"
#include "core/picture/warp.h"
#include "core/steps/sort/scan.h"
#include "core/steps/steady/crop.h"
#include "core/steps/steady/hold_still.h"
#include "core/steps/steady/smooth_path.h"
#include "core/steps/steady/walked.h"
#include "tests/support/photos.h"

#include <opencv2/calib3d.hpp>
#include <opencv2/features2d.hpp>
#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>
#include <tbb/global_control.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <functional>
#include <iomanip>
#include <iostream>
#include <optional>

namespace frenlo::bench {

namespace {

struct Errors
{
    double rms = 0, worst = 0, middle = 0, seconds = 0;
    int worst_photo = 0, failed = 0;
};

/// One photo against the first.
using Method = std::function<std::optional<Transform>(const cv::Mat& first, const cv::Mat& photo, std::size_t index)>;

Errors errors_of(const Sequence& s, const Method& method)
{
    Errors e;
    std::vector<double> all;
    const auto start = std::chrono::steady_clock::now();
    for (std::size_t i = 1; i < s.photos.size(); ++i) {
        const auto t = method(s.photos[0], s.photos[i], i);
        const double off = t ? corner_distance(*t, s.truth[i], s.photos[0].size()) : 1e3;
        e.failed += !t;
        if (off > e.worst) {
            e.worst = off;
            e.worst_photo = int(i) + 1;
        }
        all.push_back(off);
        e.rms += off * off;
    }
    e.seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count() / double(all.size());
    e.rms = std::sqrt(e.rms / double(all.size()));
    std::sort(all.begin(), all.end());
    e.middle = all[all.size() / 2];
    return e;
}

void print(const char* who, const Errors& e)
{
    std::cout << "    " << std::left << std::setw(22) << who << std::right << " RMS " << std::setw(8) << e.rms
              << "  median " << std::setw(8) << e.middle << "  worst " << std::setw(8) << e.worst << " (photo "
              << e.worst_photo << ")  " << e.seconds * 1000 << " ms a photo"
              << (e.failed > 0 ? ", failed: " + std::to_string(e.failed) : std::string()) << std::endl;
}

std::optional<Transform> by_sift(const cv::Mat& first, const cv::Mat& photo)
{
    const auto sift = cv::SIFT::create();
    const auto grey = [](const cv::Mat& m) {
        cv::Mat g;
        cv::cvtColor(m, g, cv::COLOR_BGR2GRAY);
        return g;
    };
    static std::vector<cv::KeyPoint> known_points; // of the first photo, found once as anybody would
    static cv::Mat known, known_of;
    if (known_of.data != first.data) {
        sift->detectAndCompute(grey(first), {}, known_points, known);
        known_of = first;
    }
    std::vector<cv::KeyPoint> points;
    cv::Mat features;
    sift->detectAndCompute(grey(photo), {}, points, features);
    std::vector<std::vector<cv::DMatch>> matches;
    cv::FlannBasedMatcher().knnMatch(known, features, matches, 2);
    std::vector<cv::Point2f> a, b;
    for (const auto& m : matches)
        if (m.size() == 2 && m[0].distance < 0.75F * m[1].distance) {
            a.push_back(known_points[std::size_t(m[0].queryIdx)].pt);
            b.push_back(points[std::size_t(m[0].trainIdx)].pt);
        }
    if (a.size() < 3)
        return std::nullopt;
    const cv::Mat t = cv::estimateAffinePartial2D(a, b, {}, cv::RANSAC, 2.0, 5000, 0.999, 20);
    if (t.empty())
        return std::nullopt;
    return Transform(t.at<double>(0, 0), t.at<double>(0, 1), t.at<double>(0, 2), t.at<double>(1, 0), t.at<double>(1, 1),
                     t.at<double>(1, 2), 0, 0, 1);
}

std::optional<Transform> by_ecc(const cv::Mat& first, const cv::Mat& photo)
{
    cv::Mat a, b, warp = cv::Mat::eye(2, 3, CV_32F);
    cv::cvtColor(first, a, cv::COLOR_BGR2GRAY);
    cv::cvtColor(photo, b, cv::COLOR_BGR2GRAY);
    try {
        cv::findTransformECC(a, b, warp, cv::MOTION_EUCLIDEAN,
                             {cv::TermCriteria::COUNT | cv::TermCriteria::EPS, 50, 1e-5}, cv::noArray(), 5);
    } catch (const cv::Exception&) {
        return std::nullopt; // it says so when it does not converge
    }
    return Transform(warp.at<float>(0, 0), warp.at<float>(0, 1), warp.at<float>(0, 2), warp.at<float>(1, 0),
                     warp.at<float>(1, 1), warp.at<float>(1, 2), 0, 0, 1);
}

/// The whole of it: links between neighbours and to the reference that it chose itself, on one core as the others.
Errors errors_of_whole(const Sequence& s)
{
    const tbb::global_control one_core(tbb::global_control::max_allowed_parallelism, 1);
    const test::InMemory source(s.photos);
    std::optional<StillRegistration> held;
    const auto start = std::chrono::steady_clock::now();
    held = hold_still(source.photos(), {}, source, {});
    const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    Errors e = errors_of(s, [&](const cv::Mat&, const cv::Mat&, std::size_t i) -> std::optional<Transform> {
        // Seen from the first photo, as the others are.
        return held->photos[i].from_film * held->photos[0].from_film.inv();
    });
    e.seconds = seconds / double(s.photos.size());
    e.failed = int(
        std::count_if(held->photos.begin(), held->photos.end(), [](const Alignment& a) { return !a.doubt.empty(); }));
    return e;
}

void against_others(const char* name, const Wishes& options, const char* aim, bool others)
{
    const Sequence s = make_sequence(options);
    std::cout << "  " << name << " (aim: " << aim << ")\n";
    std::optional<Prepared> first;
    print("one to one", errors_of(s, [&](const cv::Mat& a, const cv::Mat& b, std::size_t) -> std::optional<Transform> {
              if (!first)
                  first = prepare(a);
              const Link link = register_photos(*first, prepare(b), Movement::similar);
              return link.holds() ? std::optional(link.transform) : std::nullopt;
          }));
    print("held still, as a whole", errors_of_whole(s));
    if (!others)
        return;
    print("SIFT with RANSAC",
          errors_of(s, [](const cv::Mat& a, const cv::Mat& b, std::size_t) { return by_sift(a, b); }));
    print("ECC, Euclidean", errors_of(s, [](const cv::Mat& a, const cv::Mat& b, std::size_t) { return by_ecc(a, b); }));
}

/// The way of the corners along a path, less its local cubic over a second: what is felt as shake. By photo, pixels,
/// RMS over the corners. Apart from the core's own figure: of the true poses, in the plane of the first photo.
std::vector<double> shake(const std::vector<Transform>& poses, cv::Size size, double fps)
{
    std::vector<double> x, result(poses.size(), 0);
    for (std::size_t i = 0; i < poses.size(); ++i)
        x.push_back(double(i) / fps);
    for (const cv::Point2d& corner : corners_of(size)) {
        std::vector<cv::Point2d> at;
        for (const Transform& p : poses)
            at.push_back(moved(p, corner));
        for (std::size_t i = 0; i < poses.size(); ++i) {
            const auto w = local_weights(x, x[i], 1, 3);
            cv::Point2d off = at[i];
            for (std::size_t j = 0; j < w.size(); ++j)
                off -= w[j] * at[j];
            result[i] += off.dot(off) / 4;
        }
    }
    for (double& r : result)
        r = std::sqrt(r);
    return result;
}

double rms(const std::vector<double>& v)
{
    double sum = 0;
    for (const double x : v)
        sum += x * x;
    return std::sqrt(sum / double(v.size()));
}

void bench_walk(int photos)
{
    const Sequence s =
        make_sequence({.photos = photos, .shift_sigma = 5, .turn_sigma = 0.1, .foreground = 0.10, .walked = true});
    constexpr double fps = 24;
    const cv::Size size = s.photos[0].size();
    const test::InMemory source(s.photos);
    std::cout << "  walked shot: smooth path with jitter of 5 px, " << photos
              << " photos (aim: at most 5 % of the jitter left, at most 12 % lost)\n";
    for (const Movement movement : {Movement::similar, Movement::perspective}) {
        const WalkRegistration walked = follow_walk(source.photos(), {.movement = movement}, source, {});
        double worst = 0;
        int worst_photo = 0, doubtful = 0;
        std::vector<PathStep> steps;
        std::vector<double> link_errors;
        for (std::size_t i = 0; i < s.photos.size(); ++i) {
            steps.push_back({double(i) / fps, walked.photos[i].from_before, std::nullopt});
            doubtful += !walked.photos[i].doubt.empty();
            if (i == 0 || !walked.photos[i].from_before)
                continue;
            link_errors.push_back(
                corner_distance(*walked.photos[i].from_before, s.truth[i] * s.truth[i - 1].inv(), size));
            if (link_errors.back() > worst) {
                worst = link_errors.back();
                worst_photo = int(i) + 1;
            }
        }
        const auto from_film = smooth_path(steps, {}, movement, size);
        std::vector<Transform> film;
        for (std::size_t i = 0; i < s.photos.size(); ++i)
            film.push_back(from_film[i].inv() * s.truth[i]);
        const double before = rms(shake(s.truth, size, fps)), intended = rms(shake(s.intended, size, fps)),
                     after = rms(shake(film, size, fps));
        const cv::Rect2d box = largest_box(seen_by_all(from_film, size), double(size.width) / size.height);
        std::cout << "    by " << movement_name(movement) << ": " << 100 * after / before << " % of the shake left ("
                  << before << " to " << after << " px; the intended path has " << intended << "), "
                  << 100 * (1 - box.area() / size.area()) << " % lost; steps: RMS " << rms(link_errors) << ", worst "
                  << worst << " px (photo " << worst_photo << "), in doubt " << doubtful << std::endl;
    }
}

void bench_warp()
{
    cv::Mat photo(2000, 3000, CV_8UC3), bare;
    cv::randu(photo, 0, 255);
    cv::GaussianBlur(photo, photo, {}, 2);
    const auto timed = [](const auto& work) {
        const auto start = std::chrono::steady_clock::now();
        constexpr int times = 3;
        for (int i = 0; i < times; ++i)
            work();
        return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count() / times;
    };
    const cv::Matx33d t(1.55, 0.01, 8, -0.01, 1.55, 12, 0, 0, 1);
    const double ours = timed([&] { (void)quantised(warped(linear_rows(photo), t, {1920, 1280})); });
    const double plain = timed([&] {
        cv::warpAffine(photo, bare, cv::Matx23d(1.55, 0.01, 8, -0.01, 1.55, 12), {1920, 1280},
                       cv::INTER_LANCZOS4 | cv::WARP_INVERSE_MAP, cv::BORDER_REPLICATE);
    });
    std::cout
        << "  warp of 6 megapixels to 1920x1280 that neither aliases nor rings, against OpenCV's Lanczos, which does: "
        << ours / plain << " of its time (" << ours * 1000 << " ms)\n";
}

}

void bench_steady(bool quick)
{
    std::cout
        << "holding still: root mean square over the corners between estimated and true warp, pixels of 1200x800\n";
    const int photos = quick ? 24 : 48;
    const bool others = !quick; // they take two minutes
    cv::setNumThreads(1);
    against_others("tripod knock", {.photos = photos, .shift_sigma = 4, .turn_sigma = 0.3, .foreground = 0.10},
                   "0.06 / 0.2 px", others);
    against_others("tripod knock, a third covered, 2 stops",
                   {.photos = photos, .shift_sigma = 4, .turn_sigma = 0.3, .foreground = 0.33, .light_stops = 2},
                   "0.1 / 0.4 px", others);
    against_others("hand-held",
                   {.photos = photos, .shift_sigma = 25, .turn_sigma = 1, .size_sigma = 0.01, .foreground = 0.10},
                   "0.1 / 0.4 px", others);
    against_others("tripod knock, other scene",
                   {.photos = photos, .shift_sigma = 4, .turn_sigma = 0.3, .foreground = 0.10, .seed = 2},
                   "0.06 / 0.2 px", others);
    bench_walk(quick ? 72 : 144);
    bench_warp();
    against_others("large knocks", {.photos = photos, .shift_sigma = 110, .turn_sigma = 0.5, .foreground = 0.10},
                   "every one found", false);
}

void bench_steady_time(const std::filesystem::path& folder)
{
    const std::array places{folder};
    std::vector<SeenPhoto> photos;
    for (const FoundPhoto& p : scan(places, {.looking = Looking::at_headers}, {}).photos)
        photos.push_back({p.photo, 0, Damage::refuse});
    const auto timed = [](const auto& work) {
        const auto start = std::chrono::steady_clock::now();
        work();
        return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    };
    const Originals source;
    const double bare = timed([&] {
        tbb::parallel_for(std::size_t(0), photos.size(), [&](std::size_t i) {
            (void)source.pixels(*photos[i].photo, {1200, 800}, Damage::refuse);
        });
    });
    const double measured = timed([&] { (void)hold_still(photos, {}, source, {}); });
    std::cout << "holding " << photos.size() << " photos of 24 megapixels still: " << measured / bare
              << " of the bare decode at the size used (aim: at most 2; " << measured / double(photos.size()) * 1000
              << " ms against " << bare / double(photos.size()) * 1000 << " ms a photo)\n";
}

}
