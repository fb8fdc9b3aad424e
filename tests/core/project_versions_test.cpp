// What any version of Frenlo has written is read: nothing that somebody made is lost by a newer one.
#include "core/document/edits.h"
#include "core/document/project_file.h"
#include "tests/support/accepted.h"
#include "tests/support/catch.h"
#include "tests/support/full_project.h"
#include "tests/support/photos.h"

using namespace frenlo;
using namespace frenlo::test;

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

TEST_CASE("a project of version 1 is read", "[document][versions]")
{
    const Project p = read("version1.frenlo");
    REQUIRE(p.shots.size() == 2);
    const Shot& card = p.shot(ShotIndex(0));
    CHECK(p.delivered_at == Rate(Fraction(24000, 1001)));
    CHECK(card.name == "100HARBO");
    REQUIRE(card.photos.size() == 3);
    CHECK(card.photos[0].photo->file == "/films/harbour/100HARBO/HARB9946.JPG");
    CHECK(card.photos[0].tie == Tie::loose);
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

TEST_CASE("a project of version 2 is read, as it was written first and last", "[document][versions]")
{
    // Identities came with version 3; all else is there.
    const Project last = read("version2.frenlo");
    Shot shot = last.shot(ShotIndex(0));
    const Shot full = full_project().shot(ShotIndex(0));
    CHECK(shot.id);
    CHECK(shot.photos[0].id != shot.photos[1].id);
    shot.id = full.id;
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        shot.photos.edit(i).id = full.photos[i].id;
    CHECK(shot == full);

    const Shot early = read("version2-early.frenlo").shot(ShotIndex(0));
    REQUIRE(early.steady);
    CHECK(early.steady->size == cv::Size(1600, 1067));
    CHECK(early.steady->crop == cv::Rect(3, 2, 1590, 1060));
    CHECK_FALSE(early.steady->inside_all);
    REQUIRE(early.lighting);
    CHECK(early.lighting->before.shared == 0.104);
    CHECK(early.light_region.look_at.size() == 1);
    CHECK(early.lighting->corrected.each_colour);
    CHECK(early.photos[0].light->after == -2.0);
}
