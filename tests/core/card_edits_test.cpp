// Cards and their parts, remedies and swaps: edits of the document.
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/sort/card_edits.h"
#include "core/steps/sort/remedies.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

using namespace frenlo;

namespace FRENLO_THIS_SOURCE {

namespace {

constexpr ShotIndex card(0);

PhotoPtr photo(int number)
{
    auto p = std::make_shared<PhotoFile>();
    std::array<char, 48> name{};
    std::snprintf(name.data(), name.size(), "/card/HARB%04d.JPG", number);
    p->file = name.data();
    p->size = {96, 64};
    p->captured = CaptureTime{number * std::int64_t(15'000'000)};
    return p;
}

/// Photos 1 to n; parts as pairs of positions.
Project card_of(int n, const std::vector<std::pair<int, int>>& parts)
{
    Shot s;
    s.name = "Card";
    for (int i = 1; i <= n; ++i)
        s.photos.push_back({photo(i), Frames{1}});
    int k = 0;
    for (const auto& [a, b] : parts)
        s.parts.push_back(
            {"Shot " + std::to_string(++k), PhotoIndex(a), PhotoIndex(b), "after a pause", ShotKind::hand_moved});
    return add_shot({}, std::move(s));
}

std::vector<std::pair<int, int>> parts_of(const Project& p, ShotIndex shot = card)
{
    std::vector<std::pair<int, int>> parts;
    for (const auto& part : p.shot(shot).parts)
        parts.emplace_back(part.begin.value, part.end.value);
    return parts;
}

std::vector<std::int64_t> numbers_of(const Shot& s)
{
    std::vector<std::int64_t> numbers;
    for (const auto& p : s.photos)
        numbers.push_back(*number_of(*p.photo));
    return numbers;
}

using Parts = std::vector<std::pair<int, int>>;

}

TEST_CASE("brackets move inwards and outwards, and what was decided survives another search", "[card]")
{
    const Project p = card_of(20, {{2, 8}, {10, 18}});
    CHECK(parts_of(set_first(p, card, PhotoIndex(4))) == Parts{{4, 8}, {10, 18}});
    CHECK(parts_of(set_first(p, card, PhotoIndex(0))) == Parts{{0, 8}, {10, 18}});
    CHECK(parts_of(set_first(p, card, PhotoIndex(9))) == Parts{{2, 8}, {9, 18}}); // in none: the next one reaches to it
    CHECK(parts_of(set_first(p, card, PhotoIndex(19))) == Parts{{2, 8}, {10, 18}, {19, 20}}); // behind all: a new one
    CHECK(parts_of(set_last(p, card, PhotoIndex(5))) == Parts{{2, 6}, {10, 18}});
    CHECK(parts_of(set_last(p, card, PhotoIndex(9))) == Parts{{2, 10}, {10, 18}});
    CHECK(parts_of(set_last(p, card, PhotoIndex(1))) == Parts{{0, 2}, {2, 8}, {10, 18}});
    CHECK(parts_of(set_first(p, card, PhotoIndex(2))) == parts_of(p));

    const Project decided =
        join_part_with_next(set_last(set_first(p, card, PhotoIndex(4)), card, PhotoIndex(15)), card, PhotoIndex(5));
    CHECK(parts_of(decided) == Parts{{4, 16}});
    const Shot& s = decided.shot(card);
    const FoundShots again = find_shots(candidates_of(s), search_options_of(s));
    const Project searched = set_found(decided, card, again, std::nullopt);
    REQUIRE(parts_of(searched).size() >= 1);
    for (const auto& [begin, end] : parts_of(searched)) {
        CHECK((begin >= 4 || end <= 4));    // no shot across the bracket that was set
        CHECK((begin <= 8 || begin >= 16)); // and none split where it was joined
    }
}

TEST_CASE("parts split and join", "[card]")
{
    const Project p = card_of(12, {{1, 6}, {7, 12}});
    const Project split = split_part(p, card, PhotoIndex(3));
    CHECK(parts_of(split) == Parts{{1, 3}, {3, 6}, {7, 12}});
    CHECK(parts_of(join_part_with_next(split, card, PhotoIndex(2))) == parts_of(p));
    CHECK(split_part(p, card, PhotoIndex(1)) == p); // at its start there is nothing to split
    CHECK(split_part(p, card, PhotoIndex(0)) == p);
    CHECK(join_part_with_next(p, card, PhotoIndex(8)) == p); // the last has no next
    CHECK(rename_part(p, card, 1, "  Pier ").shot(card).parts[1].name == "Pier");
}

TEST_CASE("a card becomes shots, and what belongs to none goes along, set aside", "[card]")
{
    Project p = card_of(12, {{2, 6}, {7, 10}});
    p = set_hold(p, card, std::array{PhotoIndex(3)}, Frames{5});
    const Project made = make_shots(rename_part(p, card, 0, "Ferry"), card);
    REQUIRE(made.shots.size() == 2);
    CHECK(made.shots[0]->name == "Ferry");
    CHECK(numbers_of(*made.shots[0]) == std::vector<std::int64_t>{1, 2, 3, 4, 5, 6});
    CHECK(numbers_of(*made.shots[1]) == std::vector<std::int64_t>{7, 8, 9, 10, 11, 12});
    CHECK(photos_in_film(*made.shots[0]) == 4);
    CHECK(photos_in_film(*made.shots[1]) == 3);
    CHECK(made.shots[0]->photos[0].aside);
    CHECK(made.shots[1]->photos.back().aside);
    CHECK(made.shots[0]->photos[2].hold == Hold(Frames{2})); // hand-moved: on twos
    CHECK(made.shots[0]->photos[3].hold == Hold(Frames{5})); // set by hand before
    CHECK(make_shots(made, ShotIndex(0)) == made);
    CHECK(schedule_of(p, p.shot(card)).spans().size() == 7); // before it is made: what lies between brackets is film
}

TEST_CASE("first and last of a shot set the rest aside and bring it back", "[card]")
{
    const Project p = card_of(8, {});
    const Project cut = set_last(set_first(p, card, PhotoIndex(2)), card, PhotoIndex(5));
    CHECK(photos_in_film(cut.shot(card)) == 4);
    CHECK(photos_in_film(set_first(cut, card, PhotoIndex(0)).shot(card)) == 6);
    CHECK(photos_in_film(set_last(cut, card, PhotoIndex(7)).shot(card)) == 6);
}

TEST_CASE("photos move, orders change, and parts go with their photos", "[card]")
{
    const Project p = card_of(8, {{0, 4}, {5, 8}});
    const std::array third{PhotoIndex(2)};
    const Project moved = move_photos(p, card, third, PhotoIndex(6));
    CHECK(numbers_of(moved.shot(card)) == std::vector<std::int64_t>{1, 2, 4, 5, 6, 3, 7, 8});
    CHECK(parts_of(moved) == Parts{{0, 3}, {4, 8}});
    const std::array two{PhotoIndex(5), PhotoIndex(7)};
    CHECK(numbers_of(move_photos(p, card, two, PhotoIndex(0)).shot(card)) ==
          std::vector<std::int64_t>{6, 8, 1, 2, 3, 4, 5, 7});
    CHECK(numbers_of(move_photos(p, card, two, PhotoIndex(8)).shot(card)) ==
          std::vector<std::int64_t>{1, 2, 3, 4, 5, 7, 6, 8});
    const Project back = reverse_shot(p, card);
    CHECK(parts_of(back) == Parts{{0, 3}, {4, 8}});
    CHECK(reverse_shot(back, card) == p);
    CHECK(order_shot(back, card, PhotoOrder::by_time) == p);
}

TEST_CASE("a shot is split in two and joined again", "[card]")
{
    const Project p = card_of(6, {});
    const Project two = split_shot(p, card, PhotoIndex(2));
    REQUIRE(two.shots.size() == 2);
    CHECK(numbers_of(*two.shots[1]) == std::vector<std::int64_t>{3, 4, 5, 6});
    CHECK(two.shots[1]->name == "Card 2");
    CHECK(join_with_next(two, card) == p);
    CHECK(join_with_next(p, card) == p);
    CHECK(split_shot(p, card, PhotoIndex(0)) == p);
}

TEST_CASE("each remedy does what it says, exactly", "[remedies]")
{
    Project p = card_of(6, {});
    p = set_hold(p, card, std::array{PhotoIndex(1)}, Frames{3});
    p = set_hold(p, card, std::array{PhotoIndex(2)}, Seconds{Fraction(1, 6)});
    const auto file = [&](int i) { return p.shot(card).photos[std::size_t(i)].photo->file; };
    const auto remedy = [&](FindingKind kind, std::vector<int> photos, Remedy r) {
        Finding f{kind, {}, "", {r}};
        for (const int i : photos)
            f.files.push_back(file(i));
        return apply_remedy(p, card, f, r);
    };
    SECTION("hold the one before: exact, across frames and seconds")
    {
        const Shot s = remedy(FindingKind::unreadable, {1}, Remedy::hold_before).shot(card);
        CHECK(s.photos[1].aside);
        CHECK(s.photos[0].hold == Hold(Frames{1 + 3}));
        const Shot t = remedy(FindingKind::unreadable, {2}, Remedy::hold_before).shot(card);
        CHECK(t.photos[1].hold == Hold(Seconds{Fraction(3, 24) + Fraction(1, 6)}));
        const Shot u = remedy(FindingKind::unreadable, {0}, Remedy::hold_before).shot(card); // nothing before: the next
        CHECK(u.photos[1].hold == Hold(Frames{3 + 1}));
    }
    SECTION("a missing number is held over")
    {
        Finding f{FindingKind::number_missing, {"/card/HARB0002.JPG", "/card/HARB0005.JPG"}, "", {}};
        CHECK(apply_remedy(p, card, f, Remedy::hold_before).shot(card).photos[1].hold == Hold(Frames{3 * 3}));
    }
    SECTION("of the same photo twice one stays")
    {
        const Shot s = remedy(FindingKind::copy, {4, 3}, Remedy::set_aside).shot(card);
        CHECK_FALSE(s.photos[3].aside);
        CHECK(s.photos[4].aside);
    }
    SECTION("turned, it is seen upright")
    {
        const Shot s = remedy(FindingKind::turned, {5}, Remedy::turn_left).shot(card);
        CHECK(s.photos[5].turns == 3);
        CHECK(seen_size(s.photos[5]) == cv::Size(64, 96));
    }
    SECTION("left as it is, it is settled")
    {
        const Finding f{FindingKind::blurred, {file(2)}, "", {}};
        const Project left = resolve(p, card, f);
        CHECK(is_resolved(left.shot(card), f));
        CHECK_FALSE(is_resolved(left.shot(card), Finding{FindingKind::blurred, {file(3)}, "", {}}));
        CHECK(resolve(left, card, f) == left);
    }
    SECTION("orders")
    {
        const Project back = reverse_shot(p, card);
        const Finding f{FindingKind::order_disagrees, {file(0)}, "", {}};
        CHECK(numbers_of(apply_remedy(back, card, f, Remedy::reverse).shot(card)) == numbers_of(p.shot(card)));
        CHECK(numbers_of(apply_remedy(back, card, f, Remedy::order_by_time).shot(card)) == numbers_of(p.shot(card)));
        CHECK(numbers_of(apply_remedy(p, card, f, Remedy::first_to_end).shot(card)) ==
              std::vector<std::int64_t>{2, 3, 4, 5, 6, 1});
    }
}

TEST_CASE("what Sort decides is in the project file", "[file]")
{
    Project p = card_of(6, {{1, 3}, {4, 6}});
    p = set_first(p, card, PhotoIndex(2));
    p = turn_photos(p, card, std::array{PhotoIndex(0)}, 3);
    p = set_backdrop(p, card, Backdrop{1, 2, 250});
    p = resolve(p, card, Finding{FindingKind::copy, {"/card/HARB0001.JPG"}, "", {}});
    auto shot = std::make_shared<Shot>(p.shot(card));
    shot->kind = ShotKind::walked;
    shot->pause = Seconds{Fraction(90)};
    auto photo = std::make_shared<PhotoFile>(*shot->photos[1].photo);
    photo->exposure = {Fraction(1, 50), Fraction(28, 5), 200, Fraction(35)};
    photo->camera = "Quayside Q1";
    photo->alpha = true;
    photo->fingerprint = "0123";
    ShotPhoto& second = shot->photos.edit(1);
    second = {.photo = photo, .hold = Frames{2}, .aside = true, .flaw = "HARB0002.JPG: the file is cut off."};
    second.id = PhotoId{2};
    second.fill = second.what_there_is = second.marker_card = true;
    p.shots[0] = shot;
    CHECK(project_from_json(project_to_json(p, "/x/p.frenlo"), "/x/p.frenlo").project == p);
    std::string overlapping = project_to_json(p, "/x/p.frenlo");
    const auto at = overlapping.find("4,", overlapping.find("\"parts\""));
    REQUIRE(at != std::string::npos);
    overlapping.replace(at, 1, "1");
    CHECK_THROWS_AS(project_from_json(overlapping, "/x/p.frenlo"), Failure);
}

TEST_CASE("a better set takes the photos' places under all edits", "[swap]")
{
    std::vector<PhotoPtr> have, better;
    for (int n = 1; n <= 5; ++n)
        have.push_back(photo(n));
    const auto other = [](const std::string& name, std::optional<int> like) {
        auto p = std::make_shared<PhotoFile>();
        p->file = "/better/" + name;
        p->size = {192, 128};
        if (like)
            p->captured = photo(*like)->captured;
        return p;
    };
    SECTION("by number, then by capture time; the rest is said")
    {
        better = {other("HARB0001.tif", 1), other("HARB0002.tif", {}), other("print.tif", 3),
                  other("HARB0009.tif", {})};
        const SwapPlan plan = plan_swap(have, better);
        CHECK(plan.matches.size() == 3);
        CHECK(plan.by_number == 2);
        CHECK(plan.without_better.size() == 2);
        CHECK(plan.left_over.size() == 1);
        CHECK(plan.other_size);
    }
    SECTION("numbers that start anew do not mislead where times say otherwise")
    {
        better = {other("out_0001.tif", 3), other("out_0002.tif", 4), other("out_0003.tif", 5)};
        const SwapPlan plan = plan_swap(have, better);
        REQUIRE(plan.matches.size() == 3);
        CHECK(plan.by_number == 0);
        for (const auto& m : plan.matches)
            CHECK(m.old->captured == m.now->captured);
    }
    Shot s;
    s.name = "s";
    for (const auto& h : have)
        s.photos.push_back({.photo = h, .hold = Frames{3}, .aside = *number_of(*h) == 2});
    s.photos.edit(0).flaw = "HARB0001.JPG is empty.";
    s.photos.edit(0).aside = true;
    const Project p = add_shot({}, s);
    const auto match = Match{have[0], other("HARB0001.tif", 1)};
    const Project swapped = replace_photos(p, card, std::array{match, Match{have[1], other("HARB0002.tif", 2)}});
    CHECK(swapped.shot(card).photos[0].photo == match.now);
    CHECK_FALSE(swapped.shot(card).photos[0].aside); // it can be used now
    CHECK(swapped.shot(card).photos[1].aside);       // that one was set aside by hand
    CHECK(swapped.shot(card).photos[0].hold == Hold(Frames{3}));
}

}
