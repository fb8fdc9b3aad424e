// What is typed on the command line, read and refused.
#include "core/command/options.h"
#include "core/project/edits.h"
#include "tests/support/catch.h"

#include <CLI/CLI.hpp>

#include <array>

using namespace frenlo;
using namespace frenlo::command;

namespace FRENLO_THIS_SOURCE {

TEST_CASE("rates, holds and lengths are exact, or refused by name", "[options]")
{
    CHECK(rate_option("23.976") == Rate(Fraction(24000, 1001)));
    CHECK(rate_option("30000/1001") == Rate(Fraction(30000, 1001)));
    for (const char* wrong : {"", "fast", "0", "-24"})
        CHECK_THROWS_AS(rate_option(wrong), WrongCall);
    CHECK(hold_option("2f") == Hold(Frames{2}));
    CHECK(hold_option("0.15s") == Hold(Seconds{Fraction(15, 100)}));
    CHECK_THROWS_WITH(hold_option("long"), Catch::Contains("\"long\" is not a hold"));
    CHECK(length_option("4s", Rate(24)).value == Fraction(4));
    CHECK(length_option("96f", Rate(24)).value == Fraction(96, 24));
    CHECK_THROWS_AS(length_option("0f", Rate(24)), WrongCall); // it would not be seen
}

TEST_CASE("boxes in pixels become shares, and lie within the photos", "[options]")
{
    CHECK(box_option("60,40,300,200", {600, 400}) == cv::Rect2d(0.1, 0.1, 0.5, 0.5));
    CHECK(box_option("0,0,600,400", {600, 400}) == cv::Rect2d(0, 0, 1, 1));
    for (const char* wrong : {"", "1,2,3", "a,b,c,d", "0,0,601,400", "-1,0,10,10", "0,0,0,10", "1;2;3;4"}) {
        CAPTURE(wrong);
        CHECK_THROWS_AS(box_option(wrong, {600, 400}), WrongCall);
    }
    CHECK(boxes_option({"all"}, {600, 400}).empty());
    CHECK(boxes_option({"0,0,60,40", "60,40,60,40"}, {600, 400}).size() == 2);
}

TEST_CASE("a shot is found by its name, and afterwards by who it is", "[options]")
{
    const auto named = [](const char* name) {
        Shot shot;
        shot.name = name;
        return shot;
    };
    const Project p = add_shot(add_shot({}, named("Boat")), named("Pier"));
    CHECK(named_shot(p, "Pier") == ShotIndex(1));
    CHECK_THROWS_WITH(named_shot(p, "Quay"), Catch::Contains("Boat, Pier"));
    const Shot before = p.shot(ShotIndex(1));
    const Project later = remove_shot(rename_shot(p, ShotIndex(1), "Jetty"), ShotIndex(0));
    CHECK(same_shot(later, before) == ShotIndex(0));
    Shot of_old = before; // from a file without identities
    of_old.id = {};
    CHECK(same_shot(p, of_old) == ShotIndex(1));
    CHECK_THROWS_AS(same_shot(later, of_old), WrongCall);
}

TEST_CASE("a switch is on, off, or not spoken of", "[options]")
{
    const std::pair<std::vector<std::string>, std::optional<bool>> rows[] = {
        {{}, std::nullopt}, {{"--by-tone"}, true}, {{"--no-by-tone"}, false}};
    for (const auto& [arguments, wanted] : rows) {
        CLI::App app;
        std::optional<bool> value;
        add_switch(app, "by-tone", value, "");
        app.parse(std::vector<std::string>(arguments));
        CHECK(value == wanted);
    }
}

}
