// Retouch: spots, the clean plate, dust, against the truth and against OpenCV's inpainting.
#include "core/picture/picture.h"
#include "core/project/project_file.h"
#include "core/source/transfer.h"
#include "core/steps/retouch/healing.h"
#include "core/steps/retouch/retouch_operations.h"
#include "core/timeline/timeline.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/pictures.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>
#include <opencv2/photo.hpp>

#include <cmath>
#include <map>
#include <random>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

/// Structural similarity inside a mask, of grey values: Wang, Bovik, Sheikh, Simoncelli 2004, Gaussian of 1.5.
double ssim_inside(const cv::Mat& a8, const cv::Mat& b8, const cv::Mat1b& mask)
{
    cv::Mat a, b;
    cv::cvtColor(a8, a, cv::COLOR_BGR2GRAY);
    cv::cvtColor(b8, b, cv::COLOR_BGR2GRAY);
    a.convertTo(a, CV_64F);
    b.convertTo(b, CV_64F);
    const auto mean = [](const cv::Mat& m) {
        cv::Mat out;
        cv::GaussianBlur(m, out, {11, 11}, 1.5);
        return out;
    };
    const cv::Mat ma = mean(a), mb = mean(b), va = mean(a.mul(a)) - ma.mul(ma), vb = mean(b.mul(b)) - mb.mul(mb),
                  cov = mean(a.mul(b)) - ma.mul(mb);
    constexpr double c1 = 6.5025, c2 = 58.5225;
    const cv::Mat top = (2 * ma.mul(mb) + c1).mul(2 * cov + c2);
    const cv::Mat below = (ma.mul(ma) + mb.mul(mb) + c1).mul(va + vb + c2);
    cv::Mat map;
    cv::divide(top, below, map);
    return cv::mean(map, mask)[0];
}

/// Of the fine structure: what a blur takes away.
double local_variance(const cv::Mat& bgr, const cv::Mat1b& mask)
{
    cv::Mat grey, low;
    cv::cvtColor(bgr, grey, cv::COLOR_BGR2GRAY);
    grey.convertTo(grey, CV_64F);
    cv::GaussianBlur(grey, low, {}, 2);
    const cv::Mat fine = grey - low;
    return cv::mean(fine.mul(fine), mask)[0];
}

cv::Mat1b disc(cv::Size size, cv::Point2d at, double inner, double outer = -1)
{
    cv::Mat1b m(size, std::uint8_t(0));
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x) {
            const double d = std::hypot(x - at.x, y - at.y);
            if (outer < 0 ? d <= inner : d > inner && d <= outer)
                m(y, x) = 255;
        }
    return m;
}

Project healed(const Project& p, const PhotoSource& source, std::vector<Spot> spots)
{
    Project with = p;
    std::vector<SpotId> ids;
    for (Spot& s : spots) {
        WithSpot w = add_spot(with, first, std::move(s));
        with = std::move(w.project);
        ids.push_back(w.spot);
    }
    return find_sources(with.shot(first), ids)(source, Job())(with);
}

Spot spot_at(const Project& p, cv::Point2d at, double radius, cv::Size size)
{
    Spot s;
    s.keys = {{p.shot(first).photos[0].id, {(at.x + 0.5) / size.width, (at.y + 0.5) / size.height}}};
    s.radius = radius / size.width;
    return s;
}

}

TEST_CASE("a mark's shares are its brush's, at parts of a pixel", "[retouch]")
{
    const cv::Rect box(0, 0, 60, 40);
    const cv::Mat1f dot = mark_shares({{30.25, 20.5}}, 8, 0.5, box);
    // All of a disc of 8, half of the way at 8 + 2, nothing beyond 12.
    CHECK(dot(20, 30) == 1);
    CHECK(dot(20, 37) == 1);
    CHECK(dot(20, 43) == 0);
    CHECK(cv::sum(dot)[0] == Approx(3.14159 * 10 * 10).epsilon(0.03));
    const cv::Mat1f line = mark_shares({{10, 10}, {50, 10}}, 3, 0.5, box);
    CHECK(line(10, 30) == 1);
    CHECK(line(13, 30) == 1);
    CHECK(line(16, 30) == 0);
    CHECK(line(10, 54) > 0); // round ends
    CHECK(line(10, 56) == 0);
}

namespace {

/// A spot spoilt and healed: inside it against the truth, and the same by OpenCV's Telea 2004 and Navier-Stokes.
struct Healed
{
    cv::Mat spoilt, made;
    cv::Mat1b inside;
    double ours, telea, stokes; ///< SSIM
};

Healed spoilt_and_healed(const cv::Mat& truth, cv::Point2d middle, double radius)
{
    const cv::Size size = truth.size();
    Healed h{
        .spoilt = truth.clone(), .made = {}, .inside = disc(size, middle, radius), .ours = 0, .telea = 0, .stokes = 0};
    h.spoilt.setTo(cv::Scalar(20, 20, 230), h.inside);
    Pictures pictures;
    pictures.all = {h.spoilt};
    const Project p = project_of(pictures);
    h.made = frame(healed(p, pictures, {spot_at(p, middle, radius + 1, size)}), pictures, 0);
    const cv::Mat1b mask = disc(size, middle, radius + 1);
    cv::Mat by_telea, by_stokes;
    cv::inpaint(h.spoilt, mask, by_telea, 5, cv::INPAINT_TELEA);
    cv::inpaint(h.spoilt, mask, by_stokes, 5, cv::INPAINT_NS);
    h.ours = ssim_inside(h.made, truth, h.inside);
    h.telea = ssim_inside(by_telea, truth, h.inside);
    h.stokes = ssim_inside(by_stokes, truth, h.inside);
    return h;
}

}

TEST_CASE("a spot in real photographs is healed nearer than by diffusion, and as fine as what is round it",
          "[retouch][texture]")
{
    // Twelve photographs of Debian's opencv-doc, places by chance where there is some texture; means, since a single
    // place may be lucky.
    const std::string folder = "/usr/share/doc/opencv-doc/examples/data/";
    const char* const names[] = {"fruits.jpg",
                                 "baboon.jpg",
                                 "leuvenA.jpg",
                                 "squirrel_cls.jpg",
                                 "aloeL.jpg",
                                 "board.jpg",
                                 "home.jpg",
                                 "starry_night.jpg",
                                 "messi5.jpg",
                                 "building.jpg",
                                 "../alphamat/input_images/plant.jpg",
                                 "../hfs/data/000.jpg"};
    const cv::Size size(260, 220);
    const cv::Point middle(130, 110);
    std::mt19937 random(17);
    constexpr int places = 6; // in each
    for (const double radius : {5.0, 8.0, 14.0}) {
        double ours = 0, telea = 0, stokes = 0, variance = 0, ring = 0, count = 0;
        for (const char* name : names) {
            const cv::Mat photo = cv::imread(folder + name);
            REQUIRE_FALSE(photo.empty());
            for (int place = 0; place < places;) {
                const auto within = [&](int most) { return std::uniform_int_distribution<int>(0, most)(random); };
                const cv::Mat truth =
                    photo(cv::Rect({within(photo.cols - size.width), within(photo.rows - size.height)}, size));
                const cv::Mat1b inside = disc(size, middle, radius);
                if (local_variance(truth, inside) < 15)
                    continue; // all one grey
                const Healed h = spoilt_and_healed(truth, middle, radius);
                ours += h.ours;
                telea += h.telea;
                stokes += h.stokes;
                variance += local_variance(h.made, inside);
                ring += local_variance(truth, disc(size, middle, radius + 4, std::max(radius + 10, radius * 2.2)));
                ++count;
                ++place;
                // What was not marked keeps every bit.
                cv::Mat difference;
                cv::absdiff(h.made, h.spoilt, difference);
                difference.setTo(0, disc(size, middle, (radius + 1) * 1.4 + 2));
                CHECK(cv::countNonZero(difference.reshape(1)) == 0);
            }
        }
        CAPTURE(radius, ours / count, telea / count, stokes / count, variance / ring);
        CHECK(ours > std::max(telea, stokes));
        CHECK(variance / ring > 0.8);
        CHECK(variance / ring < 1.2);
    }
}

TEST_CASE("what is seen of a speck beyond its mark is not carried inside", "[retouch][texture]")
{
    const cv::Size size(260, 220);
    const cv::Point2d middle(130.3, 109.6);
    double tight = 0, wide = 0;
    for (const cv::Point at : {cv::Point(40, 60), cv::Point(500, 200), cv::Point(800, 700), cv::Point(420, 520)}) {
        const cv::Mat truth = texture(size, at);
        // Dark dust: its edge is soft over three pixels, and ends a pixel beyond the mark, or a pixel within it.
        cv::Mat dusty = truth.clone();
        for (int y = 0; y < size.height; ++y)
            for (int x = 0; x < size.width; ++x) {
                const double is = std::clamp((8.5 - std::hypot(x - middle.x, y - middle.y)) / 3, 0.0, 1.0);
                dusty.at<cv::Vec3b>(y, x) *= 1 - 0.8 * is;
            }
        Pictures pictures;
        pictures.all = {dusty};
        const Project p = project_of(pictures);
        const auto left = [&](double radius) {
            cv::Mat difference;
            cv::absdiff(frame(healed(p, pictures, {spot_at(p, middle, radius, size)}), pictures, 0), truth, difference);
            const cv::Scalar mean = cv::mean(difference, disc(size, middle, 7));
            return (mean[0] + mean[1] + mean[2]) / 12; // of four places
        };
        tight += left(7.5);
        wide += left(9.5);
    }
    CAPTURE(tight, wide);
    CHECK(tight < 1.25 * wide);
}

TEST_CASE("a mark that lies between pixels heals the one that is nearest", "[retouch]")
{
    const cv::Size size(120, 90);
    const cv::Mat truth = texture(size, {500, 200});
    cv::Mat spoilt = truth.clone();
    spoilt.at<cv::Vec3b>(40, 60) = {0, 0, 255};
    Pictures pictures;
    pictures.all = {spoilt};
    const Project p = project_of(pictures);
    const cv::Mat made = frame(healed(p, pictures, {spot_at(p, {60.2, 40.2}, 0.25, size)}), pictures, 0);
    CHECK(cv::norm(made.at<cv::Vec3b>(40, 60), truth.at<cv::Vec3b>(40, 60)) <
          0.5 * cv::norm(spoilt.at<cv::Vec3b>(40, 60), truth.at<cv::Vec3b>(40, 60)));
}

TEST_CASE("texture that comes again is healed as it was, better than by diffusion", "[retouch][texture]")
{
    // Real texture in rows, as cloth, bricks or waves have it, under noise that is never the same.
    const cv::Size size(420, 300);
    double ours = 0, telea = 0, stokes = 0;
    for (const cv::Point at : {cv::Point(40, 60), cv::Point(500, 200), cv::Point(800, 700), cv::Point(420, 520)}) {
        cv::Mat truth;
        cv::repeat(texture({70, 60}, at), 5, 6, truth);
        const Healed h = spoilt_and_healed(with_noise(truth, 4, std::uint64_t(at.x)), {205, 151}, 14);
        ours += h.ours / 4;
        telea += h.telea / 4;
        stokes += h.stokes / 4;
    }
    CAPTURE(ours, telea, stokes);
    CHECK(ours > telea + 0.1);
    CHECK(ours > stokes + 0.1);
}

TEST_CASE("a source at the edge of the picture is taken, not what lies on the mark's other side", "[retouch]")
{
    const cv::Size size(300, 200);
    cv::Mat scene(size, CV_8UC3, cv::Scalar(150, 190, 220)); // a sky over a sea
    scene(cv::Rect(0, 130, 300, 70)).setTo(cv::Scalar(160, 130, 60));
    scene = with_noise(scene, 3, 1);
    const cv::Point2d from(110, 62), to(190, 76); // a long mark
    const double radius = 8;
    Pictures pictures;
    pictures.all = {scene.clone()};
    cv::line(pictures.all[0], from, to, cv::Scalar(20, 20, 20), 9);
    const Project p = project_of(pictures);
    Spot s = spot_at(p, from, radius, size);
    s.keys[0].points.insert(s.keys[0].points.end(), {(to.x + 0.5) / size.width, (to.y + 0.5) / size.height});
    const cv::Rect box = mark_box({from, to}, radius, s.soft);
    const int by = GENERATE(0, 1, 3); // rows beyond the picture's upper edge
    s.offset = {0.001 / size.width, double(-box.y - by) / size.height};
    const cv::Mat made = frame(add_spot(p, first, s).project, pictures, 0);
    cv::Mat1b inside(size, std::uint8_t(0));
    cv::line(inside, from, to, cv::Scalar(255), 11);
    cv::Mat difference;
    cv::absdiff(made, scene, difference);
    CAPTURE(by, box, cv::mean(difference, inside));
    const cv::Scalar mean = cv::mean(difference, inside);
    CHECK(std::max({mean[0], mean[1], mean[2]}) < 6); // two times the noise
}

TEST_CASE("a healed spot flickers no more than what is round it", "[retouch]")
{
    const cv::Size size(300, 200);
    const cv::Point2d middle(150, 100);
    Pictures pictures;
    for (int i = 0; i < 8; ++i) {
        cv::Mat photo = with_noise(texture(size, {400, 300}), 3, std::uint64_t(i));
        photo.setTo(cv::Scalar(0, 0, 0), disc(size, middle, 9));
        pictures.all.push_back(photo);
    }
    const Project p = project_of(pictures);
    const Project q = healed(p, pictures, {spot_at(p, middle, 10, size)});
    const cv::Mat1b inside = disc(size, middle, 9), outside = disc(size, middle, 20, 40);
    std::vector<cv::Mat> frames;
    for (int i = 0; i < 8; ++i)
        frames.push_back(frame(q, pictures, i));
    double in = 0, out = 0;
    for (int i = 1; i < 8; ++i) {
        cv::Mat a, b, d;
        frames[std::size_t(i)].convertTo(a, CV_64F);
        frames[std::size_t(i - 1)].convertTo(b, CV_64F);
        d = (a - b).mul(a - b);
        in += cv::sum(cv::mean(d, inside))[0];
        out += cv::sum(cv::mean(d, outside))[0];
    }
    CAPTURE(std::sqrt(in / out));
    CHECK(std::sqrt(in / out) <= 1.2);
}

TEST_CASE("the clean plate is the scene without what moves in it, in changing light", "[retouch][plate]")
{
    TempFolder folder;
    const cv::Size size(480, 320);
    const cv::Mat truth = texture(size, {300, 300});
    std::mt19937 random(5);
    std::uniform_real_distribution<double> share(0, 1);
    Pictures pictures;
    for (int i = 0; i < 24; ++i) {
        cv::Mat photo = truth.clone();
        // A third of it covered, somewhere else each time, as much at the edges as in the middle.
        cv::Mat1b covered(size, std::uint8_t(0));
        while (cv::countNonZero(covered) < size.area() / 3) {
            const cv::Rect r(int(share(random) * size.width), int(share(random) * size.height), 60, 45);
            const cv::Scalar colour(255 * share(random), 255 * share(random), 255 * share(random));
            for (const int x : {r.x, r.x - size.width})
                for (const int y : {r.y, r.y - size.height})
                    if (const cv::Rect part = cv::Rect(x, y, r.width, r.height) & cv::Rect({0, 0}, size);
                        !part.empty()) {
                        photo(part).setTo(colour);
                        covered(part).setTo(255);
                    }
        }
        const double gain = std::exp2(0.3 * std::sin(i)); // of light
        cv::Mat table(1, 256, CV_8U);
        for (int v = 0; v < 256; ++v)
            table.at<std::uint8_t>(v) =
                cv::saturate_cast<std::uint8_t>(255 * encoded_of(std::min(1.0, gain * linear_of(v / 255.0))));
        cv::LUT(photo, table, photo);
        pictures.all.push_back(photo);
    }
    write_bytes(folder / "Pier clean plate.png", "of somebody else");
    const Project base = project_of(pictures);
    const Project with = make_plate(base.shot(first), folder.path())(pictures, Job())(base);
    const auto at = plate_of(with.shot(first));
    REQUIRE(at);
    const ShotPhoto& plate = with.shot(first).photos[at->at()];
    CHECK(plate.aside);
    CHECK(plate.photo->file.parent_path() == folder.path());
    CHECK(plate.photo->file.filename() == "Pier clean plate 2.png"); // what lay there stays
    const auto pixels = Originals().pixels(*plate.photo, {}, Damage::refuse);
    REQUIRE(pixels);
    cv::Mat eight;
    pixels->convertTo(eight, CV_8U, 1 / 257.0);
    // As bright as the middle of the photos: compared after one gain of light a channel.
    cv::Mat a, b;
    eight.convertTo(a, CV_64F);
    truth.convertTo(b, CV_64F);
    double error = 0;
    for (int c = 0; c < 3; ++c) {
        cv::Mat ca, cb;
        cv::extractChannel(a, ca, c);
        cv::extractChannel(b, cb, c);
        const double k = ca.dot(cb) / ca.dot(ca);
        const cv::Mat d = k * ca - cb;
        error += d.dot(d);
    }
    const double psnr = 10 * std::log10(255.0 * 255.0 * size.area() * 3 / error);
    CAPTURE(psnr);
    CHECK(psnr >= 40);
    // It is in no film, and made again it takes the first one's place.
    CHECK(film_of(with, first)->frames() == 24);
    const Project again = make_plate(with.shot(first), folder.path())(pictures, Job())(with);
    CHECK(again.shot(first).photos.size() == with.shot(first).photos.size());
}

TEST_CASE("a wire is taken out by the clean plate between the photos where it was marked", "[retouch][plate]")
{
    TempFolder folder;
    const cv::Size size(480, 320);
    const cv::Mat truth = texture(size, {200, 200});
    Pictures pictures;
    constexpr int photos = 12;
    const auto wire = [](int i) { return std::pair(cv::Point2d(60 + 26.0 * i, 0), cv::Point2d(90 + 24.0 * i, 200)); };
    for (int i = 0; i < photos; ++i) {
        cv::Mat photo = with_noise(truth, 1.5, std::uint64_t(40 + i));
        const auto [a, b] = wire(i);
        cv::line(photo, cv::Point(a), cv::Point(b), cv::Scalar(40, 40, 40), 4, cv::LINE_AA);
        pictures.all.push_back(photo);
    }
    Project p = project_of(pictures);
    p = make_plate(p.shot(first), folder.path())(pictures, Job())(p);
    Spot support;
    support.from = HealFrom::plate;
    support.radius = 6.0 / size.width;
    for (const int i : {0, photos - 1}) { // marked in two photos only
        const auto [a, b] = wire(i);
        support.keys.push_back({p.shot(first).photos[std::size_t(i)].id,
                                {a.x / size.width, a.y / size.height, b.x / size.width, b.y / size.height}});
    }
    p = add_spot(p, first, support).project;
    CHECK(retouch_notes(p.shot(first)).size() == 1); // it was not held still, which is said
    double worst = 1;
    for (int i = 0; i < photos; ++i) {
        const auto [a, b] = wire(i);
        cv::Mat1b mask(size, std::uint8_t(0));
        cv::line(mask, cv::Point(a), cv::Point(b), cv::Scalar(255), 5);
        worst = std::min(worst, ssim_inside(frame(p, pictures, i), truth, mask));
    }
    CAPTURE(worst);
    CHECK(worst >= 0.95);
}

TEST_CASE("specks on the sensor are found in photo after photo, and nothing else", "[retouch][dust]")
{
    const cv::Size size(900, 600);
    const auto [seed, moves] = GENERATE(std::pair(4U, true), std::pair(5U, true), std::pair(6U, false));
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> share(0, 1);
    struct Speck
    {
        cv::Point2d at;
        double diameter;
    };
    std::vector<Speck> specks;
    for (const double diameter : {3.5, 4.0, 6.0, 9.0, 14.0, 20.0, 30.0})
        specks.push_back({{60 + 780 * share(random), 60 + 480 * share(random)}, diameter});
    Pictures pictures;
    for (int i = 0; i < 12; ++i) {
        // A walked scene, or a tripod's: either way the specks stay.
        cv::Mat photo = moves ? photo_of_scene(turned_by(0, 1, {17.0 * i - 90, 5.0 * i - 30}), size)
                              : photo_of_scene(turned_by(0, 1, {0, 0}), size);
        cv::GaussianBlur(photo, photo, {}, 1.2);
        photo = with_noise(photo, 1, std::uint64_t(i));
        for (int y = 0; y < size.height; ++y)
            for (int x = 0; x < size.width; ++x)
                for (const Speck& s : specks) {
                    const double d = std::hypot(x - s.at.x, y - s.at.y) / (s.diameter / 2);
                    if (d < 1.4)
                        photo.at<cv::Vec3b>(y, x) *= 1 - 0.28 * std::clamp((1.4 - d) / 0.6, 0.0, 1.0);
                }
        pictures.all.push_back(photo);
    }
    const Project p = project_of(pictures);
    const Project q = find_dust(p.shot(first))(pictures, Job())(p);
    const auto found = retouch_of(q.shot(first)).spots;
    std::size_t right = 0;
    for (const Speck& s : specks)
        right += std::any_of(found.begin(), found.end(), [&](const Spot& spot) {
            return std::hypot(spot.keys[0].points[0] * size.width - 0.5 - s.at.x,
                              spot.keys[0].points[1] * size.height - 0.5 - s.at.y) < s.diameter / 2 + 1;
        });
    CAPTURE(moves, found.size(), right);
    if (moves) { // where the scene stands still, a speck on texture cannot be told from the texture
        CHECK(right == specks.size());
    }
    CHECK(found.size() == right); // nothing else was taken for one
    if (seed == 4U)               // found once
        CHECK(retouch_of(find_dust(q.shot(first))(pictures, Job())(q).shot(first)).spots.size() == found.size());
}

TEST_CASE("a spot goes with a thing that moves, and can be put right at any photo", "[retouch][follow]")
{
    const cv::Size size(500, 300);
    const cv::Mat behind = texture(size, {100, 500}), thing = texture({60, 60}, {900, 300});
    const auto where = [](int i) { return cv::Point(60 + 17 * i, 100 + int(40 * std::sin(i * 0.4))); };
    Pictures pictures;
    for (int i = 0; i < 16; ++i) {
        cv::Mat photo = behind.clone();
        thing.copyTo(photo(cv::Rect(where(i), thing.size())));
        pictures.all.push_back(with_noise(photo, 1.5, std::uint64_t(i)));
    }
    const Project p = project_of(pictures);
    const cv::Point2d on_thing(where(0).x + 30, where(0).y + 30);
    const WithSpot with = add_spot(p, first, spot_at(p, on_thing, 10, size));
    const Project q = follow_spot(with.project.shot(first), with.spot)(pictures, Job())(with.project);
    const Spot spot = retouch_of(q.shot(first)).spots[0];
    double worst = 0;
    for (int i = 0; i < 16; ++i) {
        const auto at = points_at(spot, q.shot(first), PhotoIndex(i));
        REQUIRE(at.size() == 1);
        worst = std::max(worst, std::hypot(at[0].x * size.width - 0.5 - where(i).x - 30,
                                           at[0].y * size.height - 0.5 - where(i).y - 30));
    }
    CAPTURE(worst);
    CHECK(worst < 1);
}

TEST_CASE("marks lie between the photos where they were put", "[retouch]")
{
    Pictures pictures;
    pictures.all.assign(5, cv::Mat(10, 10, CV_8UC3, cv::Scalar::all(0)));
    const Project p = project_of(pictures);
    const Shot& shot = p.shot(first);
    Spot spot;
    spot.keys = {{shot.photos[1].id, {0.2, 0.4}}, {shot.photos[3].id, {0.6, 0.2}}};
    const auto at = [&](int i) { return points_at(spot, shot, PhotoIndex(i)); };
    CHECK(at(0)[0] == cv::Point2d(0.2, 0.4));
    CHECK(cv::norm(at(2)[0] - cv::Point2d(0.4, 0.3)) < 1e-12);
    CHECK(at(4)[0] == cv::Point2d(0.6, 0.2));
    spot.first = shot.photos[2].id;
    spot.last = shot.photos[3].id;
    CHECK(at(1).empty());
    CHECK(at(4).empty());
    CHECK(at(3).size() == 1);
    spot.on = false;
    CHECK(at(3).empty());
    // Ways of different lengths become one in the middle.
    Spot wire;
    wire.keys = {{shot.photos[0].id, {0, 0, 1, 0}}, {shot.photos[4].id, {0, 1, 0.5, 1, 1, 1}}};
    for (const cv::Point2d& q : points_at(wire, shot, PhotoIndex(2)))
        CHECK(q.y == Approx(0.5));
}

TEST_CASE("spots that cannot be healed change nothing, and say so", "[retouch]")
{
    const cv::Size size(64, 48);
    Pictures pictures;
    pictures.all = {texture(size, {10, 10})};
    const Project p = project_of(pictures);
    SECTION("over the whole photo: there is nothing to take from")
    {
        const Project q = healed(p, pictures, {spot_at(p, {32, 24}, 200, size)});
        cv::Mat difference;
        cv::absdiff(frame(q, pictures, 0), pictures.all[0], difference);
        CHECK(cv::countNonZero(difference.reshape(1)) == 0);
    }
    SECTION("from a plate that is not there")
    {
        Spot s = spot_at(p, {32, 24}, 5, size);
        s.from = HealFrom::plate;
        const Project q = add_spot(p, first, s).project;
        REQUIRE(retouch_notes(q.shot(first)).size() == 1);
        CHECK(retouch_notes(q.shot(first))[0].find("none") != std::string::npos);
        cv::Mat difference;
        cv::absdiff(frame(q, pictures, 0), pictures.all[0], difference);
        CHECK(cv::countNonZero(difference.reshape(1)) == 0);
    }
    SECTION("at the edge and beyond it")
    {
        for (const cv::Point2d at :
             {cv::Point2d(0, 0), cv::Point2d(63, 47), cv::Point2d(-30, 10), cv::Point2d(900, 900)})
            CHECK(frame(healed(p, pictures, {spot_at(p, at, 4, size)}), pictures, 0).size() == size);
    }
    SECTION("two photos make no plate")
    {
        TempFolder folder;
        CHECK_THROWS_AS(make_plate(p.shot(first), folder.path())(pictures, Job()), Failure);
    }
}

TEST_CASE("a chosen photo can be the plate", "[retouch][plate]")
{
    const cv::Size size(120, 90);
    const cv::Mat clean = texture(size, {600, 400});
    cv::Mat spoilt = clean.clone();
    spoilt(cv::Rect(50, 40, 20, 14)).setTo(cv::Scalar(0, 0, 255));
    Pictures pictures;
    pictures.all = {clean, spoilt, spoilt};
    Project p = project_of(pictures);
    p = set_plate(p, first, p.shot(first).photos[0].id);
    Spot s = spot_at(p, {60, 47}, 16, size);
    s.from = HealFrom::plate;
    p = add_spot(p, first, s).project;
    const cv::Mat made = frame(p, pictures, 1);
    cv::Mat difference;
    cv::absdiff(made, clean, difference);
    double most = 0;
    cv::minMaxLoc(difference.reshape(1), nullptr, &most);
    CHECK(most <= 3); // grain and one quantisation
    // The plate itself stays as it is.
    cv::absdiff(frame(p, pictures, 0), clean, difference);
    CHECK(cv::countNonZero(difference.reshape(1)) == 0);
}

}
