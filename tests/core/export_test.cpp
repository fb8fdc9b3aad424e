#include "core/export/animated_gif.h"
#include "core/export/export.h"
#include "core/picture/picture.h"
#include "core/project/edits.h"
#include "core/project/value_codecs.h"
#include "core/source/decode.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/sort/scan_edits.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <nlohmann/json.hpp>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include <cmath>
#include <thread>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

Project project_of(const std::filesystem::path& folder, Hold hold, Rate rate = Rate(24))
{
    const std::array places{folder};
    return set_delivered_at(add_scanned({}, scan(places, {}, {}), hold, Division::one_shot), rate);
}

ExportOrder order_for(const std::filesystem::path& file, const char* preset)
{
    ExportOrder o;
    o.file = file;
    o.preset = *find_preset(preset);
    return o;
}

nlohmann::json probe(const std::filesystem::path& file)
{
    return nlohmann::json::parse(
        output_of("ffprobe -v error -count_frames -show_streams -show_frames -of json " + quoted(file.native())));
}

/// Every frame as FFmpeg's program decodes it.
std::vector<cv::Mat> decoded_frames(const std::filesystem::path& file, const std::filesystem::path& scratch)
{
    std::filesystem::create_directories(scratch);
    output_of("ffmpeg -v error -i " + quoted(file.native()) +
              " -vsync passthrough -sws_flags accurate_rnd+full_chroma_int " + quoted((scratch / "%05d.png").native()));
    std::vector<cv::Mat> frames;
    for (int i = 1;; ++i) {
        std::array<char, 16> name{};
        std::snprintf(name.data(), name.size(), "%05d.png", i);
        if (!std::filesystem::exists(scratch / name.data()))
            return frames;
        frames.push_back(cv::imread((scratch / name.data()).native()));
    }
}

int files_in(const std::filesystem::path& folder)
{
    return int(std::distance(std::filesystem::directory_iterator(folder), std::filesystem::directory_iterator()));
}

}

TEST_CASE("an H.264 film holds every frame that was rendered, at a constant rate, tagged BT.709", "[export][film]")
{
    TempFolder t;
    write_run(t / "s", "s", 5, {320, 214});
    Project p = project_of(t / "s", Frames{2}, *parse_rate("23.976"));
    p = set_hold(p, ShotIndex(0), std::array{PhotoIndex(2)}, Frames{5});
    const ExportReport r = run_export(p, order_for(t / "film.mp4", "film"), Originals(), {});
    CHECK(r.checked);
    CHECK(r.plan.frames == 4 * 2 + 5);
    CHECK(r.bytes == std::filesystem::file_size(t / "film.mp4"));

    const auto found = probe(t / "film.mp4");
    const auto& s = found.at("streams").at(0);
    CHECK(s.at("codec_name") == "h264");
    CHECK(s.at("width") == 320);
    CHECK(s.at("height") == 214);
    CHECK(s.at("r_frame_rate") == "24000/1001");
    CHECK(s.at("avg_frame_rate") == "24000/1001");
    CHECK(s.at("nb_read_frames") == "13");
    CHECK(s.at("pix_fmt") == "yuv420p");
    for (const char* key : {"color_space", "color_transfer", "color_primaries"})
        CHECK(s.at(key) == "bt709");
    CHECK(s.at("color_range") == "tv");

    const auto frames = decoded_frames(t / "film.mp4", t / "frames");
    const Schedule schedule = schedule_of(p, p.shot(ShotIndex(0)));
    REQUIRE(std::int64_t(frames.size()) == schedule.frames());
    for (std::size_t f = 0; f < frames.size(); ++f) {
        const auto rendered = render(
            request_for_shares(p.shot(ShotIndex(0)), schedule.shares_at(FrameIndex(std::int64_t(f))), {320, 214}),
            Originals());
        CHECK(cv::PSNR(frames[f], *rendered) > 34);
        const PhotoIndex other((schedule.photo_at(FrameIndex(std::int64_t(f))).value + 1) % 5);
        const auto wrong = render(request_for_photo(p.shot(ShotIndex(0)), other, {320, 214}), Originals());
        CHECK(cv::PSNR(frames[f], *wrong) < 25); // so the check above can fail
    }
}

TEST_CASE("flat colours survive the way to BT.709 and back within 2 of 255", "[export][film][colour]")
{
    TempFolder t;
    const std::vector<cv::Vec3b> colours{{0, 0, 0},       {255, 255, 255}, {0, 0, 255},   {0, 255, 0},   {255, 0, 0},
                                         {119, 119, 119}, {28, 107, 90},   {42, 80, 178}, {200, 190, 30}};
    for (std::size_t i = 0; i < colours.size(); ++i)
        write_picture(t / "s" / ("c" + std::to_string(i) + ".png"),
                      cv::Mat(64, 64, CV_8UC3, cv::Scalar(colours[i][0], colours[i][1], colours[i][2])));
    const Project p = project_of(t / "s", Frames{1});
    ExportOrder o = order_for(t / "film.mp4", "film");
    o.preset.quality = 100;
    run_export(p, o, Originals(), {});

    // The matrix of Rec. ITU-R BT.709-6 (3.2 to 3.5), limited range, applied by hand to the decoded Y', Cb, Cr.
    output_of("ffmpeg -v error -i " + quoted((t / "film.mp4").native()) + " -f rawvideo -pix_fmt yuv420p " +
              quoted((t / "raw").native()));
    const std::string raw = read_bytes(t / "raw");
    constexpr std::size_t luma = 64 * 64, frame = luma * 3 / 2;
    REQUIRE(raw.size() == frame * colours.size());
    for (std::size_t i = 0; i < colours.size(); ++i) {
        const auto at = [&](std::size_t offset) { return double(static_cast<unsigned char>(raw[i * frame + offset])); };
        const double y = (at(32 * 64 + 32) - 16) / 219;
        const double cb = (at(luma + 16 * 32 + 16) - 128) / 224;
        const double cr = (at(luma + luma / 4 + 16 * 32 + 16) - 128) / 224;
        const double red = y + 1.5748 * cr;
        const double blue = y + 1.8556 * cb;
        const double green = (y - 0.2126 * red - 0.0722 * blue) / 0.7152;
        CAPTURE(i);
        CHECK(red * 255 == Approx(colours[i][2]).margin(2));
        CHECK(green * 255 == Approx(colours[i][1]).margin(2));
        CHECK(blue * 255 == Approx(colours[i][0]).margin(2));
    }
}

TEST_CASE("an odd side is made even by one line, and it is said", "[export][film]")
{
    TempFolder t;
    write_run(t / "s", "s", 2, {321, 215});
    const auto r = run_export(project_of(t / "s", Frames{2}), order_for(t / "film.mp4", "film"), Originals(), {});
    CHECK(r.plan.size == cv::Size(320, 214));
    CHECK(r.plan.notes.size() == 2);
    CHECK(r.problems.empty()); // quietly
    const auto found = probe(t / "film.mp4");
    CHECK(found.at("streams")[0].at("width") == 320);
    // A 1x1 photo becomes the least that a film can be.
    write_picture(t / "one" / "p.png", cv::Mat(1, 1, CV_8UC3, cv::Scalar(10, 200, 30)));
    CHECK(run_export(project_of(t / "one", Frames{2}), order_for(t / "one.mp4", "film"), Originals(), {}).plan.size ==
          cv::Size(2, 2));
}

TEST_CASE("a loop holds each photo once, for its time to a hundredth, for ever", "[export][loop]") // GIF89a
{
    TempFolder t;
    write_run(t / "s", "s", 7, {120, 80});
    const Palette palette = GENERATE(Palette::one_for_all, Palette::each_picture);
    ExportOrder o = order_for(t / "loop.gif", "loop");
    o.preset.palette = palette;
    // Twos at 24 fps: 8 1/3 hundredths each; rounded one by one the loop would be 2/100 s short.
    const auto r = run_export(project_of(t / "s", Frames{2}), o, Originals(), {});
    CHECK(r.checked);
    const auto found = probe(t / "loop.gif");
    const auto& frames = found.at("frames");
    REQUIRE(frames.size() == 7);
    double total = 0;
    for (std::size_t i = 0; i < frames.size(); ++i) {
        const double lasts = std::stod(frames[i].at("pkt_duration_time").get<std::string>());
        const double starts = std::stod(frames[i].at("best_effort_timestamp_time").get<std::string>());
        CHECK(starts == Approx(std::floor(double(i) * 200 / 24 + 0.5) / 100).margin(1e-9));
        total += lasts;
    }
    CHECK(total == Approx(0.58).margin(1e-9)); // 7 * 2 / 24 = 0.583
    const std::string bytes = read_bytes(t / "loop.gif");
    const auto loops =
        bytes.find("NETSCAPE2.0"); // GIF89a's looping application extension: its name is part of the format
    REQUIRE(loops != std::string::npos);
    CHECK(bytes.substr(loops + 11, 4) == std::string("\x03\x01\x00\x00", 4)); // 0: for ever

    const auto pictures = decoded_frames(t / "loop.gif", t / "frames");
    const Project p = project_of(t / "s", Frames{2});
    for (std::size_t i = 0; i < pictures.size(); ++i)
        CHECK(cv::PSNR(pictures[i],
                       *render(request_for_photo(p.shot(ShotIndex(0)), PhotoIndex(std::int64_t(i)), {120, 80}),
                               Originals())) > 26);
}

TEST_CASE("delays of a loop add up, and too short ones are left out and counted", "[export][loop]")
{
    const auto spans = [](const std::vector<int>& ends) {
        std::vector<FrameRange> s;
        for (const int end : ends)
            s.push_back({s.empty() ? FrameIndex(0) : s.back().end, FrameIndex(end)});
        return s;
    };
    const auto fine = loop_timing(spans({3, 7, 10, 13}));
    REQUIRE(fine.delays.size() == 4);
    CHECK(fine.delays[3].end == 13);
    CHECK(fine.delays[1].begin == 3);
    const auto fast = loop_timing(spans({2, 3, 5, 7, 8, 10})); // 1 2/3 hundredths each
    CHECK(fast.delays.back().end == 10);
    for (const auto& d : fast.delays)
        CHECK(d.end - d.begin >= 2);
    CHECK(fast.left_out == 2);
    CHECK(fast.left_out + fast.delays.size() == 6);
}

TEST_CASE("what is transparent stays so in loops and PNG, unless a backdrop was chosen", "[export][loop]")
{
    TempFolder t;
    for (int i = 0; i < 3; ++i) {
        cv::Mat m(40, 60, CV_8UC4, cv::Scalar(0, 0, 0, 0));
        m(cv::Rect(10 * i, 10, 20, 20)).setTo(cv::Scalar(20, 180, 40, 255));
        write_picture(t / "s" / ("p" + std::to_string(i) + ".png"), m);
    }
    Project p = project_of(t / "s", Frames{2});
    const auto corner = [&](const char* name, const char* preset) {
        ExportOrder o = order_for(t / name, preset);
        o.overwrite = true;
        run_export(p, o, Originals(), {});
        // Decoded by others: each picture as a player shows it, with its alpha.
        const std::string first =
            "convert '" + (t / name).native() + "[0]' -coalesce 'PNG32:" + (t / "seen.png").native() + "'";
        REQUIRE(std::system((name == std::string("f_%04d.png") ? "convert '" + (t / "f_0001.png").native() +
                                                                     "' 'PNG32:" + (t / "seen.png").native() + "'"
                                                               : first)
                                .c_str()) == 0);
        const cv::Mat seen = cv::imread((t / "seen.png").native(), cv::IMREAD_UNCHANGED);
        REQUIRE(seen.type() == CV_8UC4);
        CHECK(seen.at<cv::Vec4b>(20, 10)[3] == 255);
        CHECK(std::abs(seen.at<cv::Vec4b>(20, 10)[1] - 180) < 12);
        return seen.at<cv::Vec4b>(2, 50);
    };
    CHECK(corner("f.gif", "loop")[3] == 0);
    CHECK(corner("f_%04d.png", "stills-png")[3] == 0);
    p = set_backdrop(p, ShotIndex(0), Backdrop{250, 250, 250});
    for (const auto& [name, preset] : {std::pair("f.gif", "loop"), std::pair("f_%04d.png", "stills-png")}) {
        const cv::Vec4b seen = corner(name, preset);
        CHECK(seen[3] == 255);
        CHECK(seen[2] > 240);
    }
}

TEST_CASE("a loop takes its delays from the exact holds, not from the film's frames", "[export][loop]")
{
    TempFolder t;
    write_run(t / "s", "s", 13, {16, 16});
    struct Row
    {
        Hold hold;
        int rate;
        int delay; ///< of each, hundredths
    };
    const Row row =
        GENERATE(Row{Seconds{Fraction(15, 100)}, 24, 15}, // 13 photos of 0.15 s: 1.95 s (NUMBERS, common practice)
                 Row{Seconds{Fraction(1, 10)}, 30, 10}, Row{Frames{1}, 10, 10}, Row{Frames{3}, 25, 12});
    const auto r =
        run_export(project_of(t / "s", row.hold, Rate(row.rate)), order_for(t / "l.gif", "loop"), Originals(), {});
    CHECK(r.plan.length.value == Fraction(13 * row.delay, 100));
    CHECK(r.plan.frames == 13);
    const auto found = probe(t / "l.gif");
    REQUIRE(found.at("frames").size() == 13);
    for (const auto& f : found.at("frames"))
        CHECK(std::stod(f.at("pkt_duration_time").get<std::string>()) == Approx(row.delay / 100.0));
}

TEST_CASE("a hold longer than a GIF can say is split", "[export][loop]")
{
    TempFolder t;
    write_run(t / "s", "s", 2, {16, 16});
    const auto r = run_export(project_of(t / "s", Seconds{Fraction(700)}, Rate(1)), order_for(t / "l.gif", "loop"),
                              Originals(), {});
    CHECK(r.checked);
    CHECK(probe(t / "l.gif").at("frames").size() == 4);
}

TEST_CASE("PNG stills are exactly what was rendered, one a frame", "[export][stills]")
{
    TempFolder t;
    cv::Mat deep;
    painted({50, 40}, 1).convertTo(deep, CV_16U, 200.0);
    deep += cv::Scalar(3, 7, 11);
    write_picture(t / "s" / "a1.png", deep);
    write_picture(t / "s" / "a2.png", painted({50, 40}, 2));
    const Project p = project_of(t / "s", Frames{2});
    const auto r = run_export(p, order_for(t / "out" / "käse_%04d.png", "stills-png16"), Originals(), {});
    CHECK(r.files == 4);
    CHECK(files_in(t / "out") == 4);
    CHECK(cv::norm(cv::imread((t / "out" / "käse_0002.png").native(), cv::IMREAD_UNCHANGED), deep, cv::NORM_INF) == 0);
    run_export(p, order_for(t / "eight" / "b.png", "stills-png"), Originals(), {});
    const auto third = cv::imread((t / "eight" / "b_0003.png").native(), cv::IMREAD_UNCHANGED);
    CHECK(cv::norm(third, painted({50, 40}, 2), cv::NORM_INF) == 0);
}

TEST_CASE("numbers have four digits, five where there are more than 9,999",
          "[export][stills][numbers]") // common practice
{
    TempFolder t;
    write_run(t / "s", "s", 1, {16, 16});
    const Project p = project_of(t / "s", Frames{10'000});
    CHECK(plan_export(p, order_for(t / "a_%04d.png", "stills-png")).file.filename() == "a_%05d.png");
    CHECK(plan_export(p, order_for(t / "a.png", "stills-png")).file.filename() == "a_%05d.png");
}

TEST_CASE("the names of stills hold one number pattern or none, and everything else is refused at once",
          "[export][stills][names]")
{
    const auto name = [](const char* file, int number) { return StillNames::parse(file, 12).value().name(number); };
    CHECK(name("a_%04d.png", 7) == "a_0007.png");
    CHECK(name("/out/a.png", 7) == "a_0007.png");
    CHECK(name("%d.png", 7) == "7.png");
    CHECK(name("a%03d-b.jpg", 12345) == "a12345-b.jpg");
    CHECK(name("100% wool/a_%02d.png", 3) == "a_03.png"); // a percent sign in a folder's name is no pattern
    for (const char* bad : {"x_%.png", "50%done.png", "%099999d.png", "%00d.png", "%10d.png", "%d_%d.png", "%04d_%.png",
                            "%%04d.png", "%4d.png", "%s.png", "p%03d/a.png", "p%d/a_%04d.png"}) {
        const auto refused = StillNames::parse(bad, 12);
        CAPTURE(bad);
        REQUIRE_FALSE(refused.has_value());
        CHECK_THAT(refused.error().text(), Catch::Contains("one number pattern"));
    }
}

TEST_CASE("what lies under a name already stays, until it is to be replaced, and a free name is offered",
          "[export][overwrite]")
{
    TempFolder t;
    write_run(t / "s", "s", 3, {32, 24});
    const Project p = project_of(t / "s", Frames{1});
    SECTION("one file")
    {
        const char* preset = GENERATE("film", "loop");
        ExportOrder o = order_for((t / "f").replace_extension(format_of(*find_preset(preset)).ending()), preset);
        write_bytes(o.file, "somebody's");
        CHECK(plan_export(p, o).existing == std::vector{o.file});
        CHECK_THROWS_WITH(run_export(p, o, Originals(), {}), Catch::Contains("already"));
        CHECK(read_bytes(o.file) == "somebody's");
        const auto free = free_name(o.file, format_of(o.preset), 3);
        CHECK(free.stem() == "f-2");
        write_bytes(free, "too");
        CHECK(free_name(o.file, format_of(o.preset), 3).stem() == "f-3");
        o.overwrite = true;
        CHECK(run_export(p, o, Originals(), {}).checked);
        CHECK(read_bytes(o.file).size() > 100);
    }
    SECTION("stills: photos of nobody's project among them")
    {
        ExportOrder o = order_for(t / "B_%04d.jpg", "stills-jpeg");
        write_bytes(t / "B_0002.jpg", "a photo");
        CHECK(plan_export(p, o).existing == std::vector{t / "B_0002.jpg"});
        CHECK_THROWS_WITH(run_export(p, o, Originals(), {}), Catch::Contains("B_0002.jpg"));
        CHECK(files_in(t.path()) == 2);
        CHECK(free_name(o.file, format_of(o.preset), 3).filename() == "B-2_%04d.jpg");
        o.overwrite = true;
        CHECK(run_export(p, o, Originals(), {}).files == 3);
        CHECK(read_bytes(t / "B_0002.jpg").size() > 100);
    }
    SECTION("it appears while the export runs")
    {
        const char* preset = GENERATE("film", "stills-png");
        const auto file = (t / "out" / "f").replace_extension(format_of(*find_preset(preset)).ending());
        const auto target = std::string(preset) == "film" ? file : t / "out" / "f_0002.png";
        const Job job({}, [&](double, std::string_view) {
            if (!std::filesystem::exists(target))
                write_bytes(target, "later");
        });
        CHECK_THROWS_AS(run_export(p, order_for(file, preset), Originals(), job), Failure);
        CHECK(read_bytes(target) == "later");
        CHECK(files_in(t / "out") == 1);
    }
}

TEST_CASE("a photo held for an hour does not keep an export from stopping", "[export][stop]")
{
    TempFolder t;
    write_run(t / "s", "s", 1, {320, 240});
    const Project p = project_of(t / "s", Seconds{Fraction(3600)});
    const char* preset = GENERATE("film", "stills-png");
    const auto file = (t / "out" / "result").replace_extension(format_of(*find_preset(preset)).ending());
    std::stop_source stop;
    std::jthread user([&] {
        std::this_thread::sleep_for(std::chrono::milliseconds(300));
        stop.request_stop();
    });
    // 86,400 frames: were they all written, the file's own reading back would find a stop much later.
    int reports = 0;
    CHECK_THROWS_AS(run_export(p, order_for(file, preset), Originals(),
                               Job(stop.get_token(), [&](double, std::string_view) { ++reports; })),
                    Stopped);
    CHECK(reports == 0); // not even its one picture was done
    CHECK(files_in(t / "out") == 0);
}

TEST_CASE("any rate that a project can have can be exported and is checked", "[export][film][rate]")
{
    TempFolder t;
    write_run(t / "s", "s", 4, {32, 24});
    const Rate rate = GENERATE(Rate(1), Rate(Fraction(7, 3)), Rate(Fraction(120000, 1001)), Rate(999), Rate(1000));
    const auto r = run_export(project_of(t / "s", Frames{1}, rate), order_for(t / "f.mp4", "film"), Originals(), {});
    CHECK(r.checked);
    CHECK(probe(t / "f.mp4").at("streams").at(0).at("nb_read_frames") == "4");
}

TEST_CASE("photos that were exchanged meanwhile are told, not used", "[export][bad]")
{
    TempFolder t;
    write_run(t / "s", "s", 3, {64, 48});
    const Project p = project_of(t / "s", Frames{1});
    write_jpeg(t / "s" / "s_0002.jpg", painted({64, 48}, 77));
    CHECK_THROWS_WITH(run_export(p, order_for(t / "f.mp4", "film"), Originals(), {}),
                      Catch::Contains("s_0002.jpg") && Catch::Contains("changed"));
    const auto found = check_photos(exported_photos(p, order_for(t / "f.mp4", "film")), Originals(), {});
    REQUIRE(found.size() == 1);
    CHECK(found[0].file == t / "s" / "s_0002.jpg");
}

TEST_CASE("photos are checked before an export by decoding them", "[export][bad][check]")
{
    TempFolder t;
    write_run(t / "s", "s", 4, {640, 480});
    std::string bytes = read_bytes(t / "s" / "s_0003.jpg"); // damaged in the middle, head and end as they should be
    std::fill_n(bytes.begin() + std::ptrdiff_t(bytes.size() / 2), 600, '\0');
    write_bytes(t / "s" / "s_0003.jpg", bytes);
    const Project p = project_of(t / "s", Frames{1});
    REQUIRE(p.shot(ShotIndex(0)).photos[2].flaw.empty()); // a quick scan takes it as whole
    const auto found = check_photos(exported_photos(p, order_for(t / "f.mp4", "film")), Originals(), {});
    REQUIRE(found.size() == 1);
    CHECK(found[0].file == t / "s" / "s_0003.jpg");
    const std::array places{t / "s"};
    const ScanResult close = scan(places, {.looking = Looking::at_photos}, {}); // looked at closely it is found, too
    CHECK(close.photos[2].state == PhotoState::unreadable);
}

TEST_CASE("delivered at another rate an export keeps the clock time", "[export]")
{
    TempFolder t;
    write_run(t / "s", "s", 12, {32, 24});
    const Project p = project_of(t / "s", Frames{1}, Rate(12));
    ExportOrder o = order_for(t / "f.mp4", "film");
    o.preset.rate = Rate(30);
    const ExportPlan plan = plan_export(p, o);
    CHECK(plan.frames == 12 * 30 / 12);
    CHECK(plan.length.value == Fraction(1));
}

TEST_CASE("a photo that fails half way stops the export, or the one before is held", "[export][bad]")
{
    TempFolder t;
    write_run(t / "s", "s", 4, {64, 48});
    const Project p = project_of(t / "s", Frames{2});
    const std::string whole = read_bytes(t / "s" / "s_0003.jpg");
    write_bytes(t / "s" / "s_0003.jpg", whole.substr(0, whole.size() / 2));
    ExportOrder o = order_for(t / "out" / "f_%04d.png", "stills-png");
    try {
        run_export(p, o, Originals(), {});
        FAIL("it went through");
    } catch (const Failure& f) {
        CHECK(f.problem().file.filename() == "s_0003.jpg");
    }
    CHECK(files_in(t / "out") == 0); // nothing half written
    o.on_bad_photo = OnBadPhoto::hold_before;
    const auto r = run_export(p, o, Originals(), {});
    CHECK(r.plan.frames == 8);
    REQUIRE(r.problems.size() == 1);
    const auto frame = [&](int n) {
        return read_bytes(t / "out" / StillNames::parse("f_%04d.png", 8).value().name(n));
    };
    CHECK(frame(5) == frame(4)); // the third photo's frames show the second photo
    CHECK(frame(7) != frame(4));
    // The very first: nothing is before it, so the next that can be read is shown.
    write_bytes(t / "s" / "s_0001.jpg", "");
    o.overwrite = true;
    const auto first = run_export(p, o, Originals(), {});
    CHECK(first.problems.size() == 2);
    CHECK(frame(1) == frame(3));
}

TEST_CASE("stopping an export leaves nothing behind", "[export]")
{
    TempFolder t;
    write_run(t / "s", "s", 12, {64, 48});
    const Project p = project_of(t / "s", Frames{2});
    const char* preset = GENERATE("film", "loop", "stills-jpeg");
    const auto file = (t / "out" / "result").replace_extension(format_of(*find_preset(preset)).ending());
    std::stop_source stop;
    const Job job(stop.get_token(), [&](double fraction, std::string_view) {
        if (fraction > 0.3)
            stop.request_stop();
    });
    CHECK_THROWS_AS(run_export(p, order_for(file, preset), Originals(), job), Stopped);
    CHECK(files_in(t / "out") == 0);
}

TEST_CASE("originals are never the target, whatever path leads to them", "[export][bad]")
{
    TempFolder t;
    write_run(t / "s", "s", 3, {32, 24});
    const Project p = project_of(t / "s", Frames{1});
    std::filesystem::create_directory_symlink(t / "s", t / "link");
    for (const auto& target : {t / "s" / "s_%04d.jpg", t / "link" / "s_%04d.jpg", t / "s" / ".." / "s" / "s_%04d.jpg"})
        CHECK_THROWS_AS(plan_export(p, order_for(target, "stills-jpeg")), Failure);
    CHECK_NOTHROW(plan_export(p, order_for(t / "s" / "copy_%04d.jpg", "stills-jpeg")));
}

TEST_CASE("what cannot be exported is said before anything is rendered", "[export][bad]")
{
    TempFolder t;
    write_run(t / "s", "s", 3, {32, 24});
    const Project p = project_of(t / "s", Frames{1});
    CHECK_THROWS_AS(plan_export(p, order_for(t / "f.avi", "film")), Failure);
    CHECK_THROWS_AS(plan_export(p, order_for(t.path(), "film")), Failure);
    CHECK_THROWS_AS(plan_export(project_of(t / "s", Frames{0}), order_for(t / "f.mp4", "film")), Failure);
    ExportOrder huge = order_for(t / "f.mp4", "film");
    huge.preset.size = cv::Size(9000, 100);
    CHECK_THROWS_AS(plan_export(p, huge), Failure);
    CHECK_THROWS_AS(run_export(p, order_for("/sys/f.mp4", "film"), Originals(), {}), Failure);
}

TEST_CASE("120 photos a second delivered at 30 are exported as averages of four in linear light", "[export][mix]")
{
    TempFolder t;
    for (int i = 0; i < 8; ++i)
        write_picture(t / "s" / ("p" + std::to_string(i) + ".png"),
                      cv::Mat(8, 12, CV_8UC3, cv::Scalar(i * 30, 255 - i * 30, i % 2 * 255)));
    const std::array places{t / "s"};
    Project p = add_scanned({}, scan(places, {}, {}), Frames{1}, Division::one_shot);
    p = set_paced_at(set_delivered_at(p, Rate(30)), ShotIndex(0), Rate(120));
    ExportOrder order;
    order.file = t / "out" / "f_%04d.png";
    order.preset = *preset_for_ending(order.file);
    order.between = Between::mix;
    const ExportReport report = run_export(p, order, Originals(), {});
    REQUIRE(report.plan.frames == 2);
    CHECK(report.problems.empty()); // no photo falls between frames
    const auto linear = [](double v) { return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
    const auto encoded = [](double v) {
        return v <= 0.0031308 ? v * 12.92 : 1.055 * std::pow(v, 1 / 2.4) - 0.055;
    }; // IEC 61966-2-1
    for (int frame = 0; frame < 2; ++frame) {
        const cv::Mat got = cv::imread((t / "out" / ("f_000" + std::to_string(frame + 1) + ".png")).native());
        double blue = 0, red = 0;
        for (int i = 4 * frame; i < 4 * frame + 4; ++i) {
            blue += linear(i * 30 / 255.0) / 4;
            red += linear(i % 2) / 4;
        }
        CHECK(std::abs(got.at<cv::Vec3b>(4, 6)[0] - encoded(blue) * 255) < 1); // dithered
        CHECK(std::abs(got.at<cv::Vec3b>(4, 6)[2] - encoded(red) * 255) < 1);
        CHECK(cv::mean(got)[0] == Approx(encoded(blue) * 255).margin(0.25));
        CHECK(cv::mean(got)[2] == Approx(encoded(red) * 255).margin(0.25));
    }
}

TEST_CASE("an export is a value that can be kept and done later", "[export]")
{
    TempFolder t;
    ExportOrder o = order_for(t / "out" / "f_%04d.png", "stills-png16");
    o.shot = ShotId::fresh();
    o.preset.size = cv::Size(64, 0);
    o.preset.fit = Fit::fill;
    o.preset.rate = Rate(Fraction(24'000, 1'001));
    o.between = Between::mix;
    o.on_bad_photo = OnBadPhoto::hold_before;
    o.overwrite = true;
    const Json kept = to_json(o);
    CHECK(to_json(from_json<ExportOrder>(Json::parse(kept.dump()))) == kept);
    CHECK(from_json<ExportOrder>(kept).preset.depth == Depth::sixteen);
    // What it refers to may be gone by then, and a newer version's format may be none of ours.
    CHECK_THROWS_AS(plan_export(Project(), o), Failure);
    o.preset.format = "hologram";
    CHECK_THROWS_WITH(format_of(o.preset), Catch::Contains("hologram"));
}

TEST_CASE("stills say which colours they are in, and stay what they were", "[export]")
{
    const TempFolder t;
    write_run(t / "s", "a", 2, {64, 48});
    const std::array<std::filesystem::path, 1> places{t / "s"};
    const Project project = add_scanned({}, scan(places, {}, {}), Hold(Frames{1}), Division::one_shot, "s");
    for (const auto& [name, preset] : {std::pair("p_%04d.png", "stills-png"), std::pair("j_%04d.jpg", "stills-jpeg")}) {
        ExportOrder order = order_for(t / name, preset);
        run_export(project, order, Originals(), {});
        const auto file = t / (std::string(name).substr(0, 2) + "0001" + std::string(name).substr(6));
        INFO(file);
        const std::string told = output_of("exiftool -s -ProfileDescription -ColorSpaceData " + quoted(file.native()));
        CHECK(told.find("sRGB") != std::string::npos);
        CHECK(told.find("RGB ") != std::string::npos);
        const auto found = inspect(file);
        CHECK_FALSE(found.finding);
        CHECK(output_of("identify " + quoted(file.native())).find("64x48") != std::string::npos); // another decoder
    }
}

}
