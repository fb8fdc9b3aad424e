// What is done to spots, plates, areas and states by hand, and what becomes of them when photos go. No picture is made
// here.
#include "core/project/edits.h"
#include "core/project/project_json.h"
#include "core/steps/retouch/area_edits.h"
#include "core/steps/retouch/retouch_edits.h"
#include "core/steps/sort/remedies.h"
#include "tests/support/catch.h"
#include "tests/support/made_project.h"

#include <array>
#include <cmath>
#include <limits>
#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

constexpr ShotIndex b{1}; // of made_project: six photos

PhotoId photo(const Project& p, std::size_t at)
{
    return p.shots[1]->photos[at].id;
}

Spot spot_at(PhotoId where, double x, double y)
{
    Spot spot;
    spot.keys = {{where, {x, y}}};
    return spot;
}

const Spot& only_spot(const Project& p)
{
    const auto* retouch = p.shots[1]->steps.find<Retouch>();
    REQUIRE(retouch);
    REQUIRE(retouch->spots.size() == 1);
    return retouch->spots[0];
}

Area outline(const std::string& name, PhotoId where)
{
    Area area;
    area.name = name;
    area.keys = {{where, {0.1, 0.1, 0.5, 0.1, 0.5, 0.5}}};
    return area;
}

const Area& area_of(const Project& p, AreaId id)
{
    const Area* area = find_area(*p.shots[1], id);
    REQUIRE(area);
    return *area;
}

std::string states_along(const Project& p)
{
    std::string text;
    const Shot& shot = *p.shots[1];
    for (std::size_t i = 0; i < shot.photos.size(); ++i) {
        const auto id = state_at(shot, PhotoIndex(std::int64_t(i)));
        text += id ? find_state(shot, *id)->name : "-";
    }
    return text;
}

Project read_again(const Project& p)
{
    return project_of_text(project_text(p, "/films/harbour"), "/films/harbour", "/films/harbour/a.frenlo");
}

const double not_a_number = std::numeric_limits<double>::quiet_NaN();

}

TEST_CASE("a spot is put, changed and taken away by its identity, and leaves nothing behind", "[retouch][edits]")
{
    const Project p = made_project();
    const auto with = add_spot(p, b, spot_at(photo(p, 0), 0.3, 0.4));
    CHECK(only_spot(with.project).id == with.spot);
    const Project larger = change_spot(with.project, b, with.spot, [](Spot& s) {
        s.radius = 0.05;
        s.id = SpotId{7};
    });
    CHECK(only_spot(larger).radius == 0.05);
    CHECK(only_spot(larger).id == with.spot);
    CHECK(change_spot(larger, b, SpotId{7}, [](Spot& s) { s.radius = 1; }) == larger);
    CHECK(remove_spots(larger, b, std::array{SpotId{7}}) == larger);
    CHECK(remove_spots(larger, b, std::array{with.spot}) == p);
    CHECK(remove_spots(larger, b, {}) == larger);
    // An identity that a spot brings along stays its own.
    Spot known = spot_at(photo(p, 0), 0.1, 0.1);
    known.id = SpotId{42};
    CHECK(add_spot(p, b, known).spot == SpotId{42});
}

TEST_CASE("a spot that cannot be is put right, one without a place is none", "[retouch][edits]")
{
    const Project p = made_project();
    const auto with = add_spot(p, b, spot_at(photo(p, 0), not_a_number, 1e9));
    const Spot& kept = only_spot(with.project);
    CHECK(kept.keys[0].points == std::vector<double>{0, place_limits.high});
    const Project odd = change_spot(with.project, b, with.spot, [](Spot& s) {
        s.radius = -1;
        s.soft = 100;
        s.offset = {not_a_number, -1e9};
        s.keys[0].points = {0.1, 0.2, 0.3};
    });
    CHECK(only_spot(odd).radius == spot_radius_limits.low);
    CHECK(only_spot(odd).soft == 4);
    CHECK(only_spot(odd).offset == cv::Point2d(0, -20));
    CHECK(only_spot(odd).keys[0].points == std::vector<double>{0.1, 0.2}); // half a point is none
    CHECK(read_again(odd) == odd);
    CHECK(change_spot(odd, b, with.spot, [](Spot& s) { s.keys.clear(); }) == p);
    CHECK(add_spot(p, b, {}).project == p);
    const auto endless = add_spot(p, b, [&] {
        Spot long_way = spot_at(photo(p, 0), 0, 0);
        long_way.keys[0].points.assign(most_place_numbers + 11, 0.5);
        return long_way;
    }());
    CHECK(only_spot(endless.project).keys[0].points.size() == most_place_numbers);
}

TEST_CASE("a spot that moves has a key a photo, one that does not has one place", "[retouch][edits]")
{
    const Project p = made_project();
    auto with = add_spot(p, b, spot_at(photo(p, 0), 0.2, 0.2));
    const auto place = [&](const Project& of, std::size_t at, cv::Point2d where, bool moves) {
        return place_spot(of, b, with.spot, photo(p, at), {where}, moves);
    };
    Project moving = place(with.project, 4, {0.6, 0.4}, true);
    REQUIRE(only_spot(moving).keys.size() == 2);
    const auto at = [&](const Project& of, std::int64_t i) {
        const auto points = points_at(only_spot(of), *of.shots[1], PhotoIndex(i));
        REQUIRE(points.size() == 1);
        return points[0];
    };
    CHECK(at(moving, 2).x == Approx(0.4));
    CHECK(at(moving, 2).y == Approx(0.3));
    CHECK(at(moving, 5) == at(moving, 4)); // behind its last key it stays
    moving = place(moving, 4, {0.8, 0.2}, true);
    REQUIRE(only_spot(moving).keys.size() == 2); // the same key
    CHECK(at(moving, 2).x == Approx(0.5));
    const Project still = place(moving, 3, {0.9, 0.9}, false);
    REQUIRE(only_spot(still).keys.size() == 1);
    CHECK(at(still, 0) == at(still, 5));
    // Its range holds whether it moves or not; backwards it is the same range.
    const Project part = change_spot(moving, b, with.spot, [&](Spot& s) {
        s.first = photo(p, 1);
        s.last = photo(p, 3);
    });
    std::string there;
    for (std::int64_t i = 0; i < 6; ++i)
        there += points_at(only_spot(part), *part.shots[1], PhotoIndex(i)).empty() ? '-' : 'x';
    CHECK(there == "-xxx--");
}

TEST_CASE("a spot whose first or last photo is gone is in all that is left", "[retouch][edits]")
{
    const Project p = made_project();
    Spot spot = spot_at(photo(p, 2), 0.5, 0.5);
    spot.first = photo(p, 4);
    const auto with = add_spot(p, b, spot);
    const Project split = split_shot(with.project, b, PhotoIndex(4)); // photos 5 and 6 leave
    REQUIRE(split.shots.size() == 4);
    CHECK(split.shots[1]->photos.size() == 4);
    const auto [begin, end] = range_of(only_spot(split), *split.shots[1]);
    CHECK(begin == 0);
    CHECK(end == 4);
}

TEST_CASE("a clean plate is a photo of the shot, and a made one takes the place of the made one before",
          "[retouch][edits]")
{
    const Project p = made_project();
    const Project chosen = set_plate(p, b, photo(p, 3));
    CHECK(plate_of(*chosen.shots[1]) == PhotoIndex(3));
    CHECK(set_plate(chosen, b, {}) == p);
    CHECK_FALSE(plate_of(*set_plate(p, b, PhotoId{9}).shots[1])); // gone: there is none
    const Project made = put_made_plate(chosen, b, made_photo(900), 6),
                  again = put_made_plate(made, b, made_photo(901), 5);
    CHECK(made.shots[1]->photos.size() == 7);
    CHECK(again.shots[1]->photos.size() == 7);
    const ShotPhoto& plate = again.shots[1]->photos[6];
    CHECK(plate.photo->file == made_photo(901)->file);
    CHECK(plate.aside); // in no frame of the film
    CHECK(plate.steps.get<MadePlate>().photos == 5);
    CHECK(plate_of(*again.shots[1]) == PhotoIndex(6));
    CHECK(schedule_of(again, *again.shots[1]).frames() == schedule_of(p, *p.shots[1]).frames());
    CHECK(read_again(again) == again);
}

TEST_CASE("what a spot wants and is not there is told", "[retouch][edits]")
{
    const Project p = made_project();
    Spot wire = spot_at(photo(p, 0), 0.5, 0.5);
    wire.from = HealFrom::plate;
    const auto with = add_spot(p, b, wire);
    CHECK(retouch_notes(*p.shots[1]).empty());
    REQUIRE(retouch_notes(*with.project.shots[1]).size() == 1);
    CHECK_THAT(retouch_notes(*with.project.shots[1])[0], Catch::Contains("there is none"));
    const Project plated = set_plate(with.project, b, photo(p, 1));
    REQUIRE(retouch_notes(*plated.shots[1]).size() == 1);
    CHECK_THAT(retouch_notes(*plated.shots[1])[0], Catch::Contains("not held still"));
    const Project off = change_spot(plated, b, with.spot, [](Spot& s) { s.on = false; });
    CHECK(retouch_notes(*off.shots[1]).empty());
}

TEST_CASE("areas have names of their own, whatever they are called", "[areas][edits]")
{
    Project p = made_project();
    std::set<std::string> names;
    std::vector<AreaId> ids;
    for (const char* name : {"Sky", "Sky", "", "", "Area 1"}) {
        const auto [with, id] = add_area(p, b, outline(name, photo(p, 0)));
        p = with;
        ids.push_back(id);
        CHECK(names.insert(area_of(p, id).name).second);
    }
    CHECK(names.contains("Sky"));
    CHECK(names.contains("Sky 2"));
    // Renamed to one that is taken, it gets a number; renamed to nothing, it keeps its own.
    const auto renamed = [&](AreaId id, const char* to) {
        return area_of(change_area(p, b, id, [&](Area& a) { a.name = to; }), id).name;
    };
    CHECK(renamed(ids[0], "Window") == "Window");
    CHECK(renamed(ids[0], "Sky") == "Sky");
    CHECK(renamed(ids[0], "") == "Sky");
    CHECK(renamed(ids[1], "Sky") != "Sky");
    CHECK(renamed(ids[4], "Sky 2") != "Sky 2");
}

TEST_CASE("an area keeps an outline that has room, and what cannot be is put right", "[areas][edits]")
{
    const Project p = made_project();
    const auto [with, id] = add_area(p, b, outline("Sky", photo(p, 0)));
    const auto changed = [&, area = id, &from = with](const std::function<void(Area&)>& change) {
        return area_of(change_area(from, b, area, change), area);
    };
    CHECK(changed([](Area& a) { a.keys[0].points = {0.1, 0.1, 0.9, 0.9}; }).keys == area_of(with, id).keys);
    CHECK(changed([](Area& a) { a.keys.clear(); }).keys == area_of(with, id).keys);
    // A brush needs a point only.
    CHECK(changed([](Area& a) {
              a.brush = 0.1;
              a.keys[0].points = {0.5, 0.5};
          })
              .keys[0]
              .points.size() == 2);
    CHECK(changed([](Area& a) { a.soft = 9; }).soft == area_soft_limits.high);
    CHECK(changed([](Area& a) { a.brush = not_a_number; }).brush == 0);
    // It shows another photo only where it is told to show one.
    CHECK_FALSE(changed([&](Area& a) { a.other = photo(p, 3); }).other);
    CHECK(changed([&](Area& a) {
              a.shows = AreaShows::other;
              a.other = photo(p, 3);
          }).other == photo(p, 3));
    CHECK(remove_area(with, b, id) == p);
    CHECK(remove_area(with, b, AreaId{1}) == with);
    CHECK(place_area(with, b, AreaId{1}, photo(p, 1), {}, true) == with);
    CHECK(area_of(place_area(with, b, id, photo(p, 3), {}, true), id).keys.size() == 1); // a key without room is none
    const std::vector<cv::Point2d> there{{0.6, 0.6}, {0.9, 0.6}, {0.9, 0.9}};
    CHECK(area_of(place_area(with, b, id, photo(p, 3), there, true), id).keys.size() == 2);
    CHECK(area_of(place_area(with, b, id, photo(p, 3), there, false), id).keys.size() == 1);
}

TEST_CASE("an area's photos in words", "[areas][edits]")
{
    const Project p = made_project();
    const auto text = [&](std::optional<std::size_t> first, std::optional<std::size_t> last) {
        Area area = outline("Sky", photo(p, 0));
        area.first = first ? std::optional(photo(p, *first)) : std::nullopt;
        area.last = last ? std::optional(photo(p, *last)) : std::nullopt;
        return photos_text(area, *p.shots[1]);
    };
    CHECK(text({}, {}) == "all photos");
    CHECK(text(2, {}) == "from photo 3 on");
    CHECK(text(5, {}) == "photo 6"); // the last one
    CHECK(text({}, 2) == "photos 1 to 3");
    CHECK(text(1, 1) == "photo 2");
    CHECK(text(1, 4) == "photos 2 to 5");
}

TEST_CASE("states are switched along the photos, and what says nothing new is not kept", "[areas][states][edits]")
{
    const Project base = made_project();
    Project p = base;
    const auto [with_day, day] = add_state(p, b, "D");
    const auto [with_both, lamp] = add_state(with_day, b, "L");
    const Project both = with_both;
    const auto at = [&](const Project& of, std::int64_t i, std::optional<StateId> state) {
        return switch_state(of, b, PhotoIndex(i), state);
    };
    CHECK(states_along(both) == "------");
    p = at(both, 1, day);
    CHECK(states_along(p) == "-DDDDD");
    CHECK(at(p, 3, day) == p); // it is that already
    p = at(p, 3, lamp);
    CHECK(states_along(p) == "-DDLLL");
    p = at(p, 5, std::nullopt);
    CHECK(states_along(p) == "-DDLL-");
    CHECK(states_along(at(p, 1, lamp)) == "-LLLL-"); // the second switch to it goes
    CHECK(states_along(at(p, 0, day)) == "DDDLL-");
    CHECK(states_along(remove_state(p, b, lamp)) == "-DDDD-");
    CHECK(states_along(remove_state(p, b, day)) == "---LL-");
    CHECK(remove_state(remove_state(p, b, lamp), b, day) == base);
    // Photos that are moved take their switch along.
    CHECK(states_along(move_photos(p, b, std::array{PhotoIndex(3)}, PhotoIndex(0))) == "LLDDD-");
    CHECK(read_again(p) == p);
}

TEST_CASE("states have names of their own", "[areas][states][edits]")
{
    const auto [one, day] = add_state(made_project(), b, "Day");
    const auto [two, other] = add_state(one, b, "Day");
    const Shot& shot = *two.shots[1];
    CHECK(find_state(shot, day)->name == "Day");
    CHECK(find_state(shot, other)->name == "Day 2");
    const auto renamed = [&, &from = two](StateId id, const char* name) {
        return find_state(*rename_state(from, b, id, name).shots[1], id)->name;
    };
    CHECK(renamed(other, "Lamp") == "Lamp");
    CHECK(renamed(other, "Day") == "Day 2");
    CHECK(renamed(day, "") == "Day");
    CHECK(rename_state(two, b, day, "Day") == two);
    CHECK(rename_state(two, b, StateId{1}, "Dusk") == two);
}

TEST_CASE("photos that come once more are their own photos, with all that was set for them", "[areas][states][edits]")
{
    Project p = turn_photos(made_project(), b, std::array{PhotoIndex(1)}, 1);
    const auto [with, lamp] = add_state(p, b, "L");
    const Project twice = once_more(with, b, std::array{PhotoIndex(1), PhotoIndex(4)}, lamp);
    const Shot& shot = *twice.shots[1];
    REQUIRE(shot.photos.size() == 8);
    CHECK(states_along(twice) == "------LL");
    CHECK(shot.photos[6].photo == shot.photos[1].photo);
    CHECK(shot.photos[6].turns == 1);
    CHECK(shot.photos[7].turns == 0);
    std::set<std::uint64_t> ids;
    for (const ShotPhoto& one : shot.photos)
        CHECK(ids.insert(one.id.value).second);
    CHECK(once_more(with, b, {}, lamp) == with);
}

TEST_CASE("areas that show what is not there are told", "[areas][edits]")
{
    const Project p = made_project();
    Area plate = outline("Sky", photo(p, 0)), other = outline("Door", photo(p, 0));
    plate.shows = AreaShows::plate;
    other.shows = AreaShows::other;
    other.other = photo(p, 5);
    const auto [one, first] = add_area(p, b, plate);
    const auto [two, second] = add_area(one, b, other);
    REQUIRE(area_notes(*two.shots[1]).size() == 1);
    CHECK_THAT(area_notes(*two.shots[1])[0], Catch::Contains("clean plate"));
    const Project plated = set_plate(two, b, photo(p, 0));
    CHECK(area_notes(*plated.shots[1]).empty());
    const Project split = split_shot(plated, b, PhotoIndex(4));
    REQUIRE(area_notes(*split.shots[1]).size() == 1);
    CHECK_THAT(area_notes(*split.shots[1])[0], Catch::Contains("no longer in the shot"));
    CHECK(area_notes(*change_area(split, b, second, [](Area& a) { a.on = false; }).shots[1]).empty());
    CHECK(area_notes(*p.shots[1]).empty());
}

}
