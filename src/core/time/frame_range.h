#pragma once
#include "core/base/strong.h"

#include <cstdint>

namespace frenlo {

/// Frames [begin, end).
struct FrameRange
{
    FrameIndex begin;
    FrameIndex end;
    [[nodiscard]] std::int64_t frames() const { return end - begin; }
    [[nodiscard]] bool contains(FrameIndex f) const { return f >= begin && f < end; }
    bool operator==(const FrameRange&) const = default;
};

}
