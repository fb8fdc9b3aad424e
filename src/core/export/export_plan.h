#pragma once
// Private to media/: what planning and running an export both work out.
#include "core/export/export.h"
#include "core/export/frame_sink.h"

namespace frenlo {

/// The project as this export delivers it.
Project delivered(const Project& project, const ExportOrder& order);

/// What is written: at the delivery rate, or, of a loop, each photo for exactly its hold, to the hundredth of a second
/// that the running total rounds to.
Schedule written_schedule(const Project& project, const Shot& shot, MediaFormat format);
LoopTiming loop_timing_of(const std::vector<Moment>& moments);

/// The width and height that are rendered: one more than the film's where a line is cut to make it even.
struct Sizes
{
    cv::Size rendered;
    cv::Size written;
};

Sizes sizes_for(const Shot& shot, const Preset& preset);

/// That what would be written lies there already.
Problem there_already(const std::vector<std::filesystem::path>& existing);

}
