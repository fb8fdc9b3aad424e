#include "core/base/text.h"
#include "core/source/names.h"
#include "tests/support/catch.h"

#include <algorithm>
#include <random>

using namespace frenlo;

namespace FRENLO_THIS_SOURCE {

TEST_CASE("names sort as people count", "[photo]")
{
    const std::vector<std::string> wanted{"a1.jpg",      "A2.jpg",        "a10.jpg",       "boat 9.jpg",
                                          "boat 10.jpg", "harb_0001.jpg", "harb_0002.jpg", "harb_00010.jpg",
                                          "käse1.jpg",   "⛵2.jpg",        "⛵11.jpg"};
    std::vector<std::string> shuffled = wanted;
    std::mt19937 random(1);
    std::shuffle(shuffled.begin(), shuffled.end(), random);
    std::sort(shuffled.begin(), shuffled.end(), natural_less);
    CHECK(shuffled == wanted);
}

TEST_CASE("equal but for zeros and case is still a strict order", "[photo]")
{
    const std::vector<std::string> names{"a1", "a01", "A1", "A01", "a001"};
    for (const auto& a : names)
        for (const auto& b : names)
            CHECK((natural_less(a, b) || natural_less(b, a)) == (a != b));
}

TEST_CASE("a numbered name is taken apart at its last digits", "[photo]")
{
    const auto n = numbered("/card/100HARB/HARB4838.JPG");
    REQUIRE(n);
    CHECK(n->before == "HARB");
    CHECK(n->number == 4838);
    CHECK(n->digits == 4);
    CHECK(n->after == ".JPG");
    CHECK(numbered("2026-05-03 boat (12).jpg")->number == 12);
    CHECK(numbered("_0001.png")->number == 1);
    CHECK_FALSE(numbered("boat.jpg"));
    CHECK_FALSE(numbered("1234567890123456.jpg")); // no counter of a camera
}

TEST_CASE("names tell where another run of photos begins", "[photo]")
{
    CHECK(another_run("HARB0002.JPG", "PIER0003.JPG"));
    CHECK(another_run("shot1_0048.jpg", "shot2_0001.jpg"));
    CHECK_FALSE(another_run("shot1_0048.jpg", "shot2_0049.jpg")); // a version, or a date: the counter goes on
    CHECK_FALSE(another_run("HARB9999.JPG", "HARB0001.JPG"));     // the counter has begun again
    CHECK_FALSE(another_run("boat.jpg", "pier.jpg"));             // no counter
}

TEST_CASE("UTF-8 is told from other bytes", "[text]") // Unicode 15, table 3-7
{
    for (const char* good : {"", "boat", "käse", "⛵", "\xF0\x9F\x9A\xA2"})
        CHECK(is_utf8(good));
    for (const char* bad : {"\xFF", "k\xE4se", "\xC0\x80", "\xED\xA0\x80", "\xF5\x80\x80\x80", "\xE2\x9B"})
        CHECK_FALSE(is_utf8(bad));
    CHECK(shown_path("k\xE4se.jpg") == "k\xEF\xBF\xBDse.jpg");
}

TEST_CASE("bytes are said in round figures", "[text]")
{
    CHECK(shown_bytes(999) == "999 B");
    CHECK(shown_bytes(3'140'000) == "3.1 MB");
    CHECK(shown_bytes(999'960'000) == "1.0 GB");
    CHECK(counted(1, "photo", "photos") == "1 photo");
}

}
