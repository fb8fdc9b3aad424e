// Loops as GIF89a: what is written is read by ImageMagick, which is not ours.
#include "core/base/input_file.h"
#include "core/export/export.h"
#include "core/export/gif_code.h"
#include "core/export/gif_colouring.h"
#include "core/export/gif_palette.h"
#include "core/project/edits.h"
#include "core/source/photo_source.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/sort/scan_edits.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <random>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

/// Exports the photos, a frame each at 10 fps, and returns what a player shows.
struct Loop
{
    TempFolder folder;
    std::uintmax_t bytes = 0;
    std::vector<TriedSettings> tried;
    std::vector<cv::Mat> seen;

    Loop(const std::vector<cv::Mat>& photos, int quality, bool dither = false, int colours = 256,
         std::optional<std::int64_t> most_bytes = {})
    {
        std::vector<PhotoPtr> files;
        Shot shot;
        shot.name = "loop";
        for (std::size_t i = 0; i < photos.size(); ++i) {
            const auto file = folder / "s" / (std::to_string(1001 + i) + ".png");
            write_picture(file, photos[i]);
            shot.photos.push_back({scanned(file), Frames{1}});
        }
        ExportOrder order;
        order.preset = *find_preset("loop");
        order.preset.quality = quality;
        order.preset.dither = dither;
        order.preset.colours = colours;
        order.preset.most_bytes = most_bytes;
        order.file = folder / "l.gif";
        const ExportReport report = run_export(set_delivered_at(add_shot({}, shot), Rate(10)), order, Originals(), {});
        bytes = report.bytes;
        tried = report.tried;
        output_of("convert " + quoted(folder / "l.gif") + " -coalesce -define png:color-type=2 " +
                  quoted(folder / "f_%03d.png"));
        for (std::size_t i = 0; i < photos.size(); ++i) {
            char name[16];
            std::snprintf(name, sizeof name, "f_%03d.png", int(i));
            seen.push_back(cv::imread((folder / name).native()));
        }
    }
};

std::vector<cv::Mat> moving_over(const cv::Mat& scene, int photos, double noise)
{
    std::vector<cv::Mat> made;
    for (int i = 0; i < photos; ++i) {
        cv::Mat photo = scene.clone();
        cv::circle(photo, {30 + 12 * i, 60}, 14, cv::Scalar(30, 60, 220), cv::FILLED, cv::LINE_AA);
        made.push_back(noise > 0 ? with_noise(photo, noise, std::uint64_t(i)) : photo);
    }
    return made;
}

}

TEST_CASE("Codes of any pixels are read back as they were written", "[gif]")
{
    std::mt19937 random(3);
    for (const int colours : {2, 7, 200}) {
        std::vector<std::uint8_t> pixels, stay(20'000, 0), written;
        for (std::size_t i = 0; i < stay.size(); ++i) // runs, noise, and runs again
            pixels.push_back(i < 6'000 || i > 15'000 ? std::uint8_t(i / 37 % unsigned(colours))
                                                     : std::uint8_t(random() % unsigned(colours)));
        int bits = 2;
        while (1 << bits < colours + 1)
            ++bits;
        const std::string codes = lzw_codes({pixels, stay, std::uint8_t(colours)}, ColourDistances{}, 0, bits, written);
        CHECK(written == pixels);
        // A picture of 200 x 100 with a grey palette around them.
        std::string file = "GIF89a\xc8";
        file += std::string("\0\x64\0", 3);
        file.push_back(char(0x80 | (bits - 1)));
        file += std::string(2, '\0');
        for (int i = 0; i < 1 << bits; ++i)
            file += std::string(3, char(i));
        file += std::string("\x2c\0\0\0\0\xc8\0\x64\0\0", 10) + codes + ";";
        TempFolder t;
        write_bytes(t / "p.gif", file);
        output_of("convert " + quoted(t / "p.gif") + " " + quoted(t / "p.png"));
        const cv::Mat read = cv::imread((t / "p.png").native(), cv::IMREAD_GRAYSCALE);
        REQUIRE(read.size() == cv::Size(200, 100));
        CHECK(cv::norm(read, cv::Mat(100, 200, CV_8U, pixels.data()), cv::NORM_INF) == 0);
    }
}

TEST_CASE("A longer run is taken where it differs little, and what was written is said", "[gif]")
{
    ColourDistances distances;
    distances.colours = 16;
    for (int a = 0; a < 16; ++a)
        for (int b = 0; b < 16; ++b)
            distances.between.push_back(float(std::abs(a - b)));
    std::mt19937 random(9);
    std::vector<std::uint8_t> pixels, stay(40'000, 0), exact, loose;
    for (std::size_t i = 0; i < stay.size(); ++i)
        pixels.push_back(std::uint8_t(7 + random() % 2));
    const auto bytes = [&](float tolerance, std::vector<std::uint8_t>& written) {
        return lzw_codes({pixels, stay, 16}, distances, tolerance, 5, written).size();
    };
    const auto plain = bytes(0, exact);
    CHECK(bytes(1, loose) < plain / 4); // noise of one step goes
    CHECK(exact == pixels);
    for (std::size_t i = 0; i < pixels.size(); ++i)
        REQUIRE(std::abs(int(loose[i]) - int(pixels[i])) <= 1);
    // What may stay is written as it is or not at all, also where runs are short: picture after picture of small
    // differences would carry it off.
    for (std::size_t i = 0; i < stay.size(); ++i)
        stay[i] = i % 3 == 0 ? 0 : 1;
    bytes(3, loose);
    for (std::size_t i = 0; i < pixels.size(); ++i)
        if (stay[i] != 0)
            REQUIRE((loose[i] == 16 || loose[i] == pixels[i]));
    // Where the screen will do, nothing is drawn, whatever is wanted.
    std::fill(stay.begin(), stay.end(), std::uint8_t(1));
    CHECK(bytes(0, loose) < plain / 20);
    CHECK(std::all_of(loose.begin(), loose.end(), [](std::uint8_t c) { return c == 16; }));
}

TEST_CASE("the nearest colour of a palette is the one that comparing with all of them finds", "[gif]")
{
    std::mt19937 random(23);
    const auto any = [&] { return cv::Vec3b(std::uint8_t(random()), std::uint8_t(random()), std::uint8_t(random())); };
    for (const std::size_t count : {1UL, 5UL, 256UL}) {
        std::vector<cv::Vec3b> palette(count);
        for (cv::Vec3b& c : palette)
            c = any();
        if (count > 2)
            palette[count - 1] = palette[1]; // of equals the first
        NearestColour nearest(palette);
        for (int i = 0; i < 20'000; ++i) {
            const cv::Vec3b wish = i % 4 == 0 ? palette[random() % count] : any();
            std::size_t best = 0;
            for (std::size_t k = 1; k < count; ++k)
                if (colour_distance(palette[k], wish) < colour_distance(palette[best], wish))
                    best = k;
            REQUIRE(nearest(wish) == best);
        }
    }
}

TEST_CASE("what stays on the screen is left, and what was drawn otherwise is drawn again", "[gif]")
{
    LoopColouring colouring({{0, 0, 0}, {100, 100, 100}, {200, 200, 200}}, false, 6, false);
    LoopScreen screen({40, 30}, colouring.through(), false);
    cv::Mat scene(30, 40, CV_8UC3, cv::Scalar::all(100));
    ColouredPicture one = colouring.colour(scene);
    screen.meet(one);
    CHECK(one.part == cv::Rect(0, 0, 40, 30));
    CHECK(std::count(one.may_stay.begin(), one.may_stay.end(), 0) == 40 * 30);
    std::vector<std::uint8_t> written = one.colours;
    written[0] = 2; // a longer run was taken
    screen.show(one, written);
    scene += cv::Scalar::all(2); // noise
    scene(cv::Rect(10, 10, 8, 6)).setTo(cv::Scalar::all(210));
    ColouredPicture two = colouring.colour(scene);
    screen.meet(two);
    // What changed, and at most its neighbours.
    CHECK((two.part & cv::Rect(10, 10, 8, 6)) == cv::Rect(10, 10, 8, 6));
    CHECK((two.part | cv::Rect(8, 8, 12, 10)) == cv::Rect(8, 8, 12, 10));
    CHECK(std::count(two.colours.begin(), two.colours.end(), 2) == 8 * 6);
    for (std::size_t i = 0; i < two.colours.size(); ++i) // a neighbour that has its colour already may stay, too
        CHECK((two.may_stay[i] != 0) == (two.colours[i] == 1));
    screen.show(two, two.colours);
    // Back again, and a corner that changes: the first pixel shows something else, and is drawn; what shows that may
    // stay.
    scene.setTo(cv::Scalar::all(130));
    ColouredPicture three = colouring.colour(scene);
    screen.meet(three);
    CHECK(three.part == cv::Rect(0, 0, 40, 30));
    CHECK(three.colours[0] == 1);
    CHECK(three.may_stay[0] == 0);
    CHECK(three.may_stay[1] != 0);
    CHECK(three.may_stay[std::size_t(12 * 40 + 12)] == 0);
}

TEST_CASE("A loop of few colours keeps each of them, to the bit", "[gif][loop]")
{
    std::vector<cv::Mat> photos;
    for (int i = 0; i < 5; ++i) {
        cv::Mat m(90, 120, CV_8UC3, cv::Scalar(12, 34, 56));
        m(cv::Rect(10 + 15 * i, 20, 30, 40)).setTo(cv::Scalar(200, 40, 90 + 30 * i));
        m.row(3 + i).setTo(cv::Scalar(250, 250, 250));
        photos.push_back(m);
    }
    for (const int quality : {100, 60}) {
        const Loop loop(photos, quality);
        for (std::size_t i = 0; i < photos.size(); ++i)
            CHECK(cv::norm(loop.seen[i], photos[i], cv::NORM_INF) == 0);
    }
}

TEST_CASE("What stands still under noise is drawn once, what moves is drawn each time", "[gif][loop]")
{
    cv::Mat scene;
    cv::resize(real_scene(), scene, {320, 240}, 0, 0, cv::INTER_AREA);
    constexpr int count = 12;
    const auto photos = moving_over(scene, count, 1.5);
    const Loop whole(photos, 100), calm(photos, 60);
    CHECK(calm.bytes < whole.bytes / 4);
    const cv::Rect still(0, 120, 320, 120);
    for (int i = 1; i < count; ++i) {
        const auto n = std::size_t(i);
        CHECK(cv::norm(calm.seen[n](still), calm.seen[0](still), cv::NORM_L1) / double(still.area()) < 0.5);
        CHECK(std::abs(int(calm.seen[n].at<cv::Vec3b>(60, 30 + 12 * i)[2]) - 220) < 40);
        // No pixel keeps what is no longer there.
        cv::Mat off;
        cv::absdiff(calm.seen[n], photos[n], off);
        double most = 0;
        cv::minMaxLoc(off.reshape(1), nullptr, &most);
        CHECK(most < 90);
        CHECK(cv::mean(off.reshape(1))[0] < 6);
    }
}

TEST_CASE("Dither shows between two colours what lies between them", "[gif][loop]")
{
    cv::Mat ramp(100, 256, CV_8UC3);
    for (int x = 0; x < 256; ++x)
        ramp.col(x).setTo(cv::Scalar::all(x));
    const auto smooth_error = [&](bool dither) {
        const Loop loop({ramp}, 100, dither, 8);
        cv::Mat seen;
        cv::blur(loop.seen[0], seen, {9, 9});
        return cv::norm(seen(cv::Rect(10, 10, 236, 80)), ramp(cv::Rect(10, 10, 236, 80)), cv::NORM_L1) / (236 * 80 * 3);
    };
    CHECK(smooth_error(true) < 0.6 * smooth_error(false));
}

TEST_CASE("A palette is of what has a colour", "[gif]")
{
    cv::Mat m(20, 20, CV_8UC4, cv::Scalar(0, 0, 255, 0)); // red, but nothing of it is seen
    PaletteChooser chooser(16);
    chooser.look_at(m);
    CHECK(chooser.choose() == std::vector<cv::Vec3b>{{0, 0, 0}});
    m(cv::Rect(0, 0, 10, 10)).setTo(cv::Scalar(10, 200, 30, 255));
    chooser.look_at(m);
    const auto found = chooser.choose();
    REQUIRE(found.size() == 1);
    CHECK(found[0] == cv::Vec3b(10, 200, 30));
}

TEST_CASE("Dark colours that count are told apart as finely as light ones", "[gif]")
{
    // A dark ramp and a light one of the same length, of a hue that turns.
    cv::Mat m(80, 192, CV_8UC3);
    for (int y = 0; y < m.rows; ++y)
        for (int x = 0; x < m.cols; ++x) {
            const int at = (x % 96) / 2 + (x < 96 ? 2 : 200);
            m.at<cv::Vec3b>(y, x) = cv::Vec3b(std::uint8_t(at), std::uint8_t(at * (80 + y) / 160), std::uint8_t(at));
        }
    const auto errors = [&](DarkColours dark) {
        PaletteChooser chooser(48, dark);
        chooser.look_at(m);
        const auto colours = chooser.choose();
        std::array<double, 2> sums{};
        for (int y = 0; y < m.rows; ++y)
            for (int x = 0; x < m.cols; ++x) {
                double nearest = 1e9;
                for (const cv::Vec3b& c : colours)
                    nearest = std::min(nearest, cv::norm(cv::Vec3d(c) - cv::Vec3d(m.at<cv::Vec3b>(y, x))));
                sums.at(x < 96 ? 0 : 1) += nearest;
            }
        return sums;
    };
    const auto [dark, light] = errors(DarkColours::count);
    const auto [dark_as_seen, light_as_seen] = errors(DarkColours::as_seen);
    CAPTURE(dark, light, dark_as_seen, light_as_seen);
    CHECK(dark < 0.8 * dark_as_seen);
    CHECK(dark + light < dark_as_seen + light_as_seen);
}

TEST_CASE("A transparent picture that is held longer than a delay can say stays to its end", "[gif][loop]")
{
    TempFolder t;
    Shot shot;
    shot.name = "sign";
    for (int i = 0; i < 2; ++i) {
        cv::Mat m(40, 60, CV_8UC4, cv::Scalar(0, 0, 0, 0));
        m(cv::Rect(20 * i, 10, 20, 20)).setTo(cv::Scalar(20, 180, 40, 255));
        const auto file = t / "s" / (std::to_string(i) + ".png");
        write_picture(file, m);
        shot.photos.push_back({scanned(file), Seconds{Fraction(700)}});
    }
    ExportOrder order;
    order.preset = *find_preset("loop");
    order.file = t / "l.gif";
    run_export(set_delivered_at(add_shot({}, shot), Rate(1)), order, Originals(), {});
    output_of("convert " + quoted(t / "l.gif") + " -coalesce " + quoted(t / "f_%d.png"));
    for (int part = 0; part < 4; ++part) { // two of each, since 655.35 s are the longest
        const cv::Mat seen = cv::imread((t / ("f_" + std::to_string(part) + ".png")).native(), cv::IMREAD_UNCHANGED);
        REQUIRE(seen.type() == CV_8UC4);
        CHECK(seen.at<cv::Vec4b>(20, 10)[3] == (part < 2 ? 255 : 0));
        CHECK(seen.at<cv::Vec4b>(20, 30)[3] == (part < 2 ? 0 : 255));
        CHECK(seen.at<cv::Vec4b>(20, 50)[3] == 0);
    }
}

TEST_CASE("a loop below a limit is the one that its settings make without one", "[export][gif]")
{
    cv::Mat scene(120, 160, CV_8UC3);
    cv::RNG random(11);
    random.fill(scene, cv::RNG::UNIFORM, 0, 255);
    cv::GaussianBlur(scene, scene, {}, 4);
    cv::normalize(scene, scene, 0, 255, cv::NORM_MINMAX);
    const auto photos = moving_over(scene, 6, 2);
    const Loop free(photos, 100);
    const Loop limited(photos, 100, false, 256, std::int64_t(free.bytes) * 7 / 10);
    REQUIRE(limited.tried.size() > 2); // the colours were chosen once for all of them
    CHECK(limited.bytes <= free.bytes * 7 / 10);
    const TriedSettings& chosen = limited.tried.back();
    REQUIRE(chosen.size == cv::Size(160, 120));
    const Loop again(photos, chosen.quality, false, chosen.colours);
    CHECK(again.bytes == limited.bytes);
    CHECK(read_whole_file(again.folder / "l.gif") == read_whole_file(limited.folder / "l.gif"));
}

TEST_CASE("what settings would give is worked out from strips, and one or two files are written", "[export][gif]")
{
    const cv::Mat scene = real_scene()(cv::Rect(60, 40, 400, 300)).clone();
    const auto photos = moving_over(scene, 24, 2);
    const Loop free(photos, 90);
    const auto limit = std::int64_t(free.bytes) * 6 / 10;
    const Loop limited(photos, 90, false, 256, limit);
    const auto files =
        std::count_if(limited.tried.begin(), limited.tried.end(), [](const TriedSettings& t) { return !t.sampled; });
    CAPTURE(limit, limited.bytes, files, limited.tried.size());
    CHECK(files <= 3);
    CHECK(limited.tried.size() > std::size_t(files));
    CHECK_FALSE(limited.tried.back().sampled);
    CHECK(limited.tried.back().bytes == limited.bytes);
    CHECK(limited.bytes <= std::uintmax_t(limit));
    // As near as that, or one quality more was written and is too large: noise stays or goes all at once.
    const TriedSettings& chosen = limited.tried.back();
    CHECK((double(limited.bytes) >= 0.95 * double(limit) ||
           std::any_of(limited.tried.begin(), limited.tried.end(), [&](const TriedSettings& t) {
               return !t.sampled && t.quality == chosen.quality + 1 && t.bytes > std::uintmax_t(limit);
           })));
    for (const auto& e : std::filesystem::directory_iterator(limited.folder.path())) // hidden ones, too
        CHECK(e.path().filename().native().find("frenlo-size") == std::string::npos);
}

}
