#include "core/time/rate.h"

#include "core/base/text.h"

#include <algorithm>
#include <array>
#include <cstdio>
#include <stdexcept>
#include <vector>

namespace frenlo {

Rate::Rate(Fraction frames_per_second) : value_(frames_per_second)
{
    if (value_ <= Fraction(0) || value_ > Fraction(1000))
        throw std::invalid_argument("a frame rate must be above 0 and at most 1000 frames a second");
}

int Rate::nominal() const
{
    return static_cast<int>(std::max<std::int64_t>(1, value_.rounded()));
}

namespace {

std::string thousandths(Fraction value)
{
    const std::int64_t n = (value * Fraction(1000)).rounded();
    std::array<char, 48> text{};
    std::snprintf(text.data(), text.size(), "%lld.%03lld", static_cast<long long>(n / 1000),
                  static_cast<long long>(n % 1000));
    std::string s = text.data();
    s.erase(s.find_last_not_of('0') + 1);
    if (s.ends_with('.'))
        s.pop_back();
    return s;
}

}

std::string Rate::text() const
{
    const std::string s = thousandths(value_);
    return parse_rate(s) == *this ? s : value_.text();
}

std::optional<Rate> parse_rate(std::string_view text)
{
    text = trimmed(text);
    // The spoken names of the rates that divide by 1.001; SMPTE ST 12-1 has the exact fractions.
    struct Spoken
    {
        std::string_view text;
        std::int64_t nominal;
    };
    static constexpr std::array spoken{Spoken{"23.976", 24}, Spoken{"23.98", 24}, Spoken{"29.97", 30},
                                       Spoken{"47.952", 48}, Spoken{"47.95", 48}, Spoken{"59.94", 60},
                                       Spoken{"119.88", 120}};
    for (const auto& s : spoken)
        if (text == s.text)
            return Rate(Fraction(s.nominal * 1000, 1001));
    const auto value = parse_fraction(text);
    constexpr std::int64_t finest = 10'000; // finer rates are typing errors, and would not stay exact in 64 bits
    if (!value || *value <= Fraction(0) || *value > Fraction(1000) || value->den() > finest)
        return std::nullopt;
    return Rate(*value);
}

std::span<const Rate> usual_rates()
{
    static const std::vector<Rate> rates = [] {
        std::vector<Rate> r;
        for (const char* text :
             {"8", "10", "12", "12.5", "15", "23.976", "24", "25", "29.97", "30", "48", "50", "59.94", "60"})
            r.push_back(*parse_rate(text));
        return r;
    }();
    return rates;
}

Seconds length_of(std::int64_t frames, Rate rate)
{
    return {Fraction(frames) / rate.value()};
}

std::string shown_seconds(Seconds length)
{
    const std::int64_t hundredths = (length.value * Fraction(100)).rounded();
    std::array<char, 48> text{};
    std::snprintf(text.data(), text.size(), "%lld.%02lld s", static_cast<long long>(hundredths / 100),
                  static_cast<long long>(hundredths % 100));
    return text.data();
}

}
