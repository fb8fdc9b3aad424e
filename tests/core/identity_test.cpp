// Shots and photos have identities, copies share what they did not change, and undo takes bounded memory.
#include "core/project/edits.h"
#include "core/project/history.h"
#include "core/project/project_file.h"
#include "core/steps/flicker/flicker_edits.h"
#include "core/steps/pace/flow_edits.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/pace/range_edits.h"
#include "core/steps/sort/remedies.h"
#include "core/steps/steady/steady_edits.h"
#include "tests/support/catch.h"
#include "tests/support/full_project.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

constexpr ShotIndex first(0);

/// Photos that are nowhere on the disk.
Project made_up(std::size_t photos)
{
    Shot shot;
    shot.name = "s";
    for (std::size_t i = 0; i < photos; ++i) {
        auto file = std::make_shared<PhotoFile>();
        file->file = "/films/p" + std::to_string(i) + ".jpg";
        file->size = {60, 40};
        shot.photos.push_back({std::move(file), Frames{1}});
    }
    return add_shot({}, std::move(shot));
}

std::vector<PhotoId> ids_of(const Shot& shot)
{
    std::vector<PhotoId> ids;
    for (const ShotPhoto& p : shot.photos)
        ids.push_back(p.id);
    return ids;
}

}

TEST_CASE("an identity is a text of its own, and never given twice", "[identity]")
{
    std::set<std::uint64_t> seen;
    for (int i = 0; i < 1000; ++i)
        CHECK(seen.insert(fresh_id()).second);
    CHECK(id_text(0x0123456789abcdefULL) == "0123456789abcdef");
    CHECK(parse_id("0123456789abcdef") == 0x0123456789abcdefULL);
    for (const char* wrong :
         {"", "0123456789abcde", "0123456789abcdeg", "0123456789ABCDEF", "0000000000000000", "00123456789abcdef"})
        CHECK_FALSE(parse_id(wrong));
}

TEST_CASE("photos keep their identities through edits, shots keep theirs, and a new shot has a new one",
          "[identity][document]")
{
    const Project p = made_up(8);
    const auto ids = ids_of(p.shot(first));
    CHECK(std::set<PhotoId>(ids.begin(), ids.end()).size() == 8);
    const ShotId shot = p.shot(first).id;

    const Project reversed = rename_shot(reverse_shot(p, first), first, "other");
    CHECK(reversed.find_shot(shot) == first);
    CHECK(ids_of(reversed.shot(first)) == std::vector<PhotoId>(ids.rbegin(), ids.rend()));

    const Project split = split_shot(p, first, PhotoIndex(3));
    CHECK(split.shot(first).id == shot);
    CHECK(split.shot(first + 1).id != shot);
    CHECK(split.shot(first + 1).photos[0].id == ids[3]);
    const Project joined = join_with_next(split, first);
    CHECK(ids_of(joined.shot(first)) == ids);
    CHECK(joined.find_shot(shot) == first);
    CHECK_FALSE(joined.find_shot(split.shot(first + 1).id));
    CHECK_FALSE(Project().find_shot(ShotId()));
}

TEST_CASE("an edit of one photo copies that one", "[identity][document]")
{
    const Project p = made_up(100);
    const Project edited = toggle_mark(p, first, PhotoIndex(40));
    for (std::size_t i = 0; i < 100; ++i)
        CHECK((edited.shot(first).photos.shared(i) == p.shot(first).photos.shared(i)) == (i != 40));
    CHECK_FALSE(p.shot(first).photos[40].marked);

    PhotoList a{p.shot(first).photos[0], p.shot(first).photos[1]};
    const PhotoList b = a;
    a.edit(1).hold = Frames{9};
    CHECK(b[1].hold == Hold(Frames{1}));
    CHECK_FALSE(a == b);
    a.edit(1).hold = Frames{1};
    CHECK(a == b); // by value
    a.edit_all([](ShotPhoto& photo) { photo.hold = Frames{1}; });
    CHECK(a.shared(0) == b.shared(0)); // nothing changed
    CHECK_THROWS_AS(a.edit(2), std::out_of_range);
}

TEST_CASE("a thousand edits of a shot of five thousand photos take bounded memory", "[identity][document][history]")
{
    History h(made_up(5000));
    for (int i = 0; i < 1000; ++i)
        h.push(toggle_mark(h.current(), first, PhotoIndex(i * 5)), "mark");
    CHECK(h.steps() == 1001);
    CHECK(h.bytes() < (std::size_t(200) << 20));

    // Where more is wanted than there is, the oldest go; the last can always be undone.
    const Project start = made_up(1000);
    History small(start, std::size_t(1) << 20);
    for (int i = 0; i < 200; ++i)
        small.push(toggle_mark(small.current(), first, PhotoIndex(i)), "mark");
    CHECK(small.steps() < 80);
    CHECK(small.bytes() <= std::size_t(1) << 20);
    CHECK_FALSE(small.saved());
    std::size_t undone = 0;
    for (; small.can_undo(); ++undone)
        small.undo();
    CHECK(undone + 1 == small.steps());
    CHECK(small.current().shot(first).photos[std::size_t(200) - undone - 1].marked);
    CHECK_FALSE(small.current().shot(first).photos[std::size_t(200) - undone].marked);
    CHECK_FALSE(small.saved()); // what was saved is no longer among them
    History tiny(start, 1);
    tiny.push(toggle_mark(start, first, PhotoIndex(0)), "mark");
    CHECK(tiny.can_undo());
}

TEST_CASE("what was measured finds its photos wherever they are by then", "[identity][steady]")
{
    const Project p = made_up(6);
    const ToMeasure measured = to_measure(p.shot(first));
    Project now = rename_shot(reverse_shot(p, first), first, "other");
    now = set_aside(now, first, std::array{PhotoIndex(0)}, true);
    now = turn_photos(now, first, std::array{PhotoIndex(1)}, 1); // photo 4: it is seen in another way now
    std::vector<std::pair<std::size_t, PhotoIndex>> wanted{
        {0, PhotoIndex(5)}, {1, PhotoIndex(4)}, {2, PhotoIndex(3)}, {3, PhotoIndex(2)}, {5, PhotoIndex(0)}};
    CHECK(measured.still_in(now.shot(first)) == wanted);
    CHECK(measured.still_in(split_shot(p, first, PhotoIndex(2)).shot(first)).size() == 2);
}

TEST_CASE("light does not lie crosswise over a photo that was turned, nor level one shot for another",
          "[identity][light]")
{
    const auto lit = [](Project p) {
        Shot shot = p.shot(first);
        PhotoLight light;
        light.change.correction.by_place = std::vector<double>(12, 0.1);
        for (std::size_t i = 0; i < shot.photos.size(); ++i)
            shot.photos.edit(i).steps.set(light);
        shot.steps.set(Deflicker());
        return add_shot({}, std::move(shot));
    };
    const Project p = lit(made_up(4));
    const Project turned = turn_photos(p, first, std::array{PhotoIndex(2)}, 1);
    CHECK_FALSE(light_of(turned.shot(first).photos[2]));
    CHECK(light_of(turned.shot(first).photos[1]));

    const Project both = add_shot(p, lit(made_up(3)).shot(first));
    const Shot joined = join_with_next(both, first).shot(first);
    REQUIRE(joined.photos.size() == 7);
    for (std::size_t i = 0; i < 7; ++i)
        CHECK(joined.photos[i].steps.has<PhotoLight>() == (i < 4));
}

TEST_CASE("a version of a shot is a shot of its own, and what is told by its photos survives the disk",
          "[identity][version]")
{
    TempFolder t;
    write_run(t / "s", "s", 6, {16, 12});
    Shot shot;
    shot.name = "s";
    for (int i = 1; i <= 6; ++i)
        shot.photos.push_back({scanned(t / "s" / ("s_000" + std::to_string(i) + ".jpg")), Frames{1}});
    constexpr ShotIndex version(1);
    Project p = keep_as_version(add_shot({}, std::move(shot)), first);
    CHECK(p.shot(version).id != p.shot(first).id);
    CHECK(ids_of(p.shot(version)) == ids_of(p.shot(first)));
    // Who was asked for is who is found.
    for (const ShotPtr& s : p.shots)
        CHECK(p.shots[p.find_shot(s->id)->at()] == s);
    p = keep_to(keep_from(p, version, PhotoIndex(1)), version, PhotoIndex(3));
    p = set_speed_at(p, version, PhotoIndex(2), 20);
    REQUIRE(schedule_of(p, p.shot(version)).frames() != schedule_of(p, p.shot(first)).frames());
    save_project(p, t / "p.frenlo");
    const LoadedProject loaded = load_project(t / "p.frenlo");
    CHECK(loaded.problems.empty());
    CHECK(loaded.project == p);
    CHECK(schedule_of(loaded.project, loaded.project.shot(version)).frames() ==
          schedule_of(p, p.shot(version)).frames());

    // Joined with what it is a version of, each photo is one of its own, and what was told by the first's holds.
    const Project both = join_with_next(keep_from(p, first, PhotoIndex(2)), first);
    const auto ids = ids_of(both.shot(first));
    CHECK(ids.size() == 12);
    CHECK(std::set<PhotoId>(ids.begin(), ids.end()).size() == 12);
    CHECK(kept_photos(both, both.shot(first)).first == PhotoIndex(2));

    // A file in which an identity is there twice is put right, as Frenlo wrote it when versions kept their shot's.
    Project twice = p;
    Shot same = *twice.shots[1];
    same.id = twice.shots[0]->id;
    twice.shots[1] = std::make_shared<const Shot>(std::move(same));
    save_project(twice, t / "twice.frenlo");
    const Project repaired = load_project(t / "twice.frenlo").project;
    CHECK(repaired.shots[0]->id == p.shots[0]->id);
    CHECK(repaired.shots[1]->id != p.shots[0]->id);
    CHECK(schedule_of(repaired, repaired.shot(version)).frames() == schedule_of(p, p.shot(version)).frames());
}

}
