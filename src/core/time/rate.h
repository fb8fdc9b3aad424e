#pragma once
#include "core/time/fraction.h"

#include <optional>
#include <span>
#include <string>
#include <string_view>

namespace frenlo {

/// A length of time, exact.
struct Seconds
{
    Fraction value;
    auto operator<=>(const Seconds&) const = default;
};

/// Frames a second, an exact fraction above 0 and at most 1000.
class Rate
{
public:
    /// Throws std::invalid_argument outside (0, 1000].
    explicit Rate(Fraction frames_per_second);
    [[nodiscard]] Fraction value() const { return value_; }
    /// The whole number of frames that a second is counted in: 24 for 24000/1001.
    [[nodiscard]] int nominal() const;
    /// "24", "23.976", "12.5"; a fraction where three decimals would not be read back as the same rate.
    [[nodiscard]] std::string text() const;
    friend bool operator==(Rate, Rate) = default;

private:
    Fraction value_;
};

/// "24", "12.5", "30000/1001". 23.976, 23.98, 29.97, 47.952, 59.94 and 119.88 stand for the exact fractions over 1001.
std::optional<Rate> parse_rate(std::string_view text);

/// The rates that are offered: hand-moved work and delivery (common practice, no source).
std::span<const Rate> usual_rates();

/// The length of this many frames.
Seconds length_of(std::int64_t frames, Rate rate);

/// "4.00 s", "12.35 s": rounded to hundredths for people, halves up.
std::string shown_seconds(Seconds length);

inline std::size_t hash_value(const Seconds& s)
{
    return hash_value(s.value);
}
inline std::size_t hash_value(const Rate& r)
{
    return hash_value(r.value());
}

}
