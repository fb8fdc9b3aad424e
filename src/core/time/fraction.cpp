#include "core/time/fraction.h"

#include "core/base/text.h"

#include <charconv>
#include <limits>
#include <numeric>
#include <stdexcept>
#include <utility>

namespace frenlo {

namespace {

__extension__ using Wide = __int128; // products of two 64-bit numbers, before they are brought to lowest terms

Wide gcd(Wide a, Wide b)
{
    a = a < 0 ? -a : a;
    while (b != 0)
        a = std::exchange(b, a % b);
    return a;
}

Fraction narrowed(Wide num, Wide den)
{
    if (const Wide g = gcd(num, den); g > 1) {
        num /= g;
        den /= g;
    }
    constexpr Wide highest = std::numeric_limits<std::int64_t>::max();
    if (num > highest || num < -highest || den > highest)
        throw std::overflow_error("a time does not fit an exact fraction");
    return {static_cast<std::int64_t>(num), static_cast<std::int64_t>(den)};
}

}

Fraction::Fraction(std::int64_t num, std::int64_t den)
{
    if (den == 0)
        throw std::invalid_argument("a fraction's denominator is 0");
    constexpr auto lowest = std::numeric_limits<std::int64_t>::min();
    if (num == lowest || den == lowest)
        throw std::overflow_error("a time does not fit an exact fraction");
    const std::int64_t g = std::gcd(num, den) * (den < 0 ? -1 : 1);
    num_ = num / g;
    den_ = den / g;
}

std::int64_t Fraction::floor() const
{
    const std::int64_t q = num_ / den_;
    return num_ % den_ < 0 ? q - 1 : q;
}

std::int64_t Fraction::rounded() const
{
    return (*this + Fraction(1, 2)).floor();
}

std::string Fraction::text() const
{
    return den_ == 1 ? std::to_string(num_) : std::to_string(num_) + '/' + std::to_string(den_);
}

Fraction operator+(Fraction a, Fraction b)
{
    return narrowed(Wide(a.num_) * b.den_ + Wide(b.num_) * a.den_, Wide(a.den_) * b.den_);
}

Fraction operator-(Fraction a, Fraction b)
{
    return narrowed(Wide(a.num_) * b.den_ - Wide(b.num_) * a.den_, Wide(a.den_) * b.den_);
}

Fraction operator*(Fraction a, Fraction b)
{
    return narrowed(Wide(a.num_) * b.num_, Wide(a.den_) * b.den_);
}

Fraction operator/(Fraction a, Fraction b)
{
    if (b.num_ == 0)
        throw std::invalid_argument("a fraction is divided by 0");
    const int sign = b.num_ < 0 ? -1 : 1;
    return narrowed(Wide(a.num_) * b.den_ * sign, Wide(a.den_) * b.num_ * sign);
}

std::strong_ordering operator<=>(Fraction a, Fraction b)
{
    return Wide(a.num_) * b.den_ <=> Wide(b.num_) * a.den_;
}

namespace {

std::optional<std::int64_t> parse_whole(std::string_view digits)
{
    std::int64_t value = 0;
    const auto [end, error] = std::from_chars(digits.data(), digits.data() + digits.size(), value);
    if (error != std::errc() || end != digits.data() + digits.size())
        return std::nullopt;
    return value;
}

bool all_digits(std::string_view s)
{
    return s.find_first_not_of("0123456789") == std::string_view::npos;
}

std::optional<Fraction> parse_decimal(std::string_view whole, std::string_view decimals)
{
    constexpr std::size_t most_decimals = 9; // a nanosecond; what is longer would crowd the 64 bits
    if (whole.empty() && decimals.empty())
        return std::nullopt;
    if (!all_digits(whole) || !all_digits(decimals) || decimals.size() > most_decimals)
        return std::nullopt;
    const auto value = parse_whole(std::string(whole.empty() ? "0" : whole) + std::string(decimals));
    if (!value)
        return std::nullopt;
    std::int64_t scale = 1;
    for (std::size_t i = 0; i < decimals.size(); ++i)
        scale *= 10;
    return Fraction(*value, scale);
}

}

std::optional<Fraction> parse_fraction(std::string_view text)
{
    text = trimmed(text);
    if (text.starts_with('-')) {
        const auto positive = text.starts_with("--") ? std::nullopt : parse_fraction(text.substr(1));
        return positive ? std::optional(Fraction(0) - *positive) : std::nullopt;
    }
    if (const auto slash = text.find('/'); slash != std::string_view::npos) {
        const auto num = trimmed(text.substr(0, slash));
        const auto den = trimmed(text.substr(slash + 1));
        if (num.empty() || den.empty() || !all_digits(num) || !all_digits(den))
            return std::nullopt;
        const auto n = parse_whole(num);
        const auto d = parse_whole(den);
        return n && d && *d != 0 ? std::optional(Fraction(*n, *d)) : std::nullopt;
    }
    const auto point = text.find('.');
    if (point == std::string_view::npos)
        return parse_decimal(text, {});
    return parse_decimal(text.substr(0, point), text.substr(point + 1));
}

}
