#pragma once
#include "core/base/job.h"
#include "core/base/strong.h"

#include <opencv2/core/mat.hpp>

#include <string>
#include <utility>

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

}
