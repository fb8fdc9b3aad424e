#pragma once
#include "core/project/project.h"

#include <cstdint>
#include <vector>

namespace frenlo::app {

/// What hands do to the Sheet's tiles. gesture: see History::push.
class TileActions
{
public:
    virtual ~TileActions() = default;
    virtual void set_first(PhotoIndex photo, std::uint64_t gesture) = 0;
    virtual void set_last(PhotoIndex photo, std::uint64_t gesture) = 0;
    /// The selected photos, to where the photo "before" is; one place back or on.
    virtual void move(PhotoIndex before) = 0;
    virtual void nudge(int by) = 0;
};

/// What hands do to the Sheet's rows of time.
class RowActions
{
public:
    virtual ~RowActions() = default;
    /// A tile is pulled to so many frames of the film. photos: all that are pulled with it.
    virtual void pull_hold(const std::vector<PhotoIndex>& photos, std::int64_t frames, std::uint64_t gesture) = 0;
    virtual void set_first_hold(std::optional<Hold> hold, std::uint64_t gesture) = 0;
    virtual void set_last_hold(std::optional<Hold> hold, std::uint64_t gesture) = 0;
    virtual void keep_from(PhotoIndex photo, std::uint64_t gesture) = 0;
    virtual void keep_to(PhotoIndex photo, std::uint64_t gesture) = 0;
    virtual void slide(std::int64_t photos, std::uint64_t gesture) = 0;
};

}
