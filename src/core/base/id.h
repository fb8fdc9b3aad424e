#pragma once
#include <compare>
#include <cstdint>
#include <functional>
#include <optional>
#include <string>
#include <string_view>

namespace frenlo {

/// 64 random bits of the system's (getrandom), never 0. Throws std::system_error where there are none.
std::uint64_t fresh_id();

/// 16 hexadecimal digits.
std::string id_text(std::uint64_t id);
/// The inverse; nothing for other texts and for 0.
std::optional<std::uint64_t> parse_id(std::string_view text);

/// Who something is, however it is called, wherever it has moved to, and whatever was done to it. Whatever refers to it
/// from outside (a measurement under way, a selection, an export) refers to its identity. Random, so that undo and a
/// second program never give one twice; 0: none yet.
template <class Tag>
struct Id
{
    std::uint64_t value = 0;
    [[nodiscard]] static Id fresh() { return {fresh_id()}; }
    explicit operator bool() const { return value != 0; }
    auto operator<=>(const Id&) const = default;
};

}

template <class Tag>
struct std::hash<frenlo::Id<Tag>>
{
    std::size_t operator()(frenlo::Id<Tag> id) const noexcept { return std::hash<std::uint64_t>{}(id.value); }
};
