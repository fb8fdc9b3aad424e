#pragma once
#include "core/base/fields.h"

#include <optional>
#include <string_view>

namespace frenlo {

/// How a shot was made, guessed from its photos; later steps take their starting values from it.
enum class ShotKind
{
    unknown,
    hand_moved, ///< irregular intervals
    time_lapse, ///< equal intervals
    walked,     ///< the viewpoint travels
};

/// What the user has decided about a photo, which no search overrules.
enum class GroupingOverride
{
    none,
    starts, ///< a shot starts here
    stays,  ///< it stays with the photo before
    loose,  ///< it belongs to no shot
};

template <>
struct Words<ShotKind>
{
    static constexpr std::array<std::string_view, 4> words{"unknown", "hand-moved", "time-lapse", "walked"};
};
template <>
struct Words<GroupingOverride>
{
    static constexpr std::array<std::string_view, 4> words{"none", "starts", "stays", "loose"};
};

/// "hand-moved": on the command line and in files.
inline std::string_view kind_name(ShotKind kind)
{
    return word_of(kind);
}
inline std::optional<ShotKind> parse_shot_kind(std::string_view name)
{
    return from_word<ShotKind>(name);
}

}
