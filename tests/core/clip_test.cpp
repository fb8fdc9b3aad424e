// Clips, animations and files of several pages as photos, against FFmpeg's own program and arithmetic.
#include "core/export/export.h"
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/source/decode.h"
#include "core/source/inspect.h"
#include "core/source/matching.h"
#include "core/source/open_files.h"
#include "core/source/photo_source.h"
#include "core/source/transfer.h"
#include "core/steps/sort/clip_taking.h"
#include "core/steps/sort/filing.h"
#include "core/steps/sort/scan_edits.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <fstream>
#include <random>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {
namespace fs = std::filesystem;

namespace {

constexpr int count = 90;
/// Mean difference of two conversions of one picture of hard, strong colours at half resolution: FFmpeg's repeats each
/// colour for two pixels, Frenlo's brings them up by a filter. In flat parts they agree within one (measured).
constexpr double alike = 4.5;
const std::string pattern = "-f lavfi -i testsrc2=size=160x96:rate=30000/1001:duration=3.003 ";

void ffmpeg(const std::string& arguments, const fs::path& file)
{
    output_of("ffmpeg -v error -y " + arguments + " " + quoted(file.native()));
    REQUIRE(fs::exists(file));
}

/// All frames by FFmpeg's own program, decoded from the start, grey.
std::vector<cv::Mat> decoded_by_ffmpeg(const fs::path& file, cv::Size size)
{
    const std::string raw =
        output_of("ffmpeg -v error -i " + quoted(file.native()) +
                  " -vsync passthrough -f rawvideo -pix_fmt bgr24 -sws_flags accurate_rnd+full_chroma_int -");
    std::vector<cv::Mat> frames;
    const auto each = std::size_t(size.area()) * 3;
    for (std::size_t at = 0; at + each <= raw.size(); at += each)
        frames.push_back(cv::Mat(size, CV_8UC3, const_cast<char*>(raw.data() + at)).clone());
    return frames;
}

cv::Mat eight(cv::Mat m)
{
    if (m.depth() == CV_16U)
        m.convertTo(m, CV_8U, 1.0 / 257);
    return m;
}

/// Mean, of pictures at half their size: colour has half the resolution, and is brought up by other filters there.
double difference(const cv::Mat& a, const cv::Mat& b)
{
    cv::Mat x, y;
    cv::resize(a, x, {}, 0.5, 0.5, cv::INTER_AREA);
    cv::resize(b, y, {}, 0.5, 0.5, cv::INTER_AREA);
    return cv::norm(x, y, cv::NORM_L1) / double(x.total() * 3);
}

std::vector<PhotoPtr> all_pictures(const Inspected& found)
{
    return pictures_of(found.photo, *found.times, picked(*found.times, {}));
}

}

TEST_CASE("Any picture of a clip that is sought is the one that decoding all gives")
{
    const TempFolder t;
    // Three codecs with pictures that are decoded out of their order, open groups, containers with and without an
    // index, clocks of many kinds.
    const auto [name, how] = GENERATE(table<std::string, std::string>({
        {"h264.mp4", "-c:v libx264 -g 24 -bf 3 -pix_fmt yuv420p"},
        {"h265.mkv", "-c:v libx265 -x265-params log-level=error:open-gop=1:keyint=20:bframes=3 -pix_fmt yuv420p"},
        {"mpeg2.mpg", "-c:v mpeg2video -g 15 -bf 2 -b:v 3M"},
        {"mpeg4.avi", "-c:v mpeg4 -bf 2 -b:v 3M"},
        {"h264.mts", "-c:v libx264 -g 24 -bf 3 -pix_fmt yuv420p -f mpegts"},
        {"vp9.webm", "-c:v libvpx-vp9 -cpu-used 8 -g 30 -b:v 1M -pix_fmt yuv420p"},
        {"ten.mov", "-c:v libx264 -g 24 -bf 3 -pix_fmt yuv422p10le"},
    }));
    INFO(name);
    ffmpeg(pattern + how, t / name);
    const Inspected found = inspect(t / name);
    REQUIRE(found.state == PhotoState::fine);
    REQUIRE(found.times);
    CHECK(found.photo->pictures == count);
    CHECK(found.photo->size == cv::Size(160, 96));
    REQUIRE(found.times->rate);
    CHECK(found.times->rate->value() == Fraction(30'000, 1'001));

    const auto truth = decoded_by_ffmpeg(t / name, {160, 96});
    REQUIRE(truth.size() == std::size_t(count));
    const auto photos = all_pictures(found);
    OpenFiles files;
    std::mt19937 random(20'261'128);
    double worst = 0;
    for (int i = 0; i < 70; ++i) {
        const auto n = std::size_t(random() % count);
        const auto got = decode(*photos[n], {}, Numbers::encoded, &files);
        REQUIRE(got);
        const cv::Mat m = eight(got->pixels);
        const double own = difference(m, truth[n]);
        worst = std::max(worst, own);
        for (const std::size_t other : {n - 1, n + 1})
            if (other < truth.size())
                REQUIRE(own < difference(m, truth[other]));
    }
    CHECK(worst < alike);
    const auto alone = decode(*photos[41]); // opened for itself
    REQUIRE(alone);
    CHECK(difference(eight(alone->pixels), truth[41]) < alike);
}

TEST_CASE("Colours of a clip are what its tags say")
{
    const TempFolder t;
    // Flat colours: R G B to Y'CbCr and back, Rec. ITU-R BT.709-6 and BT.601, by FFmpeg's own program.
    const auto [how, within] = GENERATE(table<std::string, int>({
        {"-vf scale=out_color_matrix=bt709 -colorspace bt709", 2},
        {"-vf scale=out_color_matrix=bt601 -colorspace smpte170m -color_primaries bt709", 2},
        {"-vf scale=out_color_matrix=bt601:out_range=full -colorspace smpte170m -color_range pc -color_primaries bt709",
         2},
    }));
    ffmpeg("-f lavfi -i color=0xC86428:size=64x64:rate=25:duration=0.2 " + how + " -c:v libx264 -qp 1 -pix_fmt yuv444p",
           t / "flat.mp4");
    const auto found = inspect(t / "flat.mp4");
    REQUIRE(found.times);
    const auto m = decode(*all_pictures(found)[2]);
    REQUIRE(m);
    const auto v = m->pixels.at<cv::Vec3b>(32, 32);
    CHECK(std::abs(v[2] - 0xC8) <= within);
    CHECK(std::abs(v[1] - 0x64) <= within);
    CHECK(std::abs(v[0] - 0x28) <= within);
}

TEST_CASE("A clip that lies on its side stands upright, with its shape")
{
    const TempFolder t;
    ffmpeg(pattern + "-c:v libx264 -pix_fmt yuv420p", t / "flat.mp4");
    ffmpeg("-i " + quoted((t / "flat.mp4").native()) + " -c copy -metadata:s:v:0 rotate=90", t / "turned.mp4");
    ffmpeg(pattern + "-vf setsar=2/1 -c:v libx264 -pix_fmt yuv420p", t / "wide.mp4");
    const auto turned = inspect(t / "turned.mp4"), wide = inspect(t / "wide.mp4");
    CHECK(turned.photo->size == cv::Size(96, 160));
    CHECK(wide.photo->size == cv::Size(320, 96));
    const cv::Mat b = decode(*all_pictures(turned)[5])->pixels;
    REQUIRE(b.size() == cv::Size(96, 160));
    const auto shown = decoded_by_ffmpeg(t / "turned.mp4", {96, 160}); // which turns it itself
    CHECK(difference(b, shown[5]) < alike);
    CHECK(decode(*all_pictures(wide)[5])->pixels.size() == cv::Size(320, 96));
}

TEST_CASE("Animations come apart into photos, their delays as holds")
{
    const TempFolder t;
    const std::string five = "-f lavfi -i testsrc=size=80x60:rate=20/3:duration=1.5 "; // 0.15 s each
    ffmpeg(five, t / "loop.gif");
    ffmpeg(five + "-plays 0 -f apng", t / "loop.png");
    ffmpeg(five + "-c:v libwebp_anim -lossless 1 -loop 0", t / "loop.webp");
    for (const char* name : {"loop.gif", "loop.png", "loop.webp"}) {
        INFO(name);
        const auto found = inspect(t / name);
        REQUIRE(found.times);
        REQUIRE(found.times->count == 10);
        const Shot shot = clip_shot({found.photo, found.times}, {});
        REQUIRE(shot.photos.size() == 10);
        for (const ShotPhoto& p : shot.photos)
            CHECK(p.hold == Hold(Seconds{Fraction(3, 20)}));
        OpenFiles files;
        const auto truth = decoded_by_ffmpeg(t / "loop.gif", {80, 60});
        REQUIRE(truth.size() == 10);
        for (const std::size_t n : {9, 0, 4, 3, 7}) { // backwards, too
            const auto m = decode(*shot.photos[n].photo, {}, Numbers::encoded, &files);
            REQUIRE(m);
            cv::Mat bgr = m->pixels;
            if (bgr.channels() == 4)
                cv::cvtColor(bgr, bgr, cv::COLOR_BGRA2BGR);
            for (std::size_t other = 0; other < truth.size(); ++other)
                if (other != n)
                    CHECK(difference(bgr, truth[n]) < difference(bgr, truth[other]));
        }
    }
}

TEST_CASE("A still in a format of animations is a photo")
{
    const TempFolder t;
    ffmpeg("-f lavfi -i testsrc=size=80x60:rate=1:duration=1 -frames:v 1", t / "one.gif");
    const auto found = inspect(t / "one.gif");
    CHECK(found.state == PhotoState::fine);
    CHECK_FALSE(found.times);
    CHECK(found.photo->size == cv::Size(80, 60));
    CHECK(decode(*found.photo)->pixels.size() == cv::Size(80, 60));
}

TEST_CASE("The pages of a TIFF are photos, its small copies are not")
{
    const TempFolder t;
    output_of("convert -size 80x60 xc:red xc:lime xc:blue " + quoted((t / "pages.tif").native()));
    const auto found = inspect(t / "pages.tif");
    REQUIRE(found.times);
    CHECK(found.times->count == 3);
    const auto photos = all_pictures(found);
    CHECK(eight(decode(*photos[2])->pixels).at<cv::Vec3b>(10, 10) == cv::Vec3b(255, 0, 0));
    CHECK(eight(decode(*photos[0])->pixels).at<cv::Vec3b>(10, 10) == cv::Vec3b(0, 0, 255));
    const Shot shot = clip_shot({found.photo, found.times}, {});
    CHECK(shot.photos[1].hold == Hold(Frames{1}));
    output_of("convert -size 80x60 xc:red \\( -size 20x15 xc:red \\) " + quoted((t / "small.tif").native()));
    CHECK_FALSE(inspect(t / "small.tif").times);
}

TEST_CASE("What is taken of a clip")
{
    PictureTimes times; // 100 pictures, 25 a second
    times.count = 100;
    times.rate = Rate(25);
    for (int i = 0; i < 100; ++i)
        times.begins.push_back({Fraction(i, 25)});
    times.end = {Fraction(4)};
    const auto firsts = [&](const char* how) {
        std::vector<std::int64_t> n;
        for (const auto& p : picked(times, *parse_taking(how)))
            n.push_back(p.first);
        return n;
    };
    CHECK(firsts("all").size() == 100);
    CHECK(firsts("every:30") == std::vector<std::int64_t>{0, 30, 60, 90});
    CHECK(firsts("interval:1s") == std::vector<std::int64_t>{0, 25, 50, 75});
    CHECK(firsts("interval:1/3s").size() == 12);   // 4 s / (1/3 s)
    CHECK(firsts("interval:0.01s").size() == 100); // no picture twice
    CHECK(firsts("speed:20") == std::vector<std::int64_t>{0, 20, 40, 60, 80});
    CHECK(firsts("speed:2.5") == firsts("interval:0.1s")); // 2.5 / 25 s
    std::int64_t sum = 0;
    for (const auto& p : picked(times, *parse_taking("every:30+average")))
        sum += p.averaged;
    CHECK(sum == 100); // each is in one average
    for (const char* bad :
         {"", "every:0", "every:x", "interval:0s", "interval:3f", "speed:0.5", "speed:2000", "half:2"})
        CHECK_FALSE(parse_taking(bad));
    for (const char* good : {"all", "every:7", "interval:0.5s", "speed:20", "speed:5/2+average"})
        CHECK(taking_text(*parse_taking(good)) == good);
}

TEST_CASE("Times that vary are holds, and add up to the clip's length")
{
    const TempFolder t;
    // Each third picture comes half a picture late.
    ffmpeg("-f lavfi -i testsrc2=size=64x48:rate=10:duration=3 -vf \"settb=1/1000,setpts='100*N+50*mod(N,3)/2'\" "
           "-vsync passthrough "
           "-enc_time_base 1/1000 -video_track_timescale 1000 -c:v libx264 -bf 2 -pix_fmt yuv420p",
           t / "uneven.mp4");
    const auto found = inspect(t / "uneven.mp4");
    REQUIRE(found.times);
    REQUIRE(found.times->count == 30);
    CHECK_FALSE(found.times->rate);
    const Shot shot = clip_shot({found.photo, found.times}, {});
    CHECK_FALSE(shot.pacing.paced_at);
    CHECK(shot.photos[0].hold == Hold(Seconds{Fraction(125, 1000)}));
    CHECK(shot.photos[2].hold == Hold(Seconds{Fraction(50, 1000)}));
    Fraction sum(0);
    for (const ShotPhoto& p : shot.photos)
        sum = sum + std::get<Seconds>(p.hold).value;
    CHECK(sum == found.times->end.value);
}

TEST_CASE("A long shutter: pictures left out are averaged in linear light")
{
    const TempFolder t;
    // White and black in turns: the mean light is a half, whose coded value is 188 (IEC 61966-2-1).
    ffmpeg("-f lavfi -i \"color=black:size=64x48:rate=25:duration=0.8,geq=lum='if(mod(N,2),255,0)':cb=128:cr=128\" "
           "-c:v ffv1 -pix_fmt yuv444p -color_range pc -colorspace bt709",
           t / "blink.mkv");
    const auto found = inspect(t / "blink.mkv");
    REQUIRE(found.times);
    REQUIRE(found.times->count == 20);
    const auto photos = pictures_of(found.photo, *found.times, picked(*found.times, *parse_taking("every:4+average")));
    REQUIRE(photos.size() == 5);
    const auto m = decode(*photos[3]);
    REQUIRE(m);
    REQUIRE(m->pixels.depth() == CV_16U);
    const double expected = encoded_of(0.5) * 65'535;
    CHECK(std::abs(m->pixels.at<cv::Vec3w>(20, 20)[1] - expected) < 300);
}

TEST_CASE("Clips that are no use say why, and lists of other files are not followed")
{
    const TempFolder t;
    ffmpeg(pattern + "-c:v libx264 -pix_fmt yuv420p", t / "whole.mp4");
    const auto bytes = fs::file_size(t / "whole.mp4");
    fs::copy_file(t / "whole.mp4", t / "cut.mp4");
    fs::resize_file(t / "cut.mp4", bytes / 2);
    ffmpeg("-f lavfi -i sine=duration=1 -c:a aac", t / "sound.mp4");
    std::ofstream(t / "list.mp4") << "#EXTM3U\n#EXTINF:1,\n" << (t / "whole.mp4").native() << "\n#EXT-X-ENDLIST\n";
    std::ofstream(t / "junk.MOV") << std::string(3000, 'x');
    for (const char* name : {"cut.mp4", "sound.mp4"}) {
        INFO(name);
        const auto found = inspect(t / name);
        CHECK(found.state == PhotoState::unreadable);
        REQUIRE(found.finding);
        CHECK(found.finding->text.find(name) != std::string::npos);
        CHECK(found.finding->text.find("cannot be read") != std::string::npos);
    }
    CHECK(inspect(t / "list.mp4").ignored);
    CHECK(inspect(t / "junk.MOV").ignored);
    const std::array<fs::path, 1> places{t.path()};
    const ScanResult found = scan(places, {}, {});
    CHECK(found.photos.empty());
    CHECK(found.clips.size() == 1);
}

TEST_CASE("A clip that is cut off in Matroska gives the pictures that there are")
{
    const TempFolder t;
    ffmpeg(pattern + "-c:v libx264 -g 12 -pix_fmt yuv420p", t / "cut.mkv");
    fs::resize_file(t / "cut.mkv", fs::file_size(t / "cut.mkv") / 2);
    const auto found = inspect(t / "cut.mkv");
    REQUIRE(found.times);
    CHECK(found.times->count > 20);
    CHECK(found.times->count < 70);
    const auto photos = all_pictures(found);
    CHECK(decode(*photos[photos.size() / 2]));
}

TEST_CASE("An edit list and a first time below 0 leave out what players do not show")
{
    const TempFolder t;
    ffmpeg(pattern + "-c:v libx264 -g 24 -bf 3 -pix_fmt yuv420p", t / "whole.mp4");
    ffmpeg("-ss 1.1 -i " + quoted((t / "whole.mp4").native()) + " -c copy", t / "edit.mp4");
    const auto truth = decoded_by_ffmpeg(t / "edit.mp4", {160, 96});
    const auto found = inspect(t / "edit.mp4");
    REQUIRE(found.times);
    REQUIRE(found.times->count == std::int64_t(truth.size()));
    const auto photos = all_pictures(found);
    for (const std::size_t n : {std::size_t(0), truth.size() / 2, truth.size() - 1})
        CHECK(difference(decode(*photos[n])->pixels, truth[n]) < alike);
}

TEST_CASE("A clip in a project: saved, moved, found again, filed and exported")
{
    const TempFolder t;
    fs::create_directories(t / "card");
    ffmpeg(pattern + "-c:v libx264 -g 24 -bf 3 -pix_fmt yuv420p", t / "card" / "ferry.mp4");
    const std::array<fs::path, 1> places{t / "card"};
    Project project =
        add_scanned({}, scan(places, {}, {}), std::nullopt, Division::card, "card", parse_taking("every:9"));
    REQUIRE(project.shots.size() == 1);
    CHECK(project.shot(ShotIndex(0)).name == "ferry");
    CHECK(project.shot(ShotIndex(0)).photos.size() == 10);
    CHECK(shown_name(*project.shot(ShotIndex(0)).photos[2].photo) == "ferry.mp4, picture 19");
    save_new_project(project, t / "ferry.frenlo");

    SECTION("It is read as it was written")
    {
        const LoadedProject loaded = load_project(t / "ferry.frenlo");
        CHECK(loaded.problems.empty());
        CHECK(loaded.project == project);
    }
    SECTION("Found again in another folder, each picture as it was")
    {
        fs::create_directories(t / "elsewhere");
        fs::rename(t / "card" / "ferry.mp4", t / "elsewhere" / "renamed.mp4");
        std::vector<PhotoPtr> gone;
        for (const ShotPhoto& p : project.shot(ShotIndex(0)).photos)
            gone.push_back(p.photo);
        const std::array<fs::path, 1> others{t / "elsewhere"};
        const auto matches = find_again(gone, others, {});
        REQUIRE(matches.size() == 10);
        const Project now = replace_photos(project, matches);
        CHECK(now.shot(ShotIndex(0)).photos[3].photo->picture == 27);
        CHECK(now.shot(ShotIndex(0)).photos[3].photo->file == t / "elsewhere" / "renamed.mp4");
        CHECK(decode(*now.shot(ShotIndex(0)).photos[3].photo));
    }
    SECTION("Written in order, the clip is copied whole, once")
    {
        const FilingPlan plan = plan_filing(project, t / "sorted", FilingWay::copy);
        REQUIRE(plan.steps.size() == 1);
        CHECK(plan.steps.front().to == t / "sorted" / "ferry" / "ferry.mp4");
    }
    SECTION("Taken in another way, photos that stay keep what was made of them")
    {
        const Shot& shot = project.shot(ShotIndex(0));
        const std::array turned{PhotoIndex(2)};
        const Project aside = set_aside(project, ShotIndex(0), turned, true);
        const auto clip = inspect(clip_of(shot)->file);
        const Project more = take_anew(aside, ShotIndex(0), {clip.photo, clip.times}, *parse_taking("every:3"));
        REQUIRE(more.shot(ShotIndex(0)).photos.size() == 30);
        CHECK(more.shot(ShotIndex(0)).photos[6].aside); // picture 18
        CHECK(more.shot(ShotIndex(0)).photos[6].id == aside.shot(ShotIndex(0)).photos[2].id);
        CHECK_FALSE(more.shot(ShotIndex(0)).photos[5].aside);
    }
    SECTION("Exported, with the clip's own rate conformed")
    {
        ExportOrder order;
        order.file = t / "film.mp4";
        const ExportReport report = run_export(project, order, Originals(), {});
        CHECK(report.plan.frames == 8); // 10 photos at 30000/1001 delivered at 24: 10 * 1001/30000 * 24 = 8.008
    }
}

}
