#include "demo/demo.h"

#include "core/base/atomic_file.h"
#include "core/base/folders.h"
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/steps/frame/frame_edits.h"
#include "core/steps/pace/flow_edits.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/reel/bring_sound_in.h"
#include "core/steps/reel/reel_edits.h"
#include "core/steps/retouch/area_edits.h"
#include "core/steps/sort/scan.h"
#include "core/steps/sort/scan_edits.h"
#include "core/steps/tone/tone_edits.h"
#include "demo/music.h"
#include "demo/overlays.h"
#include "demo/shots.h"

#include <nlohmann/json.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <atomic>
#include <limits>
#include <mutex>
#include <set>

namespace frenlo::demo {

namespace fs = std::filesystem;

std::vector<Truth> take_all(const fs::path& folder, std::string_view name, const Takes& takes, const Job& job,
                            const FirstAreThere& there)
{
    std::vector<Truth> truths(static_cast<std::size_t>(takes.count));
    std::atomic<int> next = 0, done = 0;
    std::mutex mutex;
    std::set<int> beyond; // behind the first one that is not there yet
    int without_a_gap = 0;
    const auto is_there = [&](int i) {
        const std::scoped_lock lock(mutex);
        beyond.insert(i);
        const int before = without_a_gap;
        while (beyond.erase(without_a_gap) > 0)
            ++without_a_gap;
        constexpr int at_once = 8;
        if (without_a_gap / at_once > before / at_once)
            there(without_a_gap);
    };
    tbb::parallel_for(0, takes.count, [&](int) {
        if (job.stopping())
            return;
        const int i = next++;
        std::array<char, 32> number{};
        std::snprintf(number.data(), number.size(), "_%04d.jpg", i + 1);
        Truth t = takes.truth(i);
        t.file = std::string(name) + number.data();
        take(takes.scene(i), t, takes.exposure(i), std::uint64_t(i) * 7919 + 17, folder / t.file);
        truths[static_cast<std::size_t>(i)] = t;
        const int n = ++done;
        job.report(double(n) / takes.count, t.file);
        is_there(i);
    });
    job.check();
    return truths;
}

namespace {

nlohmann::ordered_json truth_json(const std::vector<Truth>& truths)
{
    auto list = nlohmann::ordered_json::array();
    for (const auto& t : truths) {
        const cv::Matx33d m = t.matrix();
        list.push_back(
            {{"file", t.file},
             {"shift_px", {t.shift_x, t.shift_y}},
             {"turn_degrees", t.turn_degrees},
             {"gain_stops", t.gain_stops},
             {"scene_stops", t.scene_stops},
             {"matrix", {{m(0, 0), m(0, 1), m(0, 2)}, {m(1, 0), m(1, 1), m(1, 2)}, {m(2, 0), m(2, 1), m(2, 2)}}}});
    }
    return list;
}

struct DemoShot
{
    const char* name;
    std::vector<Truth> (*make)(const fs::path&, const Job&, const FirstAreThere&);
    double share; ///< of the whole time
    Hold hold;
};

/// The sprout grows from a dark morning to a bright noon: one tone for each, blended between.
Project toned(Project project)
{
    constexpr ShotIndex sprout{1};
    const auto last = PhotoIndex(std::int64_t(project.shot(sprout).photos.size()) - 1);
    project = set_anchor(project, sprout, PhotoIndex(0), {.exposure = 0.4, .contrast = 15, .warmth = 7000});
    return set_anchor(project, sprout, last, {.contrast = 20, .shoulder = -0.3});
}

/// The sprout grows quickly at first and opens slowly, as long as it was; what lies between its photos is made.
Project flowing(Project project)
{
    constexpr ShotIndex sprout{1};
    project = set_between(project, sprout, Between::motion);
    for (const auto& [photo, percent] : {std::pair(0, 100.0), std::pair(60, 130.0), std::pair(120, 75.0)})
        project = set_speed_at(project, sprout, PhotoIndex(photo), percent);
    SpeedCourse course = speed_course_of(project.shot(sprout));
    course.keep_length = true;
    return set_speed_course(project, sprout, course);
}

/// The walk comes closer to the lamps at the end.
Project dressed(Project project)
{
    constexpr ShotIndex walk{2};
    project = set_lens(project, walk, wide_lens);
    project = change_framing(project, walk, [](Framing& f) {
        f.shape = *parse_shape("16:9");
        f.ease = Ease::both;
        f.fades.out = {Fraction(1, 2)};
    });
    const auto last = PhotoIndex(std::int64_t(project.shot(walk).photos.size()) - 1);
    project = set_view(project, walk, PhotoIndex(0), DriftView{{0, 0.078, 1, 0.844}, 0});
    project = set_view(project, walk, last, DriftView{{0.3, 0.2, 0.62, 0.5233}, 0});
    // And for a telephone, where the lamps stand.
    project = dress_for(project, walk, *parse_shape("9:16"));
    project = change_framing(project, walk, [](Framing& f) { f.crop = cv::Rect2d(0.34, 0, 0.3750, 1); });
    return dress_for(project, walk, *parse_shape("16:9"));
}

/// All but the pot of the sprout is a little darker; on the walk it gets dark at last.
Project with_parts(Project project)
{
    constexpr ShotIndex sprout{1}, walk{2};
    Area glow;
    glow.name = "Around the pot";
    glow.keys = {{project.shot(sprout).photos[0].id, {0.3, 0.2, 0.7, 0.2, 0.76, 0.5, 0.7, 0.9, 0.3, 0.9, 0.24, 0.5}}};
    glow.soft = 0.09;
    glow.outside = true;
    auto [with_area, area] = add_area(project, sprout, glow);
    project = set_part_tone(with_area, sprout, {area, {}}, {.exposure = -0.35});
    auto [with_state, dusk] = add_state(project, walk, "Dusk");
    const auto photos = std::int64_t(project.shot(walk).photos.size());
    project = switch_state(with_state, walk, PhotoIndex(photos * 3 / 4), dusk);
    return set_part_tone(project, walk, {{}, dusk}, {.exposure = -0.6, .warmth = 5600});
}

/// The three shots after one another, over a tune that is a little shorter than they are.
Project with_reel(Project project, const fs::path& folder, const Job& job)
{
    const fs::path tune = folder / "Sound" / "harbour morning.wav", gull = folder / "Sound" / "gull.wav";
    if (!fs::exists(tune)) // else of an earlier time
        write_tune(tune);
    if (!fs::exists(gull))
        write_gull(gull);
    const auto items = reel_items(project);
    for (const std::size_t i : {0, 1})
        project = change_reel_item(project, items[i].id, [&](ReelItem& item) {
            item.join.kind = i == 0 ? JoinKind::dissolve : JoinKind::wipe;
        });
    Sound music = whole_sound(tune, {}, job), call = whole_sound(gull, {Fraction(31, 10)}, job);
    music.fade_out = {Fraction(1)};
    call.level_db = -8;
    project = add_sound(add_sound(project, music), call);
    project = set_marker(project, {Fraction(11)}, "The walk");
    return change_reel(project, [](Reel& r) {
        for (int beat = 0; beat < 22; ++beat)
            r.sound.beats.push_back({Fraction(beat * 60, 96)});
    });
}

/// The shots as they come from the camera, held as each wants to be.
class Growing
{
public:
    /// count: of its photos in this folder that are there without a gap; others may be.
    void set(const DemoShot& shot, const fs::path& place, std::size_t count)
    {
        Project now = add_scanned(before_, scan(std::array{place}, {}, {}), shot.hold, Division::one_shot, shot.name);
        if (now.shots.size() == 1) // the ferry waits at its begin
            now = set_hold(now, ShotIndex(0), std::array{PhotoIndex(0)}, Frames{8});
        so_far_ = with_known_identities(std::move(now), count);
    }
    /// The shot is whole.
    void next() { before_ = so_far_; }
    [[nodiscard]] const Project& so_far() const { return so_far_; }

private:
    /// Who looks at it does not lose sight of what he looks at.
    [[nodiscard]] Project with_known_identities(Project now, std::size_t count) const
    {
        const std::size_t last = now.shots.size() - 1;
        auto shot = std::make_shared<Shot>(*now.shots[last]);
        shot->photos.keep(0, std::min(count, shot->photos.size()));
        if (so_far_.shots.size() > last) {
            const Shot& known = *so_far_.shots[last];
            shot->id = known.id;
            for (std::size_t i = 0; i < std::min(known.photos.size(), shot->photos.size()); ++i)
                shot->photos.edit(i).id = known.photos[i].id;
        }
        now.shots[last] = std::move(shot);
        return now;
    }

    Project before_; ///< without the last shot
    Project so_far_;
};

Project finished(Project project, const fs::path& folder, const Job& job)
{
    // The ferry waits at its end as well, so that the loop has a breath.
    const std::array last{PhotoIndex(std::int64_t(project.shots[0]->photos.size()) - 1)};
    project = set_hold(project, ShotIndex(0), last, Frames{12});
    project =
        with_overlays(with_reel(with_parts(dressed(flowing(toned(std::move(project))))), folder, job), ShotIndex(0));
    return with_tin_walk(project, folder / "Tin walk", job);
}

}

fs::path card_folder(const fs::path& demo_folder)
{
    return demo_folder / "Card" / "100HARBO";
}

fs::path usual_demo_folder()
{
    return data_folder() / "demo";
}

fs::path make_demo(const fs::path& folder, const Job& job, const std::function<void(const Project&)>& so_far)
{
    constexpr std::array shots{DemoShot{"Paper ferry", paper_ferry, 0.25, Frames{2}},
                               DemoShot{"Bean sprout", bean_sprout, 0.5, Frames{1}},
                               DemoShot{"Pier walk", pier_walk, 0.25, Frames{1}}};
    const fs::path project_file = folder / "Harbour.frenlo";
    if (fs::exists(project_file) && fs::exists(card_folder(folder))) // written last, so everything else is there
        return project_file;
    double before = 0;
    Growing growing;
    const auto grown = [&](const DemoShot& s, std::size_t photos) {
        growing.set(s, folder / s.name, photos);
        if (so_far)
            so_far(growing.so_far());
    };
    for (const auto& s : shots) {
        const fs::path place = folder / s.name;
        if (!fs::exists(place / "truth.json")) { // else of an earlier time; it is written last
            fs::create_directories(place);
            const auto truths =
                s.make(place,
                       Job(job.token(),
                           [&](double f, std::string_view what) {
                               job.report(before + f * s.share, std::string(s.name) + ": " + std::string(what));
                           }),
                       [&](int photos) {
                           if (so_far) // else nobody looks before it is whole
                               grown(s, std::size_t(photos));
                       });
            write_whole_file(place / "truth.json", truth_json(truths).dump(1) + '\n');
        }
        before += s.share;
        grown(s, std::numeric_limits<std::size_t>::max());
        growing.next();
    }
    fill_card(folder, job);
    save_project(finished(growing.so_far(), folder, job), project_file);
    return project_file;
}

}
