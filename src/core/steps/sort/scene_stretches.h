#pragma once
// What the pictures say about where shots begin and end, whatever the clock says.
#include "core/steps/sort/photo_signature.h"

#include <cstddef>
#include <span>
#include <vector>

namespace frenlo {

/// What a photo is among those around it.
enum class Standing
{
    stray,        ///< it shows what no other does
    member,       ///< of a stretch
    marker_card,  ///< something held before the lens: it ends a stretch
    reached_into, ///< inside a stretch: an arm, a tool; the scene is seen beside it
    covered,      ///< inside a stretch: black or white all over, a lens cap or a flash
    turned,       ///< inside a stretch: the same, on its side or upside down
};

/// Photos of one scene seen from one place, or along one walk, from begin to before end.
struct Stretch
{
    std::size_t begin = 0;
    std::size_t end = 0;
};

/// A decision that little more, or less, would have turned.
struct Doubt
{
    enum class About
    {
        card,   ///< whether something was held before the lens on purpose
        border, ///< whether the scene is another from here on
        few,    ///< whether so few photos are a shot
    };
    std::size_t photo = 0;
    About about = About::card;
};

struct SceneStretches
{
    std::vector<Stretch> stretches; ///< in order, apart
    std::vector<Standing> standing; ///< of each photo
    std::vector<Doubt> doubts;
};

/// The fewest photos that make a stretch where the pictures alone say so.
inline constexpr std::size_t least_stretch = 4;

/// looks: of photos in the order in which they were taken; empty ones go with those around them. break_before: where a
/// stretch cannot go on, whatever it shows; empty: nowhere. Each photo is compared with those before it, not only with
/// the last, so that an interruption ends nothing.
SceneStretches scene_stretches(std::span<const PhotoSignature* const> signatures,
                               const std::vector<bool>& break_before);

}
