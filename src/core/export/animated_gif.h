#pragma once
#include "core/time/frame_range.h"

#include <cstddef>
#include <cstdint>
#include <span>
#include <vector>

namespace frenlo {

/// A picture of a loop: [begin, end) in hundredths of a second.
struct LoopDelay
{
    std::size_t span; ///< position among the spans given
    std::int64_t begin = 0;
    std::int64_t end = 0;
};

inline constexpr std::int64_t longest_loop_delay = 65'535; ///< GIF89a: the delay time is 16 bits

struct LoopTiming
{
    std::vector<LoopDelay> delays;
    std::size_t left_out = 0; ///< pictures that would last less than 2/100 s
    /// Of the file: a delay that is longer than one of them can say takes several.
    [[nodiscard]] std::int64_t pictures() const;
};

/// One picture a span; spans: in hundredths of a second, each beginning where the one before ends. Players show less
/// than 2/100 s as 10/100 s (common practice, no source), so such pictures are left out and their time goes to the
/// next.
LoopTiming loop_timing(std::span<const FrameRange> spans);

}
