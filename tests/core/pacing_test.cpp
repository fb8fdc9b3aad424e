#include "core/time/cadence.h"
#include "core/time/pacing.h"
#include "core/time/timecode.h"
#include "tests/support/catch.h"

#include <cmath>
#include <numeric>
#include <random>

using namespace frenlo;

namespace FRENLO_THIS_SOURCE {

namespace {

std::vector<HeldPhoto> photos(int count, Hold hold = Frames{1})
{
    std::vector<HeldPhoto> held;
    for (int i = 0; i < count; ++i)
        held.push_back({PhotoIndex(i), hold});
    return held;
}

/// The film as letters: photo 0 is A.
std::string film(std::span<const HeldPhoto> held, const Pacing& pacing, Rate rate = Rate(24))
{
    std::string letters;
    for (const auto& p : arranged(held, pacing, rate).film)
        letters += char('A' + p.photo.value);
    return letters;
}

Fraction lasts(std::span<const HeldPhoto> held, const Pacing& pacing, Rate rate)
{
    return Schedule(arranged(held, pacing, rate).film, pacing.paced_at.value_or(rate), rate).length().value;
}

}

TEST_CASE("order and repeats", "[timing][pacing]")
{
    struct Row
    {
        Pacing pacing;
        std::string film;
    };
    const Row rows[] = {
        {{}, "ABCD"},
        {{.backwards = true}, "DCBA"},
        {{.there_and_back = Return::once}, "ABCDCB"},
        {{.there_and_back = Return::to_first}, "ABCDCBA"},
        {{.there_and_back = Return::twice}, "ABCDDCBA"},
        {{.there_and_back = Return::once, .times = 2}, "ABCDCBABCDCB"},
        {{.there_and_back = Return::to_first, .times = 2}, "ABCDCBABCDCBA"},
        {{.backwards = true, .there_and_back = Return::once}, "DCBABC"},
        {{.times = 3}, "ABCDABCDABCD"},
        {{.keep_every = 2}, "AC"},
        {{.keep_every = 3}, "AD"},
        {{.keep_every = 9}, "A"},
        {{.kept = KeptRange{PhotoIndex(1), PhotoIndex(3)}}, "BC"},
        {{.kept = KeptRange{PhotoIndex(1), PhotoCount{2}}, .backwards = true, .times = 2}, "CBCB"},
        {{.keep_every = 2, .kept = KeptRange{PhotoIndex(1), PhotoIndex(4)}}, "C"}, // thinned first, then cut
        {{.kept = KeptRange{PhotoIndex(9), PhotoIndex(12)}}, ""},
        {{.kept = KeptRange{PhotoIndex(3), PhotoIndex(1)}}, ""},
        {{.at_least = Seconds{Fraction(9, 24)}}, "ABCDABCDABCD"}, // two passes are 8 frames, 9 are wanted
    };
    for (const Row& row : rows)
        CHECK(film(photos(4), row.pacing) == row.film);
    // Ways back of the shortest films.
    for (const auto& [back, one, two] : {std::tuple(Return::once, "A", "AB"), std::tuple(Return::to_first, "A", "ABA"),
                                         std::tuple(Return::twice, "AA", "ABBA")}) {
        CHECK(film(photos(1), {.there_and_back = back}) == one);
        CHECK(film(photos(2), {.there_and_back = back}) == two);
        CHECK(film({}, {.there_and_back = back, .times = 5, .at_least = Seconds{Fraction(3)}}).empty());
    }
}

TEST_CASE("reversing twice is the identity, with any range", "[timing][pacing][property]")
{
    std::mt19937 random(7);
    const auto from = [&](int low, int high) { return std::uniform_int_distribution<int>(low, high)(random); };
    for (int round = 0; round < 100; ++round) {
        std::vector<HeldPhoto> held = photos(from(1, 40));
        for (auto& p : held)
            p.hold = from(0, 1) ? Hold(Frames{from(0, 5)}) : Hold(Seconds{Fraction(from(0, 30), from(1, 50))});
        Pacing pacing;
        pacing.keep_every = from(1, 3);
        if (from(0, 1))
            pacing.kept = KeptRange{PhotoIndex(from(0, 20)), PhotoIndex(from(10, 40))};
        const Arrangement forwards = arranged(held, pacing, Rate(24));
        pacing.backwards = true;
        Arrangement backwards = arranged(held, pacing, Rate(24));
        for (auto* part : {&backwards.before, &backwards.film, &backwards.after})
            std::reverse(part->begin(), part->end());
        const auto same = [](const std::vector<HeldPhoto>& a, const std::vector<HeldPhoto>& b) {
            return std::equal(a.begin(), a.end(), b.begin(), b.end(), [](const HeldPhoto& x, const HeldPhoto& y) {
                return x.photo == y.photo && x.hold == y.hold;
            });
        };
        CHECK(same(forwards.film, backwards.film));
        CHECK(same(forwards.before, backwards.after));
        CHECK(same(forwards.after, backwards.before));
    }
}

TEST_CASE("a site that wants at least 4 s gets the fewest times that pass", "[timing][pacing][numbers]")
{
    // Common practice, no source: 13 photos of 0.15 s are 1.95 s; three times are 5.85 s; twice, 3.9 s, do not do.
    const auto held = photos(13, Seconds{Fraction(15, 100)});
    const Rate fine(100);
    CHECK(lasts(held, {}, fine) == Fraction(195, 100));
    CHECK(arranged(held, {.at_least = Seconds{Fraction(4)}}, fine).passes == 3);
    CHECK(lasts(held, {.at_least = Seconds{Fraction(4)}}, fine) == Fraction(585, 100));
    CHECK(lasts(held, {.times = 2}, fine) == Fraction(39, 10));
    // Exactly as long is enough; the least more is not.
    CHECK(arranged(held, {.at_least = Seconds{Fraction(39, 10)}}, fine).passes == 2);
    CHECK(arranged(held, {.at_least = Seconds{Fraction(391, 100)}}, fine).passes == 3);
    // What counts is the film as delivered: 2 s of 23.976 are 47.95 frames; two passes of 1 s round to 48, which do.
    const Rate film_rate = *parse_rate("23.976");
    const auto whole = photos(1, Seconds{Fraction(1)});
    CHECK(arranged(whole, {.at_least = Seconds{Fraction(2)}}, film_rate).passes == 2);
    // At 29.97, 4 s are 119.88 frames, rounded to 120 = 4.004 s; at 10.1 fps 4 s are 40.4 and would round to 40: too
    // short.
    CHECK(arranged(whole, {.at_least = Seconds{Fraction(4)}}, Rate(Fraction(101, 10))).passes == 5);
}

TEST_CASE("at least so long: never shorter, and one pass less would be", "[timing][pacing][property]")
{
    std::mt19937 random(11);
    const auto from = [&](int low, int high) { return std::uniform_int_distribution<int>(low, high)(random); };
    for (int round = 0; round < 150; ++round) {
        const auto held = photos(from(1, 9), Seconds{Fraction(from(1, 40), from(1, 60))});
        const Rate rate(Fraction(from(1, 60'000), from(500, 1001)));
        Pacing pacing{.there_and_back = Return(from(0, 3)), .at_least = Seconds{Fraction(from(0, 100), from(1, 9))}};
        if (from(0, 2) == 0)
            pacing.last_hold = Seconds{Fraction(from(0, 20), 10)};
        const auto passes = arranged(held, pacing, rate).passes;
        CHECK(lasts(held, pacing, rate) >= pacing.at_least->value);
        if (passes > 1 && passes <= most_times) {
            Pacing fewer = pacing;
            fewer.at_least.reset();
            fewer.times = int(passes) - 1;
            CHECK(lasts(held, fewer, rate) < pacing.at_least->value);
        }
    }
}

TEST_CASE("a fixed length is exact, ends inside a hold and slides", "[timing][pacing][numbers]")
{
    // Common practice, no source: 40 s at 25 fps are 1,000 photos, a 5 s pick is 125 of them, slid by up to 875.
    const auto held = photos(1000);
    for (const int start : {0, 400, 875}) {
        const Pacing by_time{.kept = KeptRange{PhotoIndex(start), Seconds{Fraction(5)}}};
        const Arrangement a = arranged(held, by_time, Rate(25));
        CHECK(a.film.size() == 125);
        CHECK(a.film.front().photo.value == start);
        CHECK(a.before.size() + a.film.size() + a.after.size() == 1000);
        CHECK(lasts(held, by_time, Rate(25)) == Fraction(5));
        CHECK(arranged(held, {.kept = KeptRange{PhotoIndex(start), PhotoCount{125}}}, Rate(25)).film.size() == 125);
    }
    CHECK(arranged(held, {.kept = KeptRange{PhotoIndex(900), Seconds{Fraction(5)}}}, Rate(25)).film.size() == 100);

    // 5 s of photos on threes at 24 fps: 40 photos. With 7 f they end within the 18th photo: 17 * 7 + 1 = 120.
    const Pacing five{.kept = KeptRange{PhotoIndex(0), Seconds{Fraction(5)}}};
    CHECK(arranged(photos(100, Frames{3}), five, Rate(24)).film.size() == 40);
    const Arrangement cut = arranged(photos(100, Frames{7}), five, Rate(24));
    CHECK(cut.film.size() == 18);
    CHECK(cut.film.back().hold == Hold(Seconds{Fraction(1, 24)}));
    CHECK(cut.after.front().photo == cut.film.back().photo); // what is left of its hold stands behind the range
    CHECK(cut.after.front().hold == Hold(Seconds{Fraction(6, 24)}));
    CHECK(lasts(photos(100, Frames{7}), five, Rate(24)) == Fraction(5));
}

TEST_CASE("first and last are held longer once, whatever is repeated", "[timing][pacing]")
{
    const Pacing pacing{
        .there_and_back = Return::once, .times = 3, .first_hold = Frames{12}, .last_hold = Seconds{Fraction(1)}};
    const auto a = arranged(photos(3, Frames{2}), pacing, Rate(24)).film; // ABCB three times
    REQUIRE(a.size() == 12);
    CHECK(a.front().hold == Hold(Frames{12}));
    CHECK(a.back().hold == Hold(Seconds{Fraction(1)}));
    for (std::size_t i = 1; i + 1 < a.size(); ++i)
        CHECK(a[i].hold == Hold(Frames{2}));
    CHECK(Schedule(a, Rate(24), Rate(24)).frames() == 12 + 10 * 2 + 24);
}

TEST_CASE("cadences", "[timing][cadence][numbers]") // arithmetic; the patterns' names are common practice, no source
{
    struct Row
    {
        const char *paced, *delivered;
        std::int64_t from, to;
        std::vector<int> pattern;
        const char* words;
    };
    const Row rows[] = {
        {"24", "24", 1, 1, {1}, "the same frames"},
        {"12", "24", 1, 2, {2}, "every frame twice"},
        {"8", "24", 1, 3, {3}, "every frame 3 times"},
        {"24", "30", 4, 5, {1, 2, 1, 1}, "one frame in 4 is repeated"},
        {"30", "24", 5, 4, {1, 1, 0, 1, 1}, "one frame in 5 is left out"},
        {"25", "24", 25, 24, {}, "one frame in 25 is left out"},
        {"24", "25", 24, 25, {}, "one frame in 24 is repeated"},
        {"24", "23.976", 1001, 1000, {}, "one frame in 1001 is left out"},
        {"120", "30", 4, 1, {0, 1, 0, 0}, "3 frames in 4 are left out"},
        {"10", "24", 5, 12, {2, 3, 2, 3, 2}, "2 frames in 5 are shown once more than the others"},
    };
    for (const Row& row : rows) {
        const Cadence c = cadence(*parse_rate(row.paced), *parse_rate(row.delivered));
        INFO(row.paced << " to " << row.delivered);
        CHECK(c.paced == row.from);
        CHECK(c.delivered == row.to);
        CHECK(cadence_text(c) == row.words);
        if (!row.pattern.empty())
            CHECK(c.pattern == row.pattern);
        if (c.paced <= Cadence::most_shown)
            CHECK(std::accumulate(c.pattern.begin(), c.pattern.end(), std::int64_t(0)) == c.delivered);
        // It is what a schedule of photos on ones does.
        const Schedule s(photos(int(c.pattern.size())), *parse_rate(row.paced), *parse_rate(row.delivered));
        for (std::size_t i = 0; i < c.pattern.size(); ++i)
            CHECK(s.spans()[i].frames() == c.pattern[i]);
    }
}

TEST_CASE("mixed photos share a frame by time", "[timing][mix][numbers]")
{
    // Common practice, no source: 120 photos a second delivered at 30 are four a frame.
    const Schedule four(photos(120), Rate(120), Rate(30), Between::mix);
    REQUIRE(four.frames() == 30);
    CHECK(four.between_frames().empty());
    for (int f = 0; f < 30; ++f) {
        const auto shares = four.shares_at(FrameIndex(f));
        REQUIRE(shares.size() == 4);
        for (int i = 0; i < 4; ++i)
            CHECK(shares[std::size_t(i)] == Share{PhotoIndex(4 * f + i), 0.25});
    }
    // 24 to 30: a frame of 1/30 s covers 0.8 of a photo of 1/24 s.
    const Schedule pulled(photos(24), Rate(24), Rate(30), Between::mix);
    CHECK(pulled.shares_at(FrameIndex(0)) == std::vector{Share{PhotoIndex(0), 1}});
    const auto second =
        pulled.shares_at(FrameIndex(1)); // 0.8 to 1.6 photos: a quarter of it the first, then the second
    REQUIRE(second.size() == 2);
    CHECK(second[0].weight == Approx(0.25));
    CHECK(second[1].weight == Approx(0.75));
    // Where frames and photos agree nothing is mixed, and moments are the photos' spans.
    const Schedule twos(photos(5, Frames{2}), Rate(24), Rate(24), Between::mix);
    CHECK(twos.moments() == Schedule(photos(5, Frames{2}), Rate(24), Rate(24)).moments());
    CHECK(twos.moments().size() == 5);
    // A last photo that ends behind the last frame is told.
    std::vector<HeldPhoto> held = photos(2);
    held[1].hold = Seconds{Fraction(1, 100)};
    CHECK(Schedule(held, Rate(24), Rate(24), Between::mix).between_frames().size() == 1);
}

TEST_CASE("weights sum to one, and over the film each photo has the time it is held", "[timing][mix][property]")
{
    std::mt19937 random(3);
    const auto from = [&](int low, int high) { return std::uniform_int_distribution<int>(low, high)(random); };
    for (int round = 0; round < 60; ++round) {
        std::vector<HeldPhoto> held = photos(from(1, 60));
        for (auto& p : held)
            p.hold = from(0, 1) ? Hold(Frames{from(1, 4)}) : Hold(Seconds{Fraction(from(1, 30), from(20, 400))});
        const Rate paced(Fraction(from(1000, 60'000), 1001)), delivered(Fraction(from(1000, 60'000), 1001));
        const Schedule s(held, paced, delivered, Between::mix);
        std::vector<double> time(held.size(), 0);
        for (FrameIndex f; f.value < s.frames(); ++f) {
            double sum = 0;
            PhotoIndex last(-1);
            for (const Share& share : s.shares_at(f)) {
                CHECK(share.photo > last); // in playing order
                last = share.photo;
                sum += share.weight;
                time[share.photo.at()] += share.weight;
            }
            CHECK(sum == Approx(1));
        }
        for (std::size_t i = 0; i + 1 < held.size(); ++i) { // the last photo takes what the last frame leaves
            const double frames = (length_of(held[i].hold, paced).value * delivered.value()).approx();
            if (s.spans()[i].end.value + 1 < s.frames())
                CHECK(std::abs(time[i] - frames) < 1e-6);
        }
        std::int64_t covered = 0;
        for (const Moment& m : s.moments()) {
            CHECK(m.begin.value == covered);
            covered = m.end.value;
        }
        CHECK(covered == s.frames());
    }
}

TEST_CASE("to a higher rate and back every photo has its frames again", "[timing][property]")
{
    std::mt19937 random(5);
    const auto from = [&](int low, int high) { return std::uniform_int_distribution<int>(low, high)(random); };
    for (int round = 0; round < 100; ++round) {
        std::vector<HeldPhoto> held = photos(from(1, 80));
        for (auto& p : held)
            p.hold = Frames{from(1, 9)};
        const Rate a(Fraction(from(5'000, 30'000), 1001)), b(Fraction(from(30'000, 120'000), 1001));
        const Schedule there(held, a, b);
        CHECK(there.between_frames().empty());
        std::vector<HeldPhoto> on;
        for (const FrameSpan& s : there.spans())
            on.push_back({s.photo, Frames{s.frames()}});
        CHECK(Schedule(on, b, a).photo_of_each_frame() == Schedule(held, a, a).photo_of_each_frame());
    }
}

TEST_CASE("a page is the film with what lies before and after it", "[timing]")
{
    const Schedule a(photos(3, Seconds{Fraction(1, 30)}), Rate(24), Rate(24), Between::mix); // 2.4 frames: 2
    const Schedule both = a.followed_by(a);
    CHECK(both.frames() == 2 * a.frames());
    for (int f = 0; f < 2; ++f)
        CHECK(both.shares_at(FrameIndex(2 + f)) == a.shares_at(FrameIndex(f)));
    const Schedule none({}, Rate(24), Rate(24));
    CHECK(none.followed_by(a).photo_of_each_frame() == a.photo_of_each_frame());
    CHECK(a.followed_by(none).moments() == a.moments());
}

TEST_CASE("one formatter for lengths", "[timing][numbers]")
{
    const Rate ntsc = *parse_rate("29.97");
    CHECK(length_text(114, Rate(24), Counting::clock) == "0:04:18");
    CHECK(length_text(114, Rate(24), Counting::timecode) == "00:00:04:18");
    CHECK(length_text(114, Rate(24), Counting::drop_frame) == "00:00:04:18"); // not defined for 24
    CHECK(length_text(114, Rate(24), Counting::frames) == "114 f");
    CHECK(length_text(114, Rate(24), Counting::seconds) == "4.75 s");
    CHECK(length_text(17'982, ntsc, Counting::drop_frame) == "00:10:00;00"); // SMPTE ST 12-1:2014
    CHECK(length_text(17'982, ntsc, Counting::timecode) == "00:09:59:12");   // 17,982 = 9 * 1800 + 59 * 30 + 12
    CHECK(has_drop_frame(ntsc));
    CHECK_FALSE(has_drop_frame(Rate(30)));
}

}
