#include "core/time/schedule.h"
#include "tests/support/catch.h"

#include <random>

using namespace frenlo;

namespace FRENLO_THIS_SOURCE {

namespace {

std::vector<HeldPhoto> photos(int count, Hold hold)
{
    std::vector<HeldPhoto> held;
    for (int i = 0; i < count; ++i)
        held.push_back({PhotoIndex(i), hold});
    return held;
}

Schedule plain(int count, Hold hold, Rate rate)
{
    return {photos(count, hold), rate, rate};
}

}

TEST_CASE("lengths that photographers know by heart", "[timing][numbers]") // common practice, no source
{
    CHECK(plain(175, Frames{1}, Rate(24)).length().value == Fraction(175, 24));
    CHECK(shown_seconds(plain(200, Frames{1}, Rate(30)).length()) == "6.67 s");
    CHECK(shown_seconds(plain(220, Frames{1}, Rate(24)).length()) == "9.17 s");
    CHECK(shown_seconds(plain(220, Frames{1}, Rate(30)).length()) == "7.33 s");
    CHECK(plain(1000, Frames{1}, Rate(25)).length().value == Fraction(40));
    CHECK(plain(13, Seconds{Fraction(15, 100)}, Rate(100)).length().value == Fraction(195, 100));
    CHECK(plain(48, Frames{2}, Rate(24)).frames() == 48 * 2);
}

TEST_CASE("a field that takes only 0.033 s makes 900 photos 0.3 s short, and 1/30 s does not", "[timing][numbers]")
{
    // 900 * 0.033 s = 29.7 s, which is 891 of the 900 frames.
    CHECK(plain(900, Seconds{Fraction(33, 1000)}, Rate(30)).frames() == 891);
    CHECK(plain(900, Seconds{Fraction(1, 30)}, Rate(30)).frames() == 900);
}

TEST_CASE("holds in frames count frames of the rate they were paced at", "[timing]")
{
    const auto held = photos(12, Frames{1});
    CHECK(Schedule(held, Rate(12), Rate(24)).frames() == 12 * 24 / 12);
    CHECK(Schedule(held, Rate(24), Rate(24)).frames() == 12);
    // 120 photos a second delivered at 30: every fourth is seen, and the others are named, not lost silently.
    const Schedule dense(photos(120, Frames{1}), Rate(120), Rate(30));
    CHECK(dense.frames() == 30);
    CHECK(dense.between_frames().size() == 120 - 30);
}

TEST_CASE("a hold of zero is not shown and no problem, and a hold below a frame is told", "[timing]")
{
    std::vector<HeldPhoto> held = photos(3, Frames{2});
    held[1].hold = Frames{0};
    const Schedule zero(held, Rate(24), Rate(24));
    CHECK(zero.frames() == 4);
    CHECK(zero.between_frames().empty());
    held[1].hold = Seconds{Fraction(1, 1000)};
    const Schedule brief(held, Rate(24), Rate(24));
    REQUIRE(brief.between_frames().size() == 1);
    CHECK(brief.between_frames()[0] == PhotoIndex(1));
    CHECK(brief.photo_at(FrameIndex(2)) == PhotoIndex(2));
}

TEST_CASE("an empty schedule has no frames", "[timing]")
{
    CHECK(Schedule({}, Rate(24), Rate(24)).frames() == 0);
    CHECK(Schedule({}, Rate(24), Rate(24)).photo_of_each_frame().empty());
}

TEST_CASE("whatever the holds and rates, no boundary is off by more than half a frame", "[timing][property]")
{
    std::mt19937 random(2026);
    const auto from = [&](int low, int high) { return std::uniform_int_distribution<int>(low, high)(random); };
    for (int round = 0; round < 200; ++round) {
        const Rate paced(Fraction(from(1, 60000), from(500, 1001)));
        const Rate delivered(Fraction(from(1, 60000), from(500, 1001)));
        std::vector<HeldPhoto> held;
        std::vector<Fraction> ends; // exact seconds, by another way than the schedule's: one common denominator
        Fraction total;
        for (int i = 0; i < from(1, 60); ++i) {
            const bool frames = from(0, 1) == 0;
            const Hold hold = frames ? Hold(Frames{from(0, 5)}) : Hold(Seconds{Fraction(from(0, 720), 720)});
            held.push_back({PhotoIndex(i), hold});
            total = total + length_of(hold, paced).value;
            ends.push_back(total);
        }
        const Schedule s(held, paced, delivered);
        REQUIRE(s.spans().size() == held.size());
        FrameIndex before;
        std::int64_t sum = 0;
        for (std::size_t i = 0; i < held.size(); ++i) {
            const FrameSpan& span = s.spans()[i];
            REQUIRE(span.photo == PhotoIndex(std::int64_t(i))); // order is kept
            REQUIRE(span.begin == before);                      // no gaps
            const Fraction error = Fraction(span.end.value) - ends[i] * delivered.value();
            REQUIRE(error <= Fraction(1, 2));
            REQUIRE(error > Fraction(-1, 2));
            before = span.end;
            sum += span.frames();
        }
        REQUIRE(sum == (total * delivered.value()).rounded());
        const auto each = s.photo_of_each_frame();
        for (std::size_t f = 0; f < each.size(); ++f)
            REQUIRE(s.photo_at(FrameIndex(std::int64_t(f))) == each[f]);
    }
}

TEST_CASE("holds with awkward denominators do not overflow", "[timing]")
{
    std::vector<HeldPhoto> held;
    for (int i = 0; i < 400; ++i) // primes and near-primes: a common denominator has thousands of digits
        held.push_back({PhotoIndex(i), Seconds{Fraction(1, 10'007 + 2 * i)}});
    double approximate = 0;
    for (int i = 0; i < 400; ++i)
        approximate += 1.0 / (10'007 + 2 * i);
    const Schedule s(held, Rate(24), Rate(1000));
    CHECK(s.frames() == Approx(approximate * 1000).margin(0.51));
}

TEST_CASE("over a joint the last frames become what lies before the first", "[timing][joint]")
{
    std::vector<HeldPhoto> lead, film;
    for (int i = 0; i < 6; ++i)
        lead.push_back({PhotoIndex(i), Frames{1}});
    for (int i = 6; i < 26; ++i)
        film.push_back({PhotoIndex(i), Frames{1}});
    const Schedule before(lead, Rate(24), Rate(24)), plain_film(film, Rate(24), Rate(24));
    const Schedule joined = plain_film.with_joint(before, 4, 1);
    CHECK(joined.frames() == plain_film.frames());
    for (std::int64_t f = 0; f < 16; ++f)
        CHECK(joined.shares_at(FrameIndex(f)) == plain_film.shares_at(FrameIndex(f)));
    for (std::int64_t k = 0; k < 4; ++k) {
        const auto shares = joined.shares_at(FrameIndex(16 + k));
        REQUIRE(shares.size() == 2);
        CHECK(shares[0].photo == PhotoIndex(22 + k));
        CHECK(shares[1].photo == PhotoIndex(2 + k)); // photo 5, just before the first, meets it
        CHECK(shares[1].weight == Approx(double(k + 1) / 5));
        CHECK(shares[0].weight + shares[1].weight == Approx(1));
    }
    CHECK(joined.moments().size() == 20);
    SECTION("of each pass, and no more than there is")
    {
        std::vector<HeldPhoto> twice = film;
        twice.insert(twice.end(), film.begin(), film.end());
        const Schedule passes = Schedule(twice, Rate(24), Rate(24)).with_joint(before, 100, 2);
        CHECK(passes.shares_at(FrameIndex(19)).size() == 2);
        CHECK(passes.shares_at(FrameIndex(20)).size() == 1);
        CHECK(passes.shares_at(FrameIndex(39)).size() == 2);
        CHECK(passes.shares_at(FrameIndex(34)).size() == 2); // six lie before it
        CHECK(passes.shares_at(FrameIndex(33)).size() == 1);
    }
    SECTION("also where it is a part of a page")
    {
        const Schedule page = before.followed_by(joined).followed_by(before);
        CHECK(page.shares_at(FrameIndex(6 + 19)) == joined.shares_at(FrameIndex(19)));
        CHECK(page.shares_at(FrameIndex(6 + 20)).size() == 1);
    }
    SECTION("with nothing before it stays as it is")
    {
        CHECK(plain_film.with_joint(Schedule({}, Rate(24), Rate(24)), 4, 1).moments() == plain_film.moments());
    }
    SECTION("mixed holds keep their shares")
    {
        const Schedule mixed(film, Rate(20), Rate(24), Between::mix);
        const Schedule with = mixed.with_joint(before, 3, 1);
        for (std::int64_t f = 0; f < with.frames(); ++f) {
            double sum = 0;
            for (const Share& s : with.shares_at(FrameIndex(f)))
                sum += s.weight;
            CHECK(sum == Approx(1));
        }
    }
}

}
