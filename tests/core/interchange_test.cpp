// Timing as other programs read it: read back here by readers that share no code with the writers.
#include "core/base/atomic_file.h"
#include "core/base/problem.h"
#include "core/interchange/dopesheet.h"
#include "core/interchange/edit_lists.h"
#include "core/interchange/timing_file.h"
#include "core/steps/pace/flow_edits.h"
#include "core/steps/pace/pace_edits.h"
#include "core/timeline/reel_timeline.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <nlohmann/json.hpp>

#include <array>
#include <cmath>
#include <iomanip>
#include <random>
#include <regex>
#include <sstream>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

const ShotIndex first(0), second(1);

std::shared_ptr<Shot> shot_of(const std::string& name, const std::string& file, int from, int count,
                              std::int64_t hold = 2)
{
    auto shot = std::make_shared<Shot>();
    shot->name = name;
    for (int i = 0; i < count; ++i) {
        auto photo = std::make_shared<PhotoFile>();
        std::ostringstream path;
        path << "/harbour pier/" << file << std::setw(4) << std::setfill('0') << from + i << ".JPG";
        photo->file = path.str();
        photo->size = {60, 40};
        shot->photos.push_back({.photo = std::move(photo), .hold = Frames{hold}});
    }
    give_ids(*shot);
    return shot;
}

Project two_shots()
{
    Project p;
    p.delivered_at = Rate(24);
    p.shots = {shot_of("Ferry", "HARB", 101, 12), shot_of("Gulls", "G_", 7, 8, 3)};
    return p;
}

/// The files that a timeline shows, frame by frame, as the schema says: what a reader makes of it.
struct ReadTimeline
{
    std::vector<std::string> files; ///< of each frame of the first track
    std::vector<double> transitions;
    double rate = 0;

    explicit ReadTimeline(const std::string& text)
    {
        const auto json = nlohmann::json::parse(text);
        REQUIRE(json.at("OTIO_SCHEMA") == "Timeline.1");
        rate = json.at("global_start_time").at("rate");
        REQUIRE(json.at("tracks").at("OTIO_SCHEMA") == "Stack.1");
        read(json.at("tracks").at("children").at(0));
    }

private:
    static double seconds(const nlohmann::json& time)
    {
        REQUIRE(time.at("OTIO_SCHEMA") == "RationalTime.1");
        return double(time.at("value")) / double(time.at("rate"));
    }
    void read(const nlohmann::json& item)
    {
        const std::string schema = item.at("OTIO_SCHEMA");
        if (schema == "Transition.1") {
            transitions.push_back(seconds(item.at("in_offset")) + seconds(item.at("out_offset")));
            return;
        }
        if (schema == "Track.1") {
            CHECK(item.at("kind") == "Video");
            CHECK(item.at("source_range").is_null());
            for (const auto& child : item.at("children"))
                read(child);
            return;
        }
        REQUIRE(schema == "Clip.1");
        const auto& media = item.at("media_reference");
        const double length = seconds(item.at("source_range").at("duration"));
        CHECK(length == Approx(seconds(media.at("available_range").at("duration"))));
        const auto frames = std::lround(length * rate);
        CHECK(std::abs(length * rate - double(frames)) < 1e-6);
        for (long f = 0; f < frames; ++f) {
            if (media.at("OTIO_SCHEMA") == "ExternalReference.1") {
                files.push_back(media.at("target_url"));
                continue;
            }
            REQUIRE(media.at("OTIO_SCHEMA") == "ImageSequenceReference.1");
            const int number =
                int(media.at("start_frame")) +
                int(media.at("frame_step")) * int(std::floor(f / rate * double(media.at("rate")) + 1e-9));
            std::ostringstream name;
            name << std::string(media.at("target_url_base")) << std::string(media.at("name_prefix"))
                 << std::setw(int(media.at("frame_zero_padding"))) << std::setfill('0') << number
                 << std::string(media.at("name_suffix"));
            files.push_back(name.str());
        }
    }
};

std::string url(const Shot& shot, PhotoIndex photo)
{
    return "file://" + std::regex_replace(shot.photos[photo.at()].photo->file.string(), std::regex(" "), "%20");
}

std::vector<PhotoIndex> all(const Shot& shot)
{
    std::vector<PhotoIndex> photos;
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        photos.emplace_back(std::int64_t(i));
    return photos;
}

/// "01:02:03:04" in frames.
std::int64_t frames_of(const std::string& timecode, int rate)
{
    int h = 0, m = 0, s = 0, f = 0;
    char c = 0;
    std::istringstream(timecode) >> h >> c >> m >> c >> s >> c >> f;
    return ((h * 60 + m) * 60 + s) * std::int64_t(rate) + f;
}

}

TEST_CASE("OpenTimelineIO shows every frame's photo, whatever the holds", "[interchange][otio]")
{
    std::mt19937 random(2);
    for (int round = 0; round < 12; ++round) {
        Project p = two_shots();
        p.delivered_at = std::array{Rate(24), Rate(25), *parse_rate("23.976")}[std::size_t(round % 3)];
        for (const PhotoIndex photo : all(p.shot(first)))
            if (round > 0)
                p = set_hold(p, first, std::array{photo}, Frames{std::int64_t(1 + random() % 3)});
        if (round % 4 == 1)
            p = set_there_and_back(p, first, Return::once);
        if (round % 4 == 2)
            p = set_keep_every(p, first, 2);
        if (round % 4 == 3)
            p = set_speed_at(set_speed_at(p, first, PhotoIndex(0), 200), first, PhotoIndex(11), 40);
        const ReadTimeline read(otio_text(p, first));
        const Schedule schedule = schedule_of(p, p.shot(first));
        REQUIRE(std::int64_t(read.files.size()) == schedule.frames());
        for (std::int64_t f = 0; f < schedule.frames(); ++f)
            CHECK(read.files[std::size_t(f)] == url(p.shot(first), schedule.photo_at(FrameIndex(f))));
    }
}

TEST_CASE("photos that are numbered and held alike are one sequence, others are files", "[interchange][otio]")
{
    Project p = two_shots();
    const auto clips = [&] {
        return nlohmann::json::parse(otio_text(p, first)).at("tracks").at("children").at(0).at("children");
    };
    REQUIRE(clips().size() == 1);
    CHECK(clips()[0].at("media_reference").at("rate") == 12.0); // on twos at 24
    CHECK(clips()[0].at("media_reference").at("target_url_base") == "file:///harbour%20pier/");
    p = set_hold(p, first, std::array{PhotoIndex(4)}, Frames{5});
    CHECK(clips().size() == 3);
    auto shot = std::make_shared<Shot>(p.shot(first));
    auto odd = std::make_shared<PhotoFile>(*shot->photos[0].photo);
    odd->file = "/harbour pier/ünd so.png";
    shot->photos.edit(0).photo = odd;
    shot->photos.edit(2).marked = true;
    p.shots[0] = shot;
    REQUIRE(clips().size() == 4);
    CHECK(clips()[0].at("media_reference").at("target_url") == "file:///harbour%20pier/%C3%BCnd%20so.png");
    CHECK(clips()[1].at("markers").size() == 1);
}

TEST_CASE("the Reel goes out with its joins, sounds and markers", "[interchange][otio][edl]")
{
    Project p = two_shots();
    p.reel.items = {
        {.id = {1}, .shot = p.shots[0]->id, .join = {.kind = JoinKind::dissolve, .length = {Fraction(1, 4)}}},
        {.id = {2}, .shot = p.shots[1]->id}};
    p.reel.markers = {{{Fraction(1)}, "Gulls"}};
    p.reel.sound.sounds = {{.id = SoundId{1},
                            .file = "/harbour pier/hum.wav",
                            .file_length = {Fraction(10)},
                            .at = {Fraction(1, 2)},
                            .begin = {Fraction(1)},
                            .end = {Fraction(2)}}};
    const auto reel = reel_of(p);
    const std::string text = otio_text(p, std::nullopt);
    const ReadTimeline read(text);
    REQUIRE(std::int64_t(read.files.size()) == reel->frames());
    CHECK(read.files[0] == url(p.shot(first), PhotoIndex(0)));
    CHECK(read.files[24] == url(p.shot(second), PhotoIndex(0)));
    REQUIRE(read.transitions.size() == 1);
    CHECK(read.transitions[0] == Approx(0.25));
    const auto stack = nlohmann::json::parse(text).at("tracks");
    CHECK(stack.at("markers").at(0).at("marked_range").at("start_time").at("value") == 24.0);
    REQUIRE(stack.at("children").size() == 2);
    const auto sound = stack.at("children").at(1).at("children");
    CHECK(sound.at(0).at("OTIO_SCHEMA") == "Gap.1");
    CHECK(sound.at(0).at("source_range").at("duration").at("value") == 12.0);
    CHECK(sound.at(1).at("source_range").at("start_time").at("value") == 24.0);
    CHECK(sound.at(1).at("media_reference").at("target_url") == "file:///harbour%20pier/hum.wav");

    // CMX 3600: events follow each other without a gap, a dissolve is a second line of its event.
    std::istringstream lines(edl_text(p, std::nullopt));
    const std::regex event(R"((\d{3})  AX       V     (C|D    (\d{3})) +(\S+) (\S+) (\S+) (\S+))");
    std::int64_t end = 24 * 3600, dissolve = 0;
    for (std::string line; std::getline(lines, line);) {
        if (!line.empty() && line.back() == '\r')
            line.pop_back();
        std::smatch m;
        if (!std::regex_match(line, m, event))
            continue;
        CHECK(frames_of(m[6], 24) == end);
        end = frames_of(m[7], 24);
        CHECK(frames_of(m[5], 24) - frames_of(m[4], 24) == end - frames_of(m[6], 24));
        if (m[3].matched)
            dissolve = std::stoi(m[3]);
    }
    CHECK(end == 24 * 3600 + reel->frames());
    CHECK(dissolve == 6);
}

TEST_CASE("a shot's edit list has a still for each photo, and not more than it may", "[interchange][edl]")
{
    Project p = two_shots();
    std::istringstream lines(edl_text(p, first));
    int stills = 0, events = 0;
    for (std::string line; std::getline(lines, line);) {
        stills += line.starts_with("M2   AX       000.0");
        events += line.find(" AX       V     C ") != std::string::npos;
    }
    CHECK(stills == 12);
    CHECK(events == 12);
    p.shots = {shot_of("Long", "L", 1, 1000, 1)};
    CHECK_THROWS_AS(edl_text(p, first), Failure);
    CHECK_NOTHROW(otio_text(p, first));
}

TEST_CASE("a dopesheet has every photo, and its holds are read back", "[interchange][dopesheet]")
{
    std::mt19937 random(5);
    Project p = two_shots();
    for (const PhotoIndex photo : all(p.shot(first)))
        p = set_hold(p, first, std::array{photo}, Frames{std::int64_t(1 + random() % 6)});
    p = toggle_mark(p, first, PhotoIndex(2));
    p.reel.sound.words = {{{Fraction(0)}, {Fraction(1, 24)}, "Land, \"ho\""}};
    const auto lines = dopesheet(p, first);
    REQUIRE(lines.size() == 12);
    CHECK(lines[0].words == "Land, \"ho\"");
    CHECK(lines[1].words.empty());
    CHECK(lines[2].marked);
    const std::string csv = dopesheet_csv(lines);
    CHECK(csv.find("\"Land, \"\"ho\"\"\"") != std::string::npos);
    const Project read = holds_from_csv(two_shots(), first, csv);
    for (std::size_t i = 0; i < 12; ++i)
        CHECK(read.shot(first).photos[i].hold == p.shot(first).photos[i].hold);
    // By file in place of numbers, with another program's line ends, mark and order.
    const Project by_file =
        holds_from_csv(p, first, "\xEF\xBB\xBFhold,note,file\n7,\"a\nb\",HARB0103.JPG\n\n0,,HARB0101.JPG\n");
    CHECK(by_file.shot(first).photos[2].hold == Hold(Frames{7}));
    CHECK_FALSE(is_shown(by_file.shot(first).photos[0].hold));
    CHECK(by_file.shot(first).photos[1].hold == p.shot(first).photos[1].hold);
    // Frames are those of the film; where it is paced otherwise the hold is as long.
    const Project paced = holds_from_csv(set_paced_at(p, first, Rate(12)), first, "hold,photo\n4,1\n5,2\n");
    CHECK(paced.shot(first).photos[0].hold == Hold(Frames{2}));
    CHECK(paced.shot(first).photos[1].hold == Hold(Seconds{Fraction(5, 24)}));

    CHECK(feet_and_frames(0) == "0+00");
    CHECK(feet_and_frames(37) == "2+05");
}

TEST_CASE("what is wrong in a table is said with its line, and nothing changes", "[interchange][dopesheet]")
{
    const Project p = two_shots();
    struct Row
    {
        const char* csv;
        const char* says;
    };
    for (const Row& row :
         {Row{"", "empty"}, Row{"frame,photo\n1,1\n", "line 1"}, Row{"hold\n1\n", "line 1"},
          Row{"hold,photo\n1,1\ntwo,2\n", "line 3"}, Row{"hold,photo\n-1,1\n", "line 2"},
          Row{"hold,photo\n1,99\n", "99"}, Row{"hold,photo\n1,0\n", "line 2"},
          Row{"hold,file\n1,nobody.jpg\n", "nobody"}, Row{"hold,photo\n1,1\n2,1\n", "two holds"},
          Row{"hold,photo\n99999999999999999999,1\n", "line 2"}, Row{"hold,photo\n1,\"1\n", "never ends"},
          Row{"hold,photo\n1\n", "line 2"}, Row{"\xFF\xFE\x00", "line 1"}}) {
        CAPTURE(row.csv);
        try {
            holds_from_csv(p, first, row.csv);
            FAIL_CHECK("it was taken");
        } catch (const Failure& failure) {
            CHECK(failure.problem().text().find(row.says) != std::string::npos);
        }
    }
    CHECK_THROWS_AS(holds_from_csv(set_speed_at(p, first, PhotoIndex(0), 50), first, "hold,photo\n1,1\n"), Failure);

    TempFolder t;
    write_timing(p, first, t / "a.csv", false);
    CHECK_THROWS_AS(write_timing(p, first, t / "a.csv", false), Failure); // nothing is replaced unasked
    CHECK_NOTHROW(write_timing(p, first, t / "a.csv", true));
    CHECK(read_holds(p, first, t / "a.csv") == p);
    CHECK_THROWS_AS(write_timing(p, first, t / "a.txt", false), Failure);
    CHECK_THROWS_AS(write_timing(p, std::nullopt, t / "r.csv", false), Failure);
    CHECK_THROWS_AS(read_holds(p, first, t / "gone.csv"), Failure);
}

}
