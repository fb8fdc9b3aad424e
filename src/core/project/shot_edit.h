#pragma once
#include "core/project/project.h"

#include <optional>
#include <vector>

namespace frenlo {

/// What an edit did to a shot, told to the steps so that what they keep goes on being true: photos may have been
/// turned, moved, taken out, exchanged, or come from another shot.
struct ShotEdit
{
    const Shot& before; ///< of a new shot: the one that its photos were in
    Shot& now;          ///< to be put right
    std::vector<std::optional<std::size_t>>
        was; ///< where each photo of now was in before; none: it comes from elsewhere

    /// The photo as it was; null where it comes from elsewhere.
    [[nodiscard]] const ShotPhoto* photo_before(std::size_t photo) const
    {
        return was[photo] ? &before.photos[*was[photo]] : nullptr;
    }
    /// It is of the same shot, turned and as large as it was: what was measured of how it lies still holds.
    [[nodiscard]] bool lies_as_before(std::size_t photo) const;
    /// And it has the same content: what was measured of its pixels holds, too.
    [[nodiscard]] bool seen_as_before(std::size_t photo) const;
};

/// Lets all steps put right what they keep of now.
void follow_edit(const Shot& before, Shot& now);

/// The same for each step; which there are is said above the project (steps/steps.cpp).
void follow_by_steps(const ShotEdit& edit);

}
