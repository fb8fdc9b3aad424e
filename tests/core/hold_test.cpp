#include "core/time/hold.h"
#include "core/time/timecode.h"
#include "tests/support/catch.h"

using namespace frenlo;

namespace FRENLO_THIS_SOURCE {

TEST_CASE("rates are read and said as in the trade", "[timing]")
{
    // SMPTE ST 12-1 has the exact fractions behind the spoken decimals.
    CHECK(parse_rate("23.976")->value() == Fraction(24000, 1001));
    CHECK(parse_rate("29.97")->value() == Fraction(30000, 1001));
    CHECK(parse_rate("59.94")->value() == Fraction(60000, 1001));
    CHECK(parse_rate("12.5")->value() == Fraction(25, 2));
    for (const char* said : {"24", "23.976", "12.5", "30000/1007"})
        CHECK(parse_rate(parse_rate(said)->text()) == parse_rate(said));
    CHECK(parse_rate("24000/1001")->text() == "23.976");
    CHECK(parse_rate("24000/1001")->nominal() == 24);
    for (const char* wrong : {"0", "-24", "1001", "fast", ""})
        CHECK_FALSE(parse_rate(wrong));
}

TEST_CASE("holds are read in frames and seconds, and written so that they are read back the same", "[timing]")
{
    CHECK(parse_hold("2f") == Hold(Frames{2}));
    CHECK(parse_hold("2") == Hold(Frames{2}));
    CHECK(parse_hold("0.15 s") == Hold(Seconds{Fraction(3, 20)}));
    CHECK(parse_hold("1/6s") == Hold(Seconds{Fraction(1, 6)}));
    CHECK(parse_hold("12.5 fps") == Hold(Seconds{Fraction(2, 25)}));
    for (const char* text : {"0f", "2f", "0.15s", "1/6s", "3600s"})
        CHECK(hold_text(*parse_hold(text)) == text);
    for (const char* wrong : {"", "f", "-1f", "1.5f", "-0.1s", "3601s", "100001f", "1/0s", "2 x"})
        CHECK_FALSE(parse_hold(wrong));
}

TEST_CASE("one still held 5 frames at 30 fps lasts 1/6 s", "[timing][numbers]") // common practice, no source
{
    CHECK(length_of(Frames{5}, Rate(30)).value == Fraction(1, 6));
}

TEST_CASE("the clock counts minutes, seconds and frames", "[timing]")
{
    CHECK(clock_text(24 * 4 + 18, Rate(24)) == "0:04:18");
    CHECK(clock_text(0, Rate(24)) == "0:00:00");
    CHECK(clock_text(60 * 24 * 3 + 23, *parse_rate("23.976")) == "3:00:23");
}

TEST_CASE("time addresses drop numbers as SMPTE ST 12-1 says", "[timing][numbers]")
{
    const Rate ntsc(Fraction(30000, 1001));
    CHECK(timecode_text(0, ntsc) == "00:00:00;00");
    CHECK(timecode_text(60 * 30 - 1, ntsc) == "00:00:59;29");
    CHECK(timecode_text(60 * 30, ntsc) == "00:01:00;02"); // 00:01:00;00 and ;01 do not exist
    CHECK(timecode_text(17'982, ntsc) == "00:10:00;00");  // ten minutes are 17,982 frames
    CHECK(timecode_text(17'982 - 1, ntsc) == "00:09:59;29");
    CHECK(timecode_text(6 * 17'982, ntsc) == "01:00:00;00");
    CHECK(timecode_text(60 * 60, Rate(Fraction(60000, 1001))) == "00:01:00;04");
    CHECK(timecode_text(60 * 30, Rate(30)) == "00:01:00:00"); // nothing is dropped at 30
    CHECK(timecode_text(24 * 60, *parse_rate("23.976")) == "00:01:00:00");
}

TEST_CASE("no drop-frame number is used twice or skipped but the dropped ones", "[timing]")
{
    const Rate ntsc(Fraction(30000, 1001));
    std::string last = timecode_text(0, ntsc);
    for (std::int64_t f = 1; f < 2 * 17'982; ++f) {
        const std::string now = timecode_text(f, ntsc);
        REQUIRE(now > last); // as text the addresses grow
        const bool minute_starts = now.substr(6, 2) == "00" && now.substr(9, 2) < "02";
        const bool tenth = now[4] == '0';
        REQUIRE((!minute_starts || tenth));
        last = now;
    }
}

}
