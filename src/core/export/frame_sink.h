#pragma once
#include "core/base/atomic_file.h"
#include "core/base/job.h"
#include "core/base/strong.h"
#include "core/export/preset.h"
#include "core/export/still_names.h"

#include <opencv2/core/mat.hpp>

#include <filesystem>
#include <memory>
#include <span>
#include <string>
#include <utility>
#include <vector>

namespace frenlo {

/// A picture on its way into a file: the picture itself, and what a sink made of it ahead of time.
struct PreparedPicture
{
    cv::Mat picture; ///< as render() makes it
    std::string bytes;
};

/// Something that frames are written into, in order. Throws Failure.
class FrameSink
{
public:
    virtual ~FrameSink() = default;
    /// How often all pictures must be written: a loop looks at all of them before it chooses its colours.
    [[nodiscard]] virtual int passes() const { return 1; }
    virtual void begin_pass(int /*pass*/) {}
    /// The part of the work that does not depend on order; called from any thread.
    [[nodiscard]] virtual PreparedPicture prepare(cv::Mat picture) const { return {std::move(picture), {}}; }
    /// The picture fills the frames [begin, end). Called in order, without gaps, one at a time. Asks the job at each
    /// frame that is written whether to stop: a hold can last an hour. Throws Stopped.
    virtual void write(const PreparedPicture& picture, FrameIndex begin, FrameIndex end, const Job& job) = 0;
    /// After the last picture of the last pass. What is not finished is not a film.
    virtual void finish() = 0;
};

/// H.264 in MP4: constant frame rate, 4:2:0, limited range, converted with and tagged as BT.709 (Rec. ITU-R BT.709-6).
/// Both sides of size must be even. threads: of the encoder, 0 for all cores.
std::unique_ptr<FrameSink> film_sink(const AtomicFile& file, cv::Size size, Rate rate, int quality, int threads);

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
};

/// One picture a span; spans: in hundredths of a second, each beginning where the one before ends. Players show less
/// than 2/100 s as 10/100 s (common practice, no source), so such pictures are left out and their time goes to the
/// next.
LoopTiming loop_timing(std::span<const std::pair<std::int64_t, std::int64_t>> spans);

/// Animated GIF that loops for ever (GIF89a, looping application extension); colours chosen and dithered by FFmpeg's
/// palettegen and paletteuse.
std::unique_ptr<FrameSink> loop_sink(const AtomicFile& file, cv::Size size, LoopTiming timing, const Preset& preset);

/// One file a frame, into a folder that exists.
std::unique_ptr<FrameSink> stills_sink(const std::filesystem::path& folder, StillNames names, const Preset& preset);

}
