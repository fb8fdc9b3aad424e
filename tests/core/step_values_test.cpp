// What steps keep of shots and photos, through every edit and through files: for all steps that there are.
#include "core/project/delivery.h"
#include "core/project/edits.h"
#include "core/project/history.h"
#include "core/project/project_json.h"
#include "core/project/step_json.h"
#include "core/steps/pace/flow_edits.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/pace/range_edits.h"
#include "core/steps/reel/reel_edits.h"
#include "core/steps/sort/card_edits.h"
#include "core/steps/sort/remedies.h"
#include "core/steps/step.h"
#include "tests/support/catch.h"
#include "tests/support/made_project.h"

#include <array>
#include <functional>
#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

constexpr ShotIndex first{0};

/// Every step has measured and decided something, of each photo and of the shot.
Shot full_shot(int number, int photos)
{
    Shot shot;
    shot.name = "Shot " + std::to_string(number);
    for (int i = 0; i < photos; ++i) {
        ShotPhoto p;
        p.photo = made_photo(100 * number + i);
        int n = 10 * i;
        for (const StepCoding& c : photo_step_codings())
            p.steps.put({c.type, c.sample(++n)});
        shot.photos.push_back(std::move(p));
    }
    int n = number;
    for (const StepCoding& c : shot_step_codings())
        shot.steps.put({c.type, c.sample(++n)});
    return shot;
}

Project two_shots()
{
    return add_shot(add_shot({}, full_shot(1, 8)), full_shot(2, 4));
}

bool has(const ShotPhoto& photo, const StepCoding& coding)
{
    const auto& all = photo.steps.entries();
    return std::any_of(all.begin(), all.end(), [&](const auto& e) { return e.type == coding.type; });
}

struct Edit
{
    const char* name;
    std::function<Project(const Project&)> make;
    std::vector<int>
        lost{}; ///< positions in the first shot of the photos of which nothing that was measured holds any more
    bool may_lie = false; ///< but for how they lie: other pixels of the same size
};

std::vector<Edit> edits()
{
    const auto exchanged = [](cv::Size size) {
        return [size](const Project& p) {
            return replace_photos(p, first, std::array{Match{p.shot(first).photos[2].photo, made_photo(77, size)}});
        };
    };
    const auto parted = [](const Project& p) {
        Project with = p;
        auto card = std::make_shared<Shot>(p.shot(first));
        card->parts = {{"One", PhotoIndex(0), PhotoIndex(4), "", ShotKind::unknown},
                       {"Two", PhotoIndex(4), PhotoIndex(8), "", ShotKind::unknown}};
        with.shots[0] = card;
        return with;
    };
    return {
        {"turn",
         [](const Project& p) {
             return turn_photos(p, first, std::array{PhotoIndex(2), PhotoIndex(5)}, 1);
         },
         {2, 5}},
        {"turn all the way round",
         [](const Project& p) { return turn_photos(p, first, std::array{PhotoIndex(2)}, 4); }},
        {"move", [](const Project& p) { return move_photos(p, first, std::array{PhotoIndex(6)}, PhotoIndex(1)); }},
        {"reverse", [](const Project& p) { return reverse_shot(p, first); }},
        {"order by name",
         [](const Project& p) { return order_shot(reverse_shot(p, first), first, PhotoOrder::by_name); }},
        {"set aside", [](const Project& p) { return set_aside(p, first, std::array{PhotoIndex(3)}, true); }},
        {"set aside and hold before", [](const Project& p) { return hold_before(p, first, PhotoIndex(3)); }},
        {"join", [](const Project& p) { return join_with_next(p, first); }, {8, 9, 10, 11}},
        {"split", [](const Project& p) { return split_shot(p, first, PhotoIndex(5)); }},
        {"rename", [](const Project& p) { return rename_shot(p, first, "Another name"); }},
        {"backdrop",
         [](const Project& p) {
             return set_backdrop(p, first, Backdrop{9, 8, 7});
         }},
        {"exchange for another photo of the same size", exchanged({600, 400}), {2}, true},
        {"exchange for a larger one", exchanged({1200, 800}), {2}},
        {"find the same photo elsewhere",
         [](const Project& p) {
             auto there = std::make_shared<PhotoFile>(*p.shot(first).photos[2].photo);
             there->file = "/archive/HARB1002.jpg";
             return replace_photos(p, first, std::array{Match{p.shot(first).photos[2].photo, there}});
         }},
        {"shots of a card", [parted](const Project& p) { return make_shots(parted(p), first); }},
        {"one shot of a card", [parted](const Project& p) { return make_one_shot(parted(p), first); }},
        {"remove another shot", [](const Project& p) { return remove_shot(p, ShotIndex(1)); }},
        {"keep as a version", [](const Project& p) { return keep_as_version(p, first); }},
        {"another hold", [](const Project& p) { return set_hold(p, first, std::array{PhotoIndex(1)}, Frames{7}); }},
        {"every second photo", [](const Project& p) { return set_keep_every(p, first, 2); }},
        {"backwards", [](const Project& p) { return set_backwards(p, first, true); }},
        {"a part backwards",
         [](const Project& p) {
             return set_part_backwards(p, first, std::array{PhotoIndex(2), PhotoIndex(3)}, true);
         }},
        {"a kept range",
         [](const Project& p) { return keep_to(keep_from(p, first, PhotoIndex(2)), first, PhotoIndex(5)); }},
        {"marks", [](const Project& p) { return set_aside_at_marks(toggle_mark(p, first, PhotoIndex(4)), first, 2); }},
        {"another rate", [](const Project& p) { return deliver_at(p, Rate(30), RateIntent::same_clock_time); }},
        {"first of the film", [](const Project& p) { return set_first(p, first, PhotoIndex(2)); }},
        {"last of the film", [](const Project& p) { return set_last(p, first, PhotoIndex(5)); }},
        {"into the Reel", [](const Project& p) { return add_to_reel(p, p.shots[0]->id); }},
    };
}

}

TEST_CASE("what steps measured of a photo goes with it through every edit, and only as long as it holds",
          "[project][steps]")
{
    REQUIRE(photo_step_codings().size() >= 2); // the test below would pass on nothing
    const Project before = two_shots();
    for (const Edit& edit : edits()) {
        const Project after = edit.make(before);
        std::size_t at = 0; // through all shots, as positions of lost are
        for (const ShotPtr& shot : after.shots)
            for (const ShotPhoto& p : shot->photos) {
                const bool lost = std::find(edit.lost.begin(), edit.lost.end(), int(at)) != edit.lost.end();
                for (const StepCoding& c : photo_step_codings()) {
                    CAPTURE(edit.name, at, c.type->key);
                    const std::string_view key = c.type->key;
                    const bool decided = key == "tone_anchor" || key == "view" || // by hand, whatever the photo shows
                                         key == "made_plate" ||                   // or what the photo is
                                         (key == "taken" && !std::string_view(edit.name).starts_with("exchange"));
                    CHECK(has(p, c) == (decided || !lost || (edit.may_lie && key == "alignment")));
                }
                ++at;
            }
    }
}

TEST_CASE("what steps decided of a shot stays with it through every edit", "[project][steps]")
{
    const Project before = two_shots();
    for (const Edit& edit : edits()) {
        const Project after = edit.make(before);
        const bool other_pixels =
            std::string_view(edit.name) == "exchange for a larger one"; // what is in pixels cannot stay
        for (const ShotPtr& shot : after.shots) {
            CAPTURE(edit.name, shot->name);
            CHECK(shot->steps.entries().size() ==
                  shot_step_codings().size() - (other_pixels && shot == after.shots[0] ? 1 : 0));
        }
    }
}

TEST_CASE("an edit of one shot does not touch the others, nor what was before", "[project][steps]")
{
    const Project before = two_shots(), kept = before;
    for (const Edit& edit : edits()) {
        const Project after = edit.make(before);
        CAPTURE(edit.name);
        CHECK(before == kept);
        if (after.shots.size() == 2 && std::string_view(edit.name) != "another rate") // that is of all
            CHECK(after.shots[1] == before.shots[1]);
    }
}

TEST_CASE("what a newer version keeps of a shot survives an older one", "[project][steps][json]")
{
    Json file = Json::parse(project_text(two_shots(), "/films/harbour"));
    file["shots"][0]["steps"]["of_tomorrow"] = {{"strength", 0.25}, {"points", {1, 2, 3}}};
    file["shots"][0]["photos"][3]["steps"]["of_tomorrow"] = "a word";
    const Project read = project_of_text(file.dump(), "/films/harbour", "/films/harbour/a.frenlo");
    const Project edited = turn_photos(rename_shot(read, first, "Another name"), first, std::array{PhotoIndex(3)}, 1);
    const Json again = Json::parse(project_text(edited, "/films/harbour"));
    CHECK(again["shots"][0]["steps"]["of_tomorrow"] == file["shots"][0]["steps"]["of_tomorrow"]);
    CHECK(again["shots"][0]["photos"][3]["steps"]["of_tomorrow"] == "a word");
    CHECK_FALSE(again["shots"][0]["photos"][3]["steps"].contains("alignment"));
    CHECK(again["shots"][0]["photos"][2] == file["shots"][0]["photos"][2]);
}

TEST_CASE("what is wrong in what a step keeps is named", "[project][steps][json]")
{
    Json file = Json::parse(project_text(two_shots(), "/films/harbour"));
    file["shots"][0]["photos"][3]["steps"]["alignment"]["inliers"] = "many";
    CHECK_THROWS_WITH(project_of_text(file.dump(), "/films/harbour", "/films/harbour/a.frenlo"),
                      Catch::Contains("\"alignment\"") && Catch::Contains("\"inliers\"") && Catch::Contains("photo 4"));
}

TEST_CASE("the names of steps and of what they keep are their own", "[steps]")
{
    std::set<std::string_view> names, photo_keys, shot_keys;
    for (const Step* step : all_steps()) {
        CAPTURE(step->name);
        CHECK(names.insert(step->name).second);
        for (const StepCoding& c : step->photo_values)
            CHECK(photo_keys.insert(c.type->key).second);
        for (const StepCoding& c : step->shot_values)
            CHECK(shot_keys.insert(c.type->key).second);
    }
}

TEST_CASE("values of many types: shared until one is changed", "[steps]")
{
    ShotPhoto a;
    for (const StepCoding& c : photo_step_codings())
        a.steps.put({c.type, c.sample(3)});
    const ShotPhoto b = a;
    CHECK(b.steps == a.steps);
    CHECK(hash_of(b.steps) == hash_of(a.steps));
    CHECK(b.steps.shares<UnknownSteps>(a.steps)); // neither has any
    a.steps.edit<UnknownSteps>().values.emplace_back("later", "1");
    CHECK_FALSE(b.steps == a.steps);
    CHECK(hash_of(b.steps) != hash_of(a.steps));
    CHECK_FALSE(b.steps.has<UnknownSteps>());
    const ShotPhoto c = a;
    a.steps.edit<UnknownSteps>().values.clear();
    CHECK(c.steps.find<UnknownSteps>()->values.size() == 1);
    a.steps.drop<UnknownSteps>();
    a.steps.drop<UnknownSteps>(); // once more is no harm
    CHECK(a.steps == b.steps);
    CHECK(a.steps.get<UnknownSteps>() == UnknownSteps());
}

TEST_CASE("what steps keep weighs in the memory of undo, and shared values weigh once", "[project][steps][history]")
{
    Shot plain = full_shot(1, 50);
    plain.photos.edit_all([](ShotPhoto& p) { p.steps = {}; });
    const Project without = add_shot({}, plain);
    const auto measured = [](const Project& p) {
        Project with = p;
        auto shot = std::make_shared<Shot>(p.shot(first));
        int n = 0;
        shot->photos.edit_all([&](ShotPhoto& photo) {
            for (const StepCoding& c : photo_step_codings())
                photo.steps.put({c.type, c.sample(++n)});
        });
        with.shots[0] = std::move(shot);
        return with;
    };
    const Project with = measured(without);
    std::size_t least = 0;
    for (const StepCoding& c : photo_step_codings())
        least += 50 * c.type->bytes(c.sample(1).get());
    const std::size_t weight = memory_beyond(with, without);
    CHECK(weight > least);
    CHECK(weight < 50 * 4096); // a photo and its values are no pictures
    CHECK(memory_beyond(rename_shot(with, first, "Another name"), with) < weight / 5); // the photos are shared
    // History gives up its oldest steps when what is measured gets too much, never the newest.
    History history(without, weight * 3);
    for (int i = 0; i < 10; ++i)
        history.push(measured(rename_shot(without, first, "Name " + std::to_string(i))), "measure");
    CHECK(history.bytes() <= weight * 4);
    CHECK(history.current().shot(first).name == "Name 9");
    CHECK(history.can_undo());
}

}
