// What any version of Frenlo has written is read: nothing that somebody made is lost by a newer one.
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/project/project_json.h"
#include "core/project/value_codecs.h"
#include "core/steps/flicker/deflicker_values.h"
#include "core/steps/steady/steady_values.h"
#include "tests/support/accepted.h"
#include "tests/support/catch.h"
#include "tests/support/full_project.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

const std::filesystem::path fixtures = std::filesystem::path(FRENLO_SOURCE) / "tests/fixtures";
const std::filesystem::path home = "/films/harbour/p.frenlo"; ///< where the fixtures were written

Project read(const char* name)
{
    return project_from_json(read_bytes(fixtures / name), home).project;
}

}

TEST_CASE("every field of a project is written and read again", "[document][versions]")
{
    const Project full = full_project();
    const LoadedProject back = project_from_json(project_to_json(full, home), home);
    CHECK(back.problems.empty());
    CHECK(back.project == full);
}

TEST_CASE("the schema of project files is what is written", "[document][schema]")
{
    const Compared c = with_text("docs/project.schema.json", project_schema().dump(1) + '\n');
    INFO(c.message);
    CHECK(c.same);
}

TEST_CASE("paths that are not UTF-8 go out and in, and photos that lie elsewhere are found there",
          "[document][versions]")
{
    TempFolder t;
    write_run(t / "here", "s", 1, {8, 8});
    const std::filesystem::path odd = t / "here" / "\xffs.jpg";
    std::filesystem::rename(t / "here" / "s_0001.jpg", odd);
    Shot shot;
    shot.name = "s";
    shot.photos.push_back({scanned(odd), Frames{1}});
    const Project p = add_shot({}, std::move(shot));
    const std::string text = project_to_json(p, t / "here" / "p.frenlo");
    CHECK_THAT(text, Catch::Contains("{\"hex\":\"ff732e6a7067\"}"));
    CHECK(project_from_json(text, t / "here" / "p.frenlo").project == p);
    std::filesystem::create_directories(t / "there");
    CHECK(project_from_json(text, t / "there" / "p.frenlo").project == p); // the project was moved without its photos
    std::filesystem::rename(odd, t / "there" / "\xffs.jpg");
    CHECK(project_from_json(text, t / "there" / "p.frenlo").project.shot(ShotIndex(0)).photos[0].photo->file ==
          t / "there" / "\xffs.jpg");

    // Put together by hand, with the version at the end: read all the same.
    Json j = Json::parse(text);
    Json turned{{"shots", j["shots"]}, {"delivered_at", "24"}, {"folder", j["folder"]}, {"frenlo", 3}};
    turned["shots"][0]["id"] = "0000000000000001";
    std::filesystem::rename(t / "there" / "\xffs.jpg", odd);
    const Project back = project_from_json(turned.dump(), t / "there" / "p.frenlo").project;
    CHECK(back.shot(ShotIndex(0)).photos == p.shot(ShotIndex(0)).photos);
}

TEST_CASE("a project of version 1 is read", "[document][versions]")
{
    const Project p = read("version1.frenlo");
    REQUIRE(p.shots.size() == 2);
    const Shot& card = p.shot(ShotIndex(0));
    CHECK(p.delivered_at == Rate(Fraction(24000, 1001)));
    CHECK(card.name == "100HARBO");
    REQUIRE(card.photos.size() == 3);
    CHECK(card.photos[0].photo->file == "/films/harbour/100HARBO/HARB9946.JPG");
    CHECK(card.photos[0].grouping == GroupingOverride::loose);
    CHECK(card.photos[0].marker_card);
    CHECK(card.photos[1].hold == Hold(Seconds{Fraction(1, 8)}));
    CHECK(card.photos[1].turns == 3);
    CHECK(card.photos[1].photo->exposure.focal_mm == Fraction(50));
    CHECK(card.photos[2].aside);
    CHECK(card.photos[2].flaw == "HARB9948.JPG is empty.");
    REQUIRE(card.parts.size() == 1);
    CHECK(card.parts[0].reason == "after a marker card");
    CHECK(card.pause->value == Fraction(180));
    CHECK(card.backdrop == Backdrop{1, 2, 3});
    CHECK(p.shot(ShotIndex(1)).photos[0].photo->file.filename().native() == "\xff.png");
}

namespace {

/// Without what came later than these files: clips, sidecars, merged exposures, the Reel.
Project of_those_days(const Project& project)
{
    Project before = project;
    auto shot = std::make_shared<Shot>(project.shot(ShotIndex(0)));
    for (std::size_t i = 0; i < shot->photos.size(); ++i) {
        auto p = std::make_shared<PhotoFile>(*shot->photos[i].photo);
        p->pictures = p->averaged = 1;
        p->picture = 0;
        p->rating = 0;
        p->stamp.reset();
        p->label.clear();
        p->drawing.clear();
        p->merged.clear();
        shot->photos.edit(i).photo = std::move(p);
        shot->photos.edit(i).to_next.reset();
        shot->photos.edit(i).lens = {};
        shot->photos.edit(i).backwards = false;
        shot->photos.edit(i).steps.edit<Alignment>().lens = {};
    }
    shot->pacing.joint = 0;
    shot->pacing.shutter = 0;
    before.shots.front() = std::move(shot);
    before.reel = {};
    return before;
}

}

TEST_CASE("a project of version 2 is read, as it was written first and last", "[document][versions]")
{
    // Identities came with version 3; all else is there.
    const Project last = read("version2.frenlo");
    Shot shot = last.shot(ShotIndex(0));
    const Shot full = of_those_days(full_project()).shot(ShotIndex(0));
    CHECK(shot.id);
    CHECK(shot.photos[0].id != shot.photos[1].id);
    shot.id = full.id;
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        shot.photos.edit(i).id = full.photos[i].id;
    CHECK(shot == full);

    const Shot early = read("version2-early.frenlo").shot(ShotIndex(0));
    REQUIRE(steadying_of(early));
    CHECK(steadying_of(early)->size == cv::Size(1600, 1067));
    CHECK(steadying_of(early)->crop == cv::Rect(3, 2, 1590, 1060));
    CHECK_FALSE(steadying_of(early)->inside_all);
    REQUIRE(deflicker_of(early));
    CHECK(deflicker_of(early)->before.shared == 0.104);
    CHECK(light_region(early).look_at.size() == 1);
    CHECK(deflicker_of(early)->corrected.each_colour);
    CHECK(light_of(early.photos[0])->after == -2.0);
}

TEST_CASE("a project of version 3 is read, of its first days too", "[document][versions]")
{
    CHECK(read("version3.frenlo") == of_those_days(full_project()));
    CHECK(read("version3-early.frenlo") == of_those_days(full_project())); // what steps keep lay among the other fields
}

}
