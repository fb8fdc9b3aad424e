#include "core/time/timecode.h"

#include <array>
#include <cstdio>

namespace frenlo {

namespace {

/// Frame numbers dropped at the start of each minute but every tenth: 2 at 30000/1001, 4 at 60000/1001, else 0.
std::int64_t dropped_a_minute(Rate rate)
{
    if (rate.value() == Fraction(30000, 1001))
        return 2;
    if (rate.value() == Fraction(60000, 1001))
        return 4;
    return 0;
}

/// The number that labels this frame once the dropped numbers are skipped (SMPTE ST 12-1, 5.2.2).
std::int64_t labelled(std::int64_t frame, std::int64_t nominal, std::int64_t dropped)
{
    const std::int64_t a_minute = nominal * 60 - dropped;
    const std::int64_t ten_minutes = a_minute * 10 + dropped; // the tenth minute drops none
    const std::int64_t tens = frame / ten_minutes;
    const std::int64_t rest = frame % ten_minutes;
    const std::int64_t minutes = rest < nominal * 60 ? 0 : (rest - nominal * 60) / a_minute + 1;
    return frame + dropped * (9 * tens + minutes);
}

}

std::string clock_text(std::int64_t frames, Rate rate)
{
    const std::int64_t nominal = rate.nominal();
    const std::int64_t s = frames / nominal;
    std::array<char, 48> text{};
    std::snprintf(text.data(), text.size(), "%lld:%02lld:%0*lld", static_cast<long long>(s / 60),
                  static_cast<long long>(s % 60), nominal > 100 ? 3 : 2, static_cast<long long>(frames % nominal));
    return text.data();
}

bool has_drop_frame(Rate rate)
{
    return dropped_a_minute(rate) > 0;
}

std::string timecode_text(std::int64_t frames, Rate rate, DropFrame drop)
{
    const std::int64_t nominal = rate.nominal();
    const std::int64_t dropped = drop == DropFrame::no ? 0 : dropped_a_minute(rate);
    const std::int64_t n = dropped > 0 ? labelled(frames, nominal, dropped) : frames;
    const std::int64_t s = n / nominal;
    std::array<char, 64> text{};
    std::snprintf(text.data(), text.size(), "%02lld:%02lld:%02lld%c%02lld", static_cast<long long>(s / 3600 % 24),
                  static_cast<long long>(s / 60 % 60), static_cast<long long>(s % 60), dropped > 0 ? ';' : ':',
                  static_cast<long long>(n % nominal));
    return text.data();
}

std::string_view counting_name(Counting counting)
{
    static constexpr std::array<std::string_view, all_countings.size()> names{"clock", "timecode", "drop-frame",
                                                                              "frames", "seconds"};
    return names.at(static_cast<std::size_t>(counting));
}

std::string length_text(std::int64_t frames, Rate rate, Counting counting)
{
    switch (counting) {
    case Counting::clock:
        break;
    case Counting::timecode:
        return timecode_text(frames, rate, DropFrame::no);
    case Counting::drop_frame:
        return timecode_text(frames, rate, DropFrame::where_defined);
    case Counting::frames:
        return std::to_string(frames) + " f";
    case Counting::seconds:
        return shown_seconds(length_of(frames, rate));
    }
    return clock_text(frames, rate);
}

}
