// Which of many settings gives the best file below a size, and how few files are written until that is known.
#include "core/export/preset.h"
#include "core/export/size_limit.h"
#include "tests/support/catch.h"

#include <algorithm>
#include <cmath>
#include <random>

using namespace frenlo;

namespace FRENLO_THIS_SOURCE {

namespace {

/// Steps of sizes that fall by about so much each, with a little disorder.
struct Steps
{
    std::vector<std::uintmax_t> bytes;
    int written = 0;

    explicit Steps(std::size_t count, double fall = 0.985, std::uint32_t seed = 5)
    {
        std::mt19937 random(seed);
        double size = 4e6;
        for (std::size_t i = 0; i < count; ++i) {
            bytes.push_back(std::uintmax_t(size * std::uniform_real_distribution<double>(0.999, 1.001)(random)));
            size *= fall;
        }
    }
    SizesOfSteps asked(const std::function<double(std::size_t)>& guess = {})
    {
        return {.written =
                    [this](std::size_t step) {
                        ++written;
                        return bytes.at(step);
                    },
                .guessed = guess};
    }
};

}

TEST_CASE("the largest file below a limit is found, and few are written for it", "[export][limit]")
{
    for (const double share : {0.93, 0.5, 0.21, 0.04}) {
        Steps steps(240);
        const auto limit = std::uintmax_t(share * 4e6);
        const Search search = best_below(steps.bytes.size(), limit, steps.asked());
        REQUIRE(search.found);
        const Tried chosen = search.tried.back();
        CAPTURE(share, chosen.step, steps.written);
        CHECK(chosen.bytes == steps.bytes[chosen.step]);
        CHECK(chosen.bytes <= limit);
        CHECK((double(chosen.bytes) >= 0.99 * double(limit) || steps.bytes[chosen.step - 1] > limit));
        CHECK(steps.written <= 8);
        CHECK(search.guessed.empty());
    }
}

TEST_CASE("guesses that are off by a share save most of the files", "[export][limit]")
{
    for (const double off : {0.8, 0.97, 1.0, 1.06, 1.3})
        for (const double share : {0.93, 0.5, 0.21, 0.04}) {
            Steps steps(240);
            const auto limit = std::uintmax_t(share * 4e6);
            const auto guess = [&](std::size_t step) {
                // Off by that share, and by another percent from one end of the ladder to the other.
                return double(steps.bytes.at(step)) * off * (1 + 0.02 * double(step) / 240);
            };
            const Search search = best_below(steps.bytes.size(), limit, steps.asked(guess));
            REQUIRE(search.found);
            const Tried chosen = search.tried.back();
            CAPTURE(off, share, chosen.step, steps.written);
            CHECK(chosen.bytes == steps.bytes[chosen.step]);
            CHECK(chosen.bytes <= limit);
            CHECK(double(chosen.bytes) >= 0.955 * double(limit));
            // Near what was asked for, that is tried first.
            CHECK(steps.written <= (share > 0.9 ? 3 : 2));
            CHECK_FALSE(search.guessed.empty());
            for (const Tried& t : search.guessed) // put right by what was written
                CHECK(double(t.bytes) == Approx(double(steps.bytes[t.step])).epsilon(0.03));
        }
}

TEST_CASE("a limit is kept whatever guesses say", "[export][limit]")
{
    Steps steps(240);
    const std::uintmax_t limit = 900'000;
    std::mt19937 random(8);
    const auto noise = [&](std::size_t) { return std::uniform_real_distribution<double>(1e5, 5e6)(random); };
    const auto same = [](std::size_t) { return 2e6; };
    const auto none = [](std::size_t) { return 0.0; };
    const auto chosen_by = [&](const std::function<double(std::size_t)>& guess) {
        const Search search = best_below(steps.bytes.size(), limit, steps.asked(guess));
        REQUIRE(search.found);
        CHECK(search.tried.back().bytes <= limit);
        return search.tried.back();
    };
    chosen_by(noise);
    for (const std::function<double(std::size_t)>& guess : {std::function<double(std::size_t)>(same), {none}})
        CHECK(double(chosen_by(guess).bytes) >= 0.955 * double(limit)); // files, and no quality
}

TEST_CASE("a limit that does not bind is kept by what was asked for, and one that cannot be kept by nothing",
          "[export][limit]")
{
    Steps steps(60);
    const auto guess = [&](std::size_t step) { return double(steps.bytes.at(step)) * 1.08; };
    for (const std::function<double(std::size_t)>& guessed : {std::function<double(std::size_t)>(), {guess}}) {
        steps.written = 0;
        const Search wide = best_below(steps.bytes.size(), steps.bytes[0], steps.asked(guessed));
        CHECK(wide.found);
        CHECK(wide.tried.back().step == 0);
        CHECK(steps.written == 1);
        const Search narrow = best_below(steps.bytes.size(), steps.bytes.back() - 1, steps.asked(guessed));
        CHECK_FALSE(narrow.found);
        CHECK(narrow.tried.back().step + 1 == steps.bytes.size());
    }
}

TEST_CASE("each step of a ladder gives up something, and the first is what was asked for", "[export][limit]")
{
    for (const char* name : {"loop", "loop-webp", "film"}) {
        const Preset preset = *find_preset(name);
        const Ladder ladder(preset, {800, 600});
        CAPTURE(name);
        CHECK(ladder.at(0) == preset);
        for (std::size_t i = 1; i < ladder.size(); ++i) {
            const Preset &before = ladder.at(i - 1), &now = ladder.at(i);
            CHECK_FALSE(now == before);
            CHECK(now.quality <= before.quality);
            CHECK(now.colours <= before.colours);
            CHECK((now.dither <= before.dither));
            const auto side = [](const Preset& p) { return p.size ? p.size->width : 800; };
            CHECK(side(now) <= side(before));
        }
    }
}

}
