#pragma once
#include <compare>
#include <cstddef>
#include <cstdint>
#include <functional>

namespace frenlo {

/// A whole number that counts one kind of thing. A frame cannot be passed where a photo is meant.
template <class Tag>
struct Strong
{
    std::int64_t value = 0;

    constexpr Strong() = default;
    constexpr explicit Strong(std::int64_t v) : value(v) {}
    constexpr auto operator<=>(const Strong&) const = default;
    constexpr Strong& operator++()
    {
        ++value;
        return *this;
    }
    constexpr Strong operator+(std::int64_t n) const { return Strong(value + n); }
    constexpr Strong operator-(std::int64_t n) const { return Strong(value - n); }
    constexpr std::int64_t operator-(Strong other) const { return value - other.value; }
    [[nodiscard]] constexpr std::size_t at() const { return static_cast<std::size_t>(value); }
};

/// Position of a frame in a shot's film, from 0.
using FrameIndex = Strong<struct FrameTag>;
/// Position of a photo in its shot's list, from 0, set-aside photos counted. People are shown it plus one.
using PhotoIndex = Strong<struct PhotoTag>;
/// Position of a shot in its project, from 0.
using ShotIndex = Strong<struct ShotTag>;

}

template <class Tag>
struct std::hash<frenlo::Strong<Tag>>
{
    std::size_t operator()(frenlo::Strong<Tag> s) const noexcept { return std::hash<std::int64_t>{}(s.value); }
};
