// Every format that is written, read back by FFmpeg's own programs and by other decoders.
#include "core/base/field_json.h"
#include "core/export/export.h"
#include "core/export/format.h"
#include "core/export/join.h"
#include "core/export/kept_presets.h"
#include "core/picture/picture.h"
#include "core/project/edits.h"
#include "core/source/decode.h"
#include "core/source/inspect.h"
#include "core/source/open_files.h"
#include "core/source/transfer.h"
#include "core/steps/frame/frame_edits.h"
#include "core/steps/sort/scan_edits.h"
#include "core/timeline/timeline.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {
namespace fs = std::filesystem;

namespace {

const cv::Size size(320, 180);

/// Six photos, 8 or 16 bit, with or without alpha, two frames each.
Project photos_in(const fs::path& folder, bool deep, bool alpha, Rate rate = Rate(Fraction(24'000, 1'001)))
{
    for (int i = 0; i < 6; ++i) {
        cv::Mat m = painted(size, 20 + i);
        if (deep) {
            m.convertTo(m, CV_16U, 257);
            cv::Mat fine(m.size(), m.type());
            cv::randu(fine, 0, 257);
            cv::add(m, fine, m); // all sixteen bits say something
        }
        if (alpha) {
            cv::cvtColor(m, m, cv::COLOR_BGR2BGRA);
            cv::Mat a(m.size(), deep ? CV_16U : CV_8U, cv::Scalar(0));
            cv::circle(a, {160, 90}, 60 + 4 * i, cv::Scalar(deep ? 65'535 : 255), -1);
            cv::blur(a, a, {9, 9});
            cv::insertChannel(a, m, 3);
        }
        write_picture(folder / ("p_000" + std::to_string(i + 1) + ".png"), m);
    }
    Project project;
    project.delivered_at = rate;
    const std::array<fs::path, 1> places{folder};
    return add_scanned(project, scan(places, {}, {}), Hold(Frames{2}), Division::one_shot, "s");
}

fs::path exported(const Project& project, const fs::path& folder, const char* preset, std::optional<Depth> depth = {})
{
    ExportOrder order;
    order.preset = *find_preset(preset);
    order.preset.long_side = 0;
    if (depth)
        order.preset.depth = *depth;
    order.file = folder / ("film" + std::string(format_of(order.preset).ending()));
    const ExportReport report = run_export(project, order, Originals(), {});
    CHECK(report.checked);
    return order.file;
}

std::string probed(const fs::path& file, const char* entries)
{
    return output_of("ffprobe -v error -count_frames -select_streams v -show_entries stream=" + std::string(entries) +
                     " -of default=nw=1 " + quoted(file.native()));
}

/// All frames by FFmpeg's own program.
std::vector<cv::Mat> by_ffmpeg(const fs::path& file, const char* pixels, int type)
{
    const std::string raw =
        output_of("ffmpeg -v error -i " + quoted(file.native()) +
                  " -vsync passthrough -f rawvideo -sws_flags accurate_rnd+full_chroma_int+full_chroma_inp -pix_fmt " +
                  pixels + " -");
    std::vector<cv::Mat> frames;
    const std::size_t each = std::size_t(size.area()) * CV_ELEM_SIZE(type);
    for (std::size_t at = 0; at + each <= raw.size(); at += each)
        frames.push_back(cv::Mat(size, type, const_cast<char*>(raw.data() + at)).clone());
    return frames;
}

cv::Mat photo(const fs::path& folder, int number)
{
    return cv::imread((folder / ("p_000" + std::to_string(number) + ".png")).native(), cv::IMREAD_UNCHANGED);
}

double mean_difference(const cv::Mat& a, const cv::Mat& b)
{
    return cv::norm(a, b, cv::NORM_L1) / double(a.total() * std::size_t(a.channels()));
}

}

TEST_CASE("each kind of film has its frames, its exact rate, its tags and its pictures", "[export][formats]")
{
    const TempFolder t;
    const Project project = photos_in(t / "s", false, false);
    struct Row
    {
        const char* preset;
        const char* codec;
        double within; ///< mean of code values: what quantisation and colour at half resolution leave
        bool tagged;
    };
    // 422 and 420 lose colour between pixels, by how much each is from experience.
    const Row row =
        GENERATE(Row{"film", "h264", 4, true}, Row{"film-mov", "h264", 4, true}, Row{"film-h265", "hevc", 4, true},
                 Row{"film-h265-10", "hevc", 4, true}, Row{"film-vp9", "vp9", 5, true}, Row{"film-av1", "av1", 5, true},
                 Row{"edit", "prores", 2.5, true}, Row{"edit-vc3", "dnxhd", 2.5, true},
                 Row{"edit-lossless", "ffv1", 0, true}, Row{"edit-mjpeg", "mjpeg", 2.5, false},
                 Row{"edit-raw", "rawvideo", 0, false}, Row{"edit-raw-mov", "rawvideo", 0, false});
    INFO(row.preset);
    const fs::path file = exported(project, t.path(), row.preset);
    const std::string told = probed(file, "codec_name,r_frame_rate,nb_read_frames,color_primaries,color_space");
    INFO(told);
    CHECK(told.find(std::string("codec_name=") + row.codec + "\n") != std::string::npos);
    CHECK(told.find("r_frame_rate=24000/1001") != std::string::npos);
    CHECK(told.find("nb_read_frames=12\n") != std::string::npos);
    if (row.tagged)
        CHECK(told.find("color_primaries=bt709") != std::string::npos);
    const auto frames = by_ffmpeg(file, "bgr24", CV_8UC3);
    REQUIRE(frames.size() == 12);
    for (int i = 0; i < 12; ++i) {
        const double own = mean_difference(frames[std::size_t(i)], photo(t / "s", i / 2 + 1));
        CHECK(own <= row.within);
        for (const int other : {i / 2, i / 2 + 2}) // none lost, doubled or shifted
            if (other >= 1 && other <= 6)
                CHECK(own < mean_difference(frames[std::size_t(i)], photo(t / "s", other)));
    }
}

TEST_CASE("lossless is bit for bit, 16 bits and alpha included", "[export][formats]")
{
    const TempFolder t;
    const auto [deep, alpha] = GENERATE(table<bool, bool>({{false, true}, {true, false}, {true, true}}));
    INFO(deep << ' ' << alpha);
    const Project project = photos_in(t / "s", deep, alpha, Rate(25));
    const fs::path file = exported(project, t.path(), "edit-lossless", deep ? Depth::sixteen : Depth::eight);
    const auto frames = alpha ? (deep ? by_ffmpeg(file, "bgra64le", CV_16UC4) : by_ffmpeg(file, "bgra", CV_8UC4))
                              : by_ffmpeg(file, "bgr48le", CV_16UC3);
    REQUIRE(frames.size() == 12);
    for (int i = 0; i < 12; ++i)
        CHECK(cv::norm(frames[std::size_t(i)], photo(t / "s", i / 2 + 1), cv::NORM_INF) == 0);
}

TEST_CASE("loops of PNG and WebP keep every bit that they promise, and each hold", "[export][formats]")
{
    const TempFolder t;
    const bool alpha = GENERATE(false, true);
    Project project = photos_in(t / "s", false, alpha, Rate(25));
    auto shot = std::make_shared<Shot>(project.shot(ShotIndex(0)));
    shot->photos.edit(1).hold = Seconds{Fraction(3, 20)};
    shot->photos.edit(2).hold = Seconds{Fraction(1, 3)};
    project.shots[0] = shot;
    for (const char* preset : {"loop-png", "loop-webp-lossless"}) {
        INFO(preset << ' ' << alpha);
        const fs::path file = exported(project, t.path(), preset);
        const auto found = inspect(file);
        REQUIRE(found.times);
        REQUIRE(found.times->count == 6);
        CHECK(found.photo->alpha == alpha);
        // 80 ms, 150 ms, then a third of a second to 1/1000 s
        CHECK(found.times->begins[2] == Seconds{Fraction(230, 1000)});
        CHECK(found.times->begins[3] == Seconds{Fraction(563, 1000)});
        CHECK(found.times->end == Seconds{Fraction(803, 1000)});
        OpenFiles files;
        std::vector<PickedPicture> all;
        for (int i = 0; i < 6; ++i)
            all.push_back({i, 1});
        for (const PhotoPtr& p : pictures_of(found.photo, *found.times, all)) {
            cv::Mat m = decode(*p, {}, Numbers::encoded, &files)->pixels;
            const cv::Mat truth = photo(t / "s", int(p->picture) + 1);
            if (m.channels() != truth.channels())
                cv::cvtColor(m, m, truth.channels() == 4 ? cv::COLOR_BGR2BGRA : cv::COLOR_BGRA2BGR);
            if (!alpha) {
                CHECK(cv::norm(m, truth, cv::NORM_INF) == 0);
                continue;
            }
            // Under what is wholly transparent anything may lie.
            cv::Mat a, shown, differs;
            cv::extractChannel(truth, a, 3);
            cv::absdiff(m, truth, differs);
            differs.setTo(cv::Scalar::all(0), a == 0);
            CHECK(cv::norm(differs, cv::NORM_INF) == 0);
        }
    }
}

TEST_CASE("loops of AVIF have each picture for its hold, transparent where they are, in few bytes", "[export][formats]")
{
    const TempFolder t;
    const bool alpha = GENERATE(false, true);
    INFO(alpha);
    Project project = photos_in(t / "s", false, alpha, Rate(25));
    auto shot = std::make_shared<Shot>(project.shot(ShotIndex(0)));
    shot->photos.edit(1).hold = Seconds{Fraction(3, 20)};
    project.shots[0] = shot;
    const fs::path file = exported(project, t.path(), "loop-avif");
    CHECK(read_bytes(file).substr(4, 8) == "ftypavis");
    // By a decoder that did not write it. Its packets say how long each is, in 1/1000 s.
    const std::string lasts = output_of(
        "ffprobe -v error -select_streams v:0 -show_entries packet=duration -of csv=p=0 " + quoted(file.native()));
    CHECK(std::count(lasts.begin(), lasts.end(), '\n') == 6);
    CHECK(lasts.substr(0, 7) == "80\n150\n");
    const auto frames = by_ffmpeg(file, "bgr24", CV_8UC3);
    REQUIRE(frames.size() >= 6);
    for (int i = 0; i < 6; ++i) {
        cv::Mat truth = photo(t / "s", i + 1), seen = frames[std::size_t(i)];
        if (alpha) { // what is transparent is another track; compared where nothing is
            cv::Mat a;
            cv::extractChannel(truth, a, 3);
            cv::cvtColor(truth, truth, cv::COLOR_BGRA2BGR);
            truth.setTo(cv::Scalar::all(0), a < 255);
            seen.setTo(cv::Scalar::all(0), a < 255);
        }
        CHECK(mean_difference(truth, seen) < 6);
    }
    if (alpha)
        CHECK(output_of("ffprobe -v error -show_entries stream=index -of csv=p=0 " + quoted(file.native())) ==
              "0\n1\n");
    if (!alpha) {
        const fs::path gif = exported(project, t.path(), "loop");
        CHECK(fs::file_size(file) * 2 < fs::file_size(gif));
    }
    SECTION("one photo alone lasts as long as it is held")
    {
        auto one = std::make_shared<Shot>(project.shot(ShotIndex(0)));
        one->photos.keep(0, 1);
        project.shots[0] = one;
        CHECK_NOTHROW(exported(project, t.path() / "one", "loop-avif"));
    }
}

TEST_CASE("presets of one's own are kept, found by name, and told apart from Frenlo's", "[export][presets]")
{
    const TempFolder t;
    const fs::path file = t / "kept" / "presets.json";
    CHECK(load_presets(file).empty());
    Preset mine = *find_preset("film-small");
    mine.name = mine.title = "Club site";
    mine.size = cv::Size(1080, 1350);
    mine.most_bytes = 8'000'000;
    mine.least_length = Seconds{Fraction(3)};
    mine.rate = Rate(Fraction(30'000, 1'001));
    CHECK(keep_preset(file, mine) == std::vector{mine});
    Preset other = mine;
    other.name = "Archive";
    CHECK(keep_preset(file, other).size() == 2);
    mine.quality = 91;
    CHECK(keep_preset(file, mine).size() == 2); // in place of the one before
    const auto own = load_presets(file);
    REQUIRE(find_preset("Club site", own));
    CHECK(*find_preset("Club site", own) == mine);
    CHECK(find_preset("film", own) == find_preset("film"));
    CHECK(forget_preset(file, "Club site") == std::vector{other});
    for (const char* name : {"", "a/b", "film"}) {
        Preset wrong = mine;
        wrong.name = name;
        CHECK_THROWS_AS(keep_preset(file, wrong), Failure);
    }
    SECTION("what a newer Frenlo keeps there stays, and is not offered")
    {
        Json j = Json::parse(read_bytes(file));
        j["presets"].push_back({{"name", "New"}, {"format", "of-tomorrow"}});
        j["more"] = 5;
        write_bytes(file, j.dump());
        CHECK(load_presets(file).size() == 1);
        keep_preset(file, mine);
        j = Json::parse(read_bytes(file));
        CHECK(j["presets"].size() == 3);
        CHECK(j["more"] == 5);
    }
    SECTION("a damaged file is said")
    {
        write_bytes(file, "[");
        CHECK_THROWS_AS(load_presets(file), Failure);
    }
}

TEST_CASE("a film for web pages stays transparent, and so does one for editing", "[export][formats]")
{
    const TempFolder t;
    const Project project = photos_in(t / "s", false, true, Rate(25));
    for (const char* preset : {"film-vp9", "edit"}) {
        INFO(preset);
        const fs::path file = exported(project, t.path(), preset);
        const std::string decoder = std::string(preset) == "film-vp9" ? "-c:v libvpx-vp9 " : "";
        const std::string raw =
            output_of("ffmpeg -v error " + decoder + "-i " + quoted(file.native()) + " -f rawvideo -pix_fmt bgra -");
        REQUIRE(raw.size() == std::size_t(size.area()) * 4 * 12);
        const cv::Mat frame(size, CV_8UC4, const_cast<char*>(raw.data()) + std::size_t(size.area()) * 4 * 6);
        cv::Mat got, wanted;
        cv::extractChannel(frame, got, 3);
        cv::extractChannel(photo(t / "s", 4), wanted, 3);
        CHECK(mean_difference(got, wanted) < 2);
    }
}

TEST_CASE("stills of more than eight bits keep them, and say their colours", "[export][formats]")
{
    const TempFolder t;
    const bool alpha = GENERATE(false, true);
    const Project project = photos_in(t / "s", true, alpha, Rate(25));
    ExportOrder order;
    order.preset = *find_preset("stills-tiff");
    order.file = t / "t_%04d.tif";
    run_export(project, order, Originals(), {});
    const cv::Mat truth = photo(t / "s", 2);
    // Another decoder than ours: ImageMagick's.
    output_of("convert " + quoted((t / "t_0003.tif").native()) + " -depth 16 " + quoted((t / "again.png").native()));
    const cv::Mat again = cv::imread((t / "again.png").native(), cv::IMREAD_UNCHANGED);
    REQUIRE(again.type() == truth.type());
    if (!alpha)
        CHECK(cv::norm(again, truth, cv::NORM_INF) == 0);
    CHECK(output_of("exiftool -s -ProfileDescription " + quoted((t / "t_0003.tif").native())).find("sRGB") !=
          std::string::npos);

    order.preset = *find_preset("stills-exr");
    order.file = t / "e_%04d.exr";
    run_export(project, order, Originals(), {});
    const auto found = inspect(t / "e_0003.exr");
    REQUIRE(found.state == PhotoState::fine);
    const cv::Mat light = decode(*found.photo, {}, Numbers::wide)->pixels;
    REQUIRE(light.depth() == CV_32F);
    const auto at = cv::Point(160, 90);
    const auto* coded = truth.ptr<std::uint16_t>(at.y) + at.x * truth.channels();
    const auto* linear = light.ptr<float>(at.y) + at.x * light.channels();
    for (int c = 0; c < 3; ++c) // half floats have eleven bits
        CHECK(double(linear[c]) == Approx(linear_of(coded[c] / 65'535.0)).epsilon(0.001).margin(1e-4));
}

TEST_CASE("a loop of a film that drifts shows each frame as long as the film does", "[export][formats]")
{
    const TempFolder t;
    Project project = photos_in(t / "s", false, false, Rate(25));
    project = set_view(project, ShotIndex(0), PhotoIndex(0), DriftView{{0, 0, 1, 1}, 0});
    project = set_view(project, ShotIndex(0), PhotoIndex(5), DriftView{{0.25, 0.25, 0.5, 0.5}, 0});
    const fs::path file = exported(project, t.path(), "loop");
    const auto found = inspect(file);
    REQUIRE(found.times);
    CHECK(found.times->count == 12); // a frame each, not one each hundredth of a second
    CHECK(found.times->end == Seconds{Fraction(48, 100)});
    CHECK(found.times->begins[1] == Seconds{Fraction(4, 100)});
}

TEST_CASE("what a format cannot be is said before anything is rendered", "[export][formats]")
{
    const TempFolder t;
    const Project project = photos_in(t / "s", false, false, Rate(25));
    ExportOrder order;
    order.preset = *find_preset("edit-vc3");
    order.preset.size = cv::Size(200, 100);
    order.file = t / "small.mov";
    try {
        plan_export(project, order);
        FAIL("it was planned");
    } catch (const Failure& failure) {
        CHECK(failure.problem().what.find("at least 256 pixels wide") != std::string::npos);
    }
    std::set<std::string_view> keys;
    for (const Format& f : formats()) {
        CHECK(keys.insert(f.key).second);
        CHECK(std::any_of(presets().begin(), presets().end(), [&](const Preset& p) { return p.format == f.key; }));
    }
}

TEST_CASE("a film made in pieces and joined is the film made in one go", "[export][formats][parts]")
{
    const TempFolder t;
    Project project = photos_in(t / "s", false, false);
    auto shot = std::make_shared<Shot>(project.shot(ShotIndex(0)));
    shot->pacing.times = 3; // 36 frames
    project.shots[0] = shot;
    const char* preset = GENERATE("film", "film-h265", "film-vp9", "edit-lossless", "edit", "edit-raw", "film-mov");
    INFO(preset);
    ExportOrder order;
    order.preset = *find_preset(preset);
    order.preset.long_side = 0;
    const std::string ending(format_of(order.preset).ending());
    order.file = t / ("whole" + ending);
    run_export(project, order, Originals(), {});
    std::vector<fs::path> pieces;
    std::int64_t frames = 0;
    constexpr int count = 8; // of 36 frames: 4 or 5 each
    for (int i = 1; i <= count; ++i) {
        order.part = FilmPart{i, count};
        order.file = t / ("piece" + std::to_string(i) + ending);
        frames += run_export(project, order, Originals(), {}).plan.frames;
        pieces.push_back(order.file);
    }
    CHECK(frames == 36);
    const Joined joined = join_pieces(pieces, t / ("joined" + ending), false, {});
    CHECK(joined.frames == 36);
    CHECK(joined.rate == Rate(Fraction(24'000, 1'001)));
    const auto times = [&](const char* name) {
        return output_of("ffprobe -v error -select_streams v -show_entries frame=pts_time -of default=nk=1:nw=1 " +
                         quoted((t / (name + ending)).native()));
    };
    if (ending != ".avi") // whose frames have no times but their order
        CHECK(times("joined") == times("whole"));
    const auto one = by_ffmpeg(t / ("whole" + ending), "bgr24", CV_8UC3);
    const auto put_together = by_ffmpeg(t / ("joined" + ending), "bgr24", CV_8UC3);
    REQUIRE(one.size() == 36);
    REQUIRE(put_together.size() == 36);
    const std::string_view name = preset;
    const double within = name == "edit-lossless" || name == "edit-raw" ? 0 : 3;
    for (std::size_t i = 0; i < one.size(); ++i)
        CHECK(mean_difference(one[i], put_together[i]) <= within);

    // Pieces of another film, or out of place, are refused.
    order.part.reset();
    order.preset.size = cv::Size(160, 90);
    order.file = t / ("small" + ending);
    run_export(project, order, Originals(), {});
    CHECK_THROWS_AS(join_pieces(std::array{pieces[0], order.file}, t / ("no" + ending), false, {}), Failure);
    CHECK_THROWS_AS(join_pieces(pieces, pieces[0], true, {}), Failure);
    CHECK_THROWS_AS(join_pieces(pieces, t / ("joined" + ending), false, {}), Failure);
    CHECK_FALSE(fs::exists(t / ("no" + ending)));
}

TEST_CASE("stills in parts have the numbers of the whole, a loop has no parts", "[export][formats][parts]")
{
    const TempFolder t;
    const Project project = photos_in(t / "s", false, false, Rate(25));
    ExportOrder order;
    order.preset = *find_preset("stills-jpeg");
    order.file = t / "o" / "p_%04d.jpg";
    for (int i = 1; i <= 5; ++i) {
        order.part = FilmPart{i, 5};
        run_export(project, order, Originals(), {});
    }
    for (int n = 1; n <= 12; ++n)
        CHECK(fs::exists(t / "o" / ("p_00" + std::string(n < 10 ? "0" : "") + std::to_string(n) + ".jpg")));
    CHECK_FALSE(fs::exists(t / "o" / "p_0013.jpg"));
    order.preset = *find_preset("loop");
    order.file = t / "l.gif";
    CHECK_THROWS_AS(plan_export(project, order), Failure);
    order.preset = *find_preset("film");
    order.file = t / "f.mp4";
    order.part = FilmPart{6, 5};
    CHECK_THROWS_AS(plan_export(project, order), Failure);
}

namespace {

/// Photos with detail that no encoder likes, some frames each.
Project detailed(const fs::path& folder, int photos, cv::Size of)
{
    for (int i = 0; i < photos; ++i) {
        cv::Mat m = painted(of, 70 + i), noise(of, CV_8UC3);
        cv::theRNG().state = std::uint64_t(i) + 9;
        cv::randn(noise, 0, 14);
        cv::add(m, noise, m);
        write_picture(folder / ("d_000" + std::to_string(i + 1) + ".png"), m);
    }
    const std::array<fs::path, 1> places{folder};
    return add_scanned({}, scan(places, {}, {}), Hold(Frames{2}), Division::one_shot, "s");
}

}

TEST_CASE("a size limit is kept, and no more is given away than it asks for", "[export][limit]")
{
    TempFolder t;
    const Project p = detailed(t / "p", 6, {320, 240});
    const std::string preset =
        GENERATE(std::string("film"), std::string("loop"), std::string("loop-webp"), std::string("film-vp9"));
    ExportOrder order;
    order.preset = *find_preset(preset);
    order.preset.long_side = 0;
    order.file = t / ("free" + std::string(format_of(order.preset).ending()));
    const std::uintmax_t free = run_export(p, order, Originals(), {}).bytes;
    auto made = std::distance(fs::directory_iterator(t.path()), fs::directory_iterator()) + 1;
    for (const double share : {0.7, 0.4, 0.15}) {
        order.preset.most_bytes = std::int64_t(double(free) * share);
        order.file = t / ("limited" + std::to_string(int(share * 100)) + std::string(format_of(order.preset).ending()));
        const ExportReport report = run_export(p, order, Originals(), {});
        CAPTURE(preset, share, free, report.bytes, report.tried.size());
        CHECK(report.bytes == fs::file_size(order.file));
        CHECK(report.bytes <= std::uintmax_t(*order.preset.most_bytes));
        // No more is given away than one step of an encoder's quality, which is about seven percent of a file: either
        // it is as near, or the next larger one was tried and was too large.
        const auto limit = double(*order.preset.most_bytes), bytes = double(report.bytes);
        const bool next_is_too_large =
            std::any_of(report.tried.begin(), report.tried.end(), [&](const TriedSettings& one) {
                return double(one.bytes) > limit && double(one.bytes) <= 1.12 * bytes;
            });
        CHECK((bytes >= 0.93 * limit || next_is_too_large));
        CHECK(report.checked);
        CHECK(report.tried.size() <= 12);
        CHECK(report.tried.back().bytes == report.bytes);
        CHECK(report.plan.size == report.tried.back().size);
        const auto files = std::distance(fs::directory_iterator(t.path()), fs::directory_iterator());
        CHECK(files == made++); // of the tries nothing stays
    }
    // A limit that does not bind changes nothing; one that cannot be kept is said, and leaves nothing.
    order.preset.most_bytes = std::int64_t(free) * 2;
    order.file = t / ("wide" + std::string(format_of(order.preset).ending()));
    const ExportReport same = run_export(p, order, Originals(), {});
    REQUIRE(same.tried.size() == 1);
    CHECK(same.tried[0].quality == order.preset.quality);
    CHECK(same.tried[0].colours == order.preset.colours);
    CHECK(same.plan.size == cv::Size(320, 240));
    if (format_of(order.preset).kind == Format::Kind::loop) // a film's encoder may cut its work otherwise when it waits
        CHECK(same.bytes == free);
    order.preset.most_bytes = 1'000;
    order.file = t / ("none" + std::string(format_of(order.preset).ending()));
    try { // some get as small as that
        const std::uintmax_t bytes = run_export(p, order, Originals(), {}).bytes;
        CHECK(bytes <= 1'000);
    } catch (const Failure& failure) {
        CHECK_THAT(failure.what(), Catch::Contains("does not get smaller"));
        CHECK_FALSE(fs::exists(order.file));
    }
}

TEST_CASE("a film is repeated until it is long enough, and what is too short or too long is said", "[export][limit]")
{
    TempFolder t;
    const Project p = photos_in(t / "p", false, false, Rate(24)); // 12 frames
    ExportOrder order;
    order.preset = *find_preset("film");
    order.preset.least_length = Seconds{Fraction(3, 2)};
    order.file = t / "f.mp4";
    const auto plan = plan_export(p, order);
    REQUIRE(plan.problems.size() == 1);
    CHECK_THAT(plan.problems[0].remedy, Catch::Contains("3 times"));
    order.times = 3;
    CHECK(plan_export(p, order).problems.empty());
    const auto report = run_export(p, order, Originals(), {});
    CHECK(report.plan.frames == 36);
    CHECK(
        output_of("ffprobe -v error -count_frames -select_streams v -show_entries stream=nb_read_frames -of csv=p=0 " +
                  quoted(order.file)) == "36\n");
    order.preset.longest_length = Seconds{Fraction(1)};
    CHECK(plan_export(p, order).problems.size() == 2); // it is there already, too
    // Of a part the numbers go on through all rounds.
    order.preset = *find_preset("stills-png");
    order.file = t / "n_%04d.png";
    order.part = FilmPart{2, 2};
    CHECK(plan_export(p, order).first_number == 19);
}

}
