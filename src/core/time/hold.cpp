#include "core/time/hold.h"

#include "core/base/text.h"

#include <array>
#include <cstdio>

namespace frenlo {

namespace {

std::optional<Hold> frames(std::string_view number)
{
    const auto n = parse_fraction(number);
    if (!n || n->den() != 1 || *n < Fraction(0) || *n > Fraction(max_hold_frames))
        return std::nullopt;
    return Frames{n->num()};
}

std::optional<Hold> seconds(std::optional<Fraction> length)
{
    if (!length || *length < Fraction(0) || *length > Fraction(max_hold_seconds))
        return std::nullopt;
    return Seconds{*length};
}

/// A decimal where it is exact with at most six places, else a fraction.
std::string exact_decimal(Fraction value)
{
    for (std::int64_t scale = 1, places = 0; places <= 6; scale *= 10, ++places) {
        if (scale % value.den() != 0)
            continue;
        const std::int64_t n = value.num() * (scale / value.den());
        if (places == 0)
            return std::to_string(n);
        std::array<char, 64> text{};
        std::snprintf(text.data(), text.size(), "%lld.%0*lld", static_cast<long long>(n / scale),
                      static_cast<int>(places), static_cast<long long>(n % scale));
        return text.data();
    }
    return value.text();
}

std::string with_unit(Hold hold, std::string_view space)
{
    if (const auto* f = std::get_if<Frames>(&hold))
        return std::to_string(f->count) + std::string(space) + 'f';
    return exact_decimal(std::get<Seconds>(hold).value) + std::string(space) + 's';
}

}

std::optional<Hold> parse_hold(std::string_view text)
{
    text = trimmed(text);
    const auto without = [&](std::string_view unit) { return trimmed(text.substr(0, text.size() - unit.size())); };
    if (text.ends_with("fps")) {
        const auto rate = parse_rate(without("fps"));
        return rate ? seconds(Fraction(1) / rate->value()) : std::nullopt;
    }
    if (text.ends_with('f'))
        return frames(without("f"));
    if (text.ends_with('s'))
        return seconds(parse_fraction(without("s")));
    return frames(text);
}

std::string hold_text(Hold hold)
{
    return with_unit(hold, "");
}

std::string shown_hold(Hold hold)
{
    return with_unit(hold, " ");
}

Seconds length_of(Hold hold, Rate paced_at)
{
    if (const auto* f = std::get_if<Frames>(&hold))
        return length_of(f->count, paced_at);
    return std::get<Seconds>(hold);
}

}
