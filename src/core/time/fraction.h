#pragma once
#include <compare>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

namespace frenlo {

/// An exact fraction in lowest terms, denominator above zero. Arithmetic is exact; a result that does not fit
/// 64 bits throws std::overflow_error, it is never rounded.
class Fraction
{
public:
    constexpr Fraction() = default;
    // Whole numbers are fractions; the implicit conversion keeps arithmetic readable.
    constexpr Fraction(std::int64_t whole) : num_(whole) {} // NOLINT(google-explicit-constructor)
    /// den must not be 0 (std::invalid_argument).
    Fraction(std::int64_t num, std::int64_t den);

    [[nodiscard]] constexpr std::int64_t num() const { return num_; }
    [[nodiscard]] constexpr std::int64_t den() const { return den_; }
    [[nodiscard]] double approx() const { return static_cast<double>(num_) / static_cast<double>(den_); }
    /// The largest whole number that is not above.
    [[nodiscard]] std::int64_t floor() const;
    /// The nearest whole number; halves go up.
    [[nodiscard]] std::int64_t rounded() const;
    /// "73/24"; a whole number without denominator: "4".
    [[nodiscard]] std::string text() const;

    friend Fraction operator+(Fraction a, Fraction b);
    friend Fraction operator-(Fraction a, Fraction b);
    friend Fraction operator*(Fraction a, Fraction b);
    friend Fraction operator/(Fraction a, Fraction b);
    friend constexpr bool operator==(Fraction, Fraction) = default;
    friend std::strong_ordering operator<=>(Fraction a, Fraction b);

private:
    std::int64_t num_ = 0;
    std::int64_t den_ = 1;
};

/// "12", "-3", "0.15", ".5", "1/6", "30000/1001". Nothing for anything else, or for what does not fit.
std::optional<Fraction> parse_fraction(std::string_view text);

inline std::size_t hash_value(const Fraction& f)
{
    return std::hash<std::int64_t>{}(f.num()) * 31 + std::hash<std::int64_t>{}(f.den());
}

}
