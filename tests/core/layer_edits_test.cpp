// What is done to layers by hand: keys, strokes, locks, order, and what happens to them when shots and photos go. No
// picture is made here.
#include "core/project/project_json.h"
#include "core/project/reel_items.h"
#include "core/steps/layers/layer_edits.h"
#include "core/steps/layers/layer_movement.h"
#include "tests/support/catch.h"
#include "tests/support/made_project.h"

#include <array>
#include <cmath>
#include <limits>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

Seconds s(std::int64_t num, std::int64_t den = 1)
{
    return {Fraction(num, den)};
}

/// A project, where a layer lies in it, and the layer.
struct Made
{
    Project project;
    LayerHome home;
    LayerId layer{};
    [[nodiscard]] const Layer& in(const Project& p) const
    {
        const Layer* found = find_layer(p, home, layer);
        REQUIRE(found);
        return *found;
    }
};

/// A layer to draw on, over a shot or over the Reel.
Made drawing_over(bool shot)
{
    const Project p = made_project();
    const LayerHome home{shot ? std::optional(p.shots[0]->id) : std::nullopt};
    auto with = add_drawing_layer(p, home, "Smoke");
    return {with.project, home, with.layer};
}

Stroke stroke(std::vector<double> points)
{
    Stroke made;
    made.points = std::move(points);
    return made;
}

std::string names(const Project& p, const LayerHome& home)
{
    std::string all;
    for (const Layer& l : layers_of(p, home))
        all += l.name + ' ';
    return all;
}

const double not_a_number = std::numeric_limits<double>::quiet_NaN();

}

TEST_CASE("a key is made from where the layer is, changed where there is one, and taken away", "[layers][edits]")
{
    for (const bool over_shot : {true, false}) {
        const Made m = drawing_over(over_shot);
        Project p = change_key(m.project, m.home, m.layer, s(0), [](LayerKey& k) { k.x = 0.2; });
        p = change_key(p, m.home, m.layer, s(2), [](LayerKey& k) { k.x = 0.6; });
        // Between the two it is half way: a key that is made there and not changed moves nothing.
        const Project more = change_key(p, m.home, m.layer, s(1), [](LayerKey&) {});
        REQUIRE(m.in(more).keys.size() == 3);
        CHECK(m.in(more).keys[1].at == s(1));
        CHECK(m.in(more).keys[1].x == Approx(0.4));
        for (const double t : {0.0, 0.3, 0.999, 1.0, 1.7, 5.0})
            CHECK(LayerMovement(m.in(more)).at(t).x == Approx(LayerMovement(m.in(p)).at(t).x));
        const Project changed = change_key(more, m.home, m.layer, s(1), [](LayerKey& k) {
            k.turn = 90;
            k.at = s(77); // a key stays where it is
        });
        CHECK(m.in(changed).keys.size() == 3);
        CHECK(m.in(changed).keys[1].turn == 90);
        CHECK(m.in(changed).keys[1].at == s(1));
        CHECK(remove_key(more, m.home, m.layer, s(1)) == p);
        CHECK(remove_key(p, m.home, m.layer, s(1)) == p);
        CHECK(change_key(p, m.home, LayerId{1}, s(1), [](LayerKey& k) { k.x = 9; }) == p);
    }
}

TEST_CASE("keys lie in order of time in whatever order they were made, and survive the file", "[layers][edits][json]")
{
    const Made m = drawing_over(true);
    Project p = m.project;
    for (const std::int64_t twelfth : {9, 3, 12, 0, 6})
        p = change_key(p, m.home, m.layer, s(twelfth, 12), [&](LayerKey& k) {
            k.y = double(twelfth) / 20;
            k.ease = Ease(twelfth % 2);
        });
    const auto& keys = m.in(p).keys;
    REQUIRE(keys.size() == 5);
    CHECK(std::is_sorted(keys.begin(), keys.end(), [](const LayerKey& a, const LayerKey& b) { return a.at < b.at; }));
    CHECK(project_of_text(project_text(p, "/films/harbour"), "/films/harbour", "/films/harbour/a.frenlo") == p);
}

TEST_CASE("a layer that is pulled keeps its movement", "[layers][edits]")
{
    const Made m = drawing_over(true);
    Project p = shift_layer(m.project, m.home, m.layer, 0.1, -0.2);
    REQUIRE(m.in(p).keys.size() == 1); // made for it
    CHECK(m.in(p).keys[0].x == Approx(0.6));
    CHECK(m.in(p).keys[0].y == Approx(0.3));
    p = change_key(p, m.home, m.layer, s(1), [](LayerKey& k) {
        k.x = 1.6;
        k.turn = 45;
    });
    const Project there = shift_layer(p, m.home, m.layer, 0.25, 0.5);
    for (const double t : {0.0, 0.25, 0.5, 1.0, 3.0}) {
        const LayerKey before = LayerMovement(m.in(p)).at(t), after = LayerMovement(m.in(there)).at(t);
        CHECK(after.x - before.x == Approx(0.25));
        CHECK(after.y - before.y == Approx(0.5));
        CHECK(after.turn == Approx(before.turn));
    }
    // Back again: the same place but for what a sum of doubles loses.
    CHECK(m.in(shift_layer(there, m.home, m.layer, -0.25, -0.5)).keys[1].x == Approx(1.6));
    CHECK(shift_layer(p, m.home, LayerId{1}, 1, 1) == p);
}

TEST_CASE("what a layer cannot be is put right", "[layers][edits]")
{
    const Made m = drawing_over(true);
    const auto changed = [&](const std::function<void(Layer&)>& change) {
        return m.in(change_layer(m.project, m.home, m.layer, change));
    };
    CHECK(changed([](Layer& l) { l.begin = s(-3); }).begin == s(0));
    CHECK_FALSE(changed([](Layer& l) {
                    l.begin = s(2);
                    l.end = s(2);
                }).end);
    CHECK(changed([](Layer& l) { l.soft_edge = 7; }).soft_edge == 0.5);
    CHECK(changed([](Layer& l) { l.pivot_x = 1e9; }).pivot_x == layer_place_limits.high);
    CHECK(changed([](Layer& l) { l.id = LayerId{5}; }).id == m.layer);
    CHECK_FALSE(changed([&](Layer& l) { l.matte = LayerMatte{m.layer}; }).matte); // by itself
    const auto shadow = changed([](Layer& l) {
                            l.shadow = LayerShadow{};
                            l.shadow->distance = -1;
                            l.shadow->softness = 3;
                            l.shadow->strength = 40;
                        }).shadow;
    REQUIRE(shadow);
    CHECK(shadow->distance == 0);
    CHECK(shadow->softness == 0.5);
    CHECK(shadow->strength == 1);
    const auto keyed = changed([](Layer& l) {
        l.keys.push_back({.at = s(1), .x = not_a_number, .y = 1e9, .size = -4, .turn = not_a_number, .opacity = 3});
    });
    REQUIRE(keyed.keys.size() == 1);
    CHECK(std::isfinite(keyed.keys[0].x));
    CHECK(keyed.keys[0].y == layer_place_limits.high);
    CHECK(keyed.keys[0].size == layer_size_limits.low);
    CHECK(std::isfinite(keyed.keys[0].turn));
    CHECK(keyed.keys[0].opacity == 1);
}

TEST_CASE("a locked layer is switched and unlocked, and nothing else", "[layers][edits]")
{
    const Made m = drawing_over(true);
    const PhotoId photo = m.project.shots[0]->photos[0].id;
    const Project p = change_layer(m.project, m.home, m.layer, [](Layer& l) { l.locked = true; });
    const std::array<Project, 8> tried{
        change_layer(p, m.home, m.layer, [](Layer& l) { l.blend = Blend::add; }),
        change_key(p, m.home, m.layer, s(1), [](LayerKey& k) { k.x = 0; }),
        remove_key(p, m.home, m.layer, s(1)),
        shift_layer(p, m.home, m.layer, 0.1, 0.1),
        add_stroke(p, m.home, m.layer, photo, stroke({0.1, 0.1, 1, 0.2, 0.2, 1})),
        remove_last_stroke(p, m.home, m.layer, photo),
        hold_drawing(p, m.home, m.layer, photo, 4),
        remove_layer(p, m.home, m.layer),
    };
    for (std::size_t i = 0; i < tried.size(); ++i) {
        CAPTURE(i);
        CHECK(tried[i] == p);
    }
    const Project off = change_layer(p, m.home, m.layer, [](Layer& l) {
        l.on = false;
        l.name = "Other";
    });
    CHECK_FALSE(m.in(off).on);
    CHECK(m.in(off).name == "Smoke");
    const Project open = change_layer(p, m.home, m.layer, [](Layer& l) {
        l.locked = false;
        l.name = "Other"; // with the lock, all else is set
    });
    CHECK(m.in(open).name == "Other");
    CHECK_FALSE(find_layer(remove_layer(open, m.home, m.layer), m.home, m.layer));
}

TEST_CASE("layers go up and down, not beyond the ends", "[layers][edits]")
{
    Project p = made_project();
    const LayerHome home{p.shots[1]->id};
    std::vector<LayerId> ids;
    for (const char* name : {"a", "b", "c", "d"}) {
        auto with = add_drawing_layer(p, home, name);
        p = with.project;
        ids.push_back(with.layer);
    }
    CHECK(names(p, home) == "a b c d ");
    CHECK(names(move_layer(p, home, ids[0], 1), home) == "b a c d ");
    CHECK(names(move_layer(p, home, ids[0], 99), home) == "b c d a ");
    CHECK(names(move_layer(p, home, ids[3], -2), home) == "a d b c ");
    CHECK(move_layer(p, home, ids[3], 1) == p);
    CHECK(move_layer(p, home, ids[0], -1) == p);
    CHECK(move_layer(p, home, ids[2], 0) == p);
    CHECK(move_layer(p, home, LayerId{1}, 1) == p);
    // There and back is where it was, from everywhere to everywhere.
    for (const LayerId id : ids)
        for (const int by : {1, 2, 3}) {
            const Project up = move_layer(p, home, id, by);
            const auto at = [&](const Project& of) {
                const auto all = layers_of(of, home);
                return std::find_if(all.begin(), all.end(), [&](const Layer& l) { return l.id == id; }) - all.begin();
            };
            CHECK(move_layer(up, home, id, -int(at(up) - at(p))) == p);
        }
}

TEST_CASE("strokes go to the drawing of their photo, and the last one takes it along", "[layers][edits][drawing]")
{
    const Made m = drawing_over(true);
    const auto& photos = m.project.shots[0]->photos;
    Project p = m.project;
    p = add_stroke(p, m.home, m.layer, photos[2].id, stroke({0.1, 0.1, 1, 0.2, 0.2, 0.5}));
    p = add_stroke(p, m.home, m.layer, photos[0].id, stroke({0.3, 0.3, 1}));
    p = add_stroke(p, m.home, m.layer, photos[2].id, stroke({0.5, 0.5, 1, 0.6}));
    REQUIRE(m.in(p).drawings.size() == 2);
    const Drawing& third = m.in(p).drawings[0];
    CHECK(third.photo == photos[2].id);
    REQUIRE(third.strokes.size() == 2);
    CHECK(third.strokes[1].points == std::vector<double>{0.5, 0.5, 1}); // a point that is not whole is left away
    p = hold_drawing(p, m.home, m.layer, photos[2].id, 3);
    CHECK(m.in(p).drawings[0].photos == 3);
    CHECK(m.in(hold_drawing(p, m.home, m.layer, photos[2].id, -5)).drawings[0].photos == 1);
    CHECK(hold_drawing(p, m.home, m.layer, photos[1].id, 3) == p); // nothing is drawn there
    p = remove_last_stroke(p, m.home, m.layer, photos[2].id);
    CHECK(m.in(p).drawings[0].strokes.size() == 1);
    p = remove_last_stroke(p, m.home, m.layer, photos[2].id);
    REQUIRE(m.in(p).drawings.size() == 1);
    CHECK(m.in(p).drawings[0].photo == photos[0].id);
    CHECK(remove_last_stroke(p, m.home, m.layer, photos[2].id) == p);
}

TEST_CASE("strokes from a pen that went wild are kept within what can be drawn", "[layers][edits][drawing]")
{
    const Made m = drawing_over(true);
    const PhotoId photo = m.project.shots[0]->photos[0].id;
    CHECK(add_stroke(m.project, m.home, m.layer, photo, stroke({})) == m.project);
    CHECK(add_stroke(m.project, m.home, m.layer, photo, stroke({0.5, 0.5})) == m.project);
    Stroke wild = stroke({not_a_number, 1e12, 1, -1e12, 0.5, not_a_number});
    wild.width = 1e6;
    const Project p = add_stroke(m.project, m.home, m.layer, photo, wild);
    const Stroke& kept = m.in(p).drawings[0].strokes[0];
    for (const double v : kept.points) {
        CHECK(v >= layer_place_limits.low);
        CHECK(v <= layer_place_limits.high);
    }
    CHECK(kept.width == 2);
    const Project most =
        add_stroke(m.project, m.home, m.layer, photo, stroke(std::vector<double>(most_stroke_points + 30, 0.5)));
    CHECK(m.in(most).drawings[0].strokes[0].points.size() <= most_stroke_points);
    CHECK(project_of_text(project_text(most, "/films/harbour"), "/films/harbour", "/films/harbour/a.frenlo") == most);
}

TEST_CASE("films in layers are in no Reel by themselves, pictures and texts come as shots of their own",
          "[layers][edits][reel]")
{
    const Project p = made_project();
    const LayerHome home{p.shots[0]->id};
    const auto film = add_film_layer(p, home, p.shots[1]->id);
    CHECK(film.project.reel.left_out == std::vector{p.shots[1]->id});
    CHECK(names(film.project, home) == "b ");
    CHECK(add_film_layer(p, home, p.shots[0]->id).project == p); // a shot in itself
    CHECK(add_film_layer(p, home, ShotId{1}).project == p);
    const auto text = add_text_layer(p, home, "Harbour\nin March");
    CHECK(text.project.shots.size() == 4);
    CHECK(text.project.shots[3]->name == "Harbour");
    CHECK(names(text.project, home) == "Harbour ");
    const auto nothing = add_text_layer(p, home, "");
    CHECK(nothing.project.shots[3]->name == "Text");
    const auto pictures = add_picture_layer(p, {}, made_shot("a", 3, 1, 700)); // a name that is taken
    CHECK(pictures.project.shots[3]->name == "a 2");
    CHECK(find_layer(pictures.project, {}, pictures.layer)->shot == pictures.project.shots[3]->id);
    // One that the Reel was told to show stays in it.
    Project told = p;
    told.reel.items = reel_items(p);
    CHECK(add_film_layer(told, home, p.shots[1]->id).project.reel.left_out.empty());
}

TEST_CASE("what a layer needs and is gone is told, as long as it is on", "[layers][edits]")
{
    Project p = made_project();
    const LayerHome home{p.shots[0]->id};
    const auto film = add_film_layer(p, home, p.shots[1]->id);
    const auto matte = add_drawing_layer(film.project, home, "Window");
    p = change_layer(matte.project, home, film.layer, [&](Layer& l) { l.matte = LayerMatte{matte.layer}; });
    CHECK(layer_notes(p, home).empty());
    const Project without = remove_layer(remove_shot(p, ShotIndex(1)), home, matte.layer);
    const auto notes = layer_notes(without, home);
    REQUIRE(notes.size() == 2);
    CHECK_THAT(notes[0], Catch::Contains("\"b\"") && Catch::Contains("gone"));
    CHECK_THAT(notes[1], Catch::Contains("shows nothing"));
    const Project inverse = change_layer(without, home, film.layer, [](Layer& l) { l.matte->inverse = true; });
    CHECK_THAT(layer_notes(inverse, home)[1], Catch::Contains("is all"));
    CHECK(layer_notes(change_layer(without, home, film.layer, [](Layer& l) { l.on = false; }), home).empty());
    CHECK(layer_notes(p, LayerHome{ShotId{1}}).empty());
}

TEST_CASE("a colour is taken out of a shot and put back", "[layers][edits][colour-out]")
{
    const Project p = made_project();
    ColourOut out;
    const Project with = set_colour_out(p, p.shots[2]->id, out);
    CHECK(with.shots[2]->steps.has<ColourOut>());
    CHECK(with.shots[0] == p.shots[0]);
    CHECK(set_colour_out(with, p.shots[2]->id, {}) == p);
    CHECK(set_colour_out(p, p.shots[2]->id, {}) == p);
    CHECK(set_colour_out(p, ShotId{1}, out) == p);
}

}
