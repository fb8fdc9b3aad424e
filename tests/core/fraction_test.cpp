#include "core/time/fraction.h"
#include "core/time/rate.h"
#include "tests/support/catch.h"

#include <limits>

using namespace frenlo;

namespace FRENLO_THIS_SOURCE {

TEST_CASE("fractions stay exact and in lowest terms", "[timing]")
{
    CHECK(Fraction(6, -4).text() == "-3/2");
    CHECK(Fraction(1, 3) + Fraction(1, 6) == Fraction(1, 2));
    CHECK(Fraction(1001, 30000) * Fraction(30000, 1001) == Fraction(1));
    CHECK(Fraction(1, 3) < Fraction(33334, 100000));
    CHECK_THROWS_AS(Fraction(1, 0), std::invalid_argument);
    CHECK_THROWS_AS(Fraction(std::numeric_limits<std::int64_t>::max(), 1) * Fraction(2), std::overflow_error);
}

TEST_CASE("rounding goes to the nearest whole number, halves up, below zero too", "[timing]")
{
    const auto [value, floor, rounded] = GENERATE(table<Fraction, int, int>({{Fraction(5, 2), 2, 3},
                                                                             {Fraction(-5, 2), -3, -2},
                                                                             {Fraction(7, 3), 2, 2},
                                                                             {Fraction(-7, 3), -3, -2},
                                                                             {Fraction(4), 4, 4}}));
    CHECK(value.floor() == floor);
    CHECK(value.rounded() == rounded);
}

TEST_CASE("fractions are read as people write them", "[timing]")
{
    CHECK(parse_fraction("0.15") == Fraction(15, 100));
    CHECK(parse_fraction(" 1/6 ") == Fraction(1, 6));
    CHECK(parse_fraction(".5") == Fraction(1, 2));
    CHECK(parse_fraction("-3") == Fraction(-3));
    for (const char* wrong :
         {"", ".", "1/", "/2", "1/0", "1.2.3", "1/2/3", "abc", "1e5", "--1", "0.1234567891", "99999999999999999999"})
        CHECK_FALSE(parse_fraction(wrong));
}

TEST_CASE("a rate finer than anybody means is no rate", "[rate]") // found by fuzzing: it overflowed when it was shown
{
    CHECK_FALSE(parse_rate("3643310000030000000/10000030000000514"));
    CHECK_FALSE(parse_rate("24.00001"));
    CHECK(parse_rate("24000/1001"));
    CHECK(parse_rate("12.3456"));
}

}
