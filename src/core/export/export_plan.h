#pragma once
// Private to export/: what planning and running an export both work out.
#include "core/export/export.h"
#include "core/timeline/timeline.h"

namespace frenlo {

/// The project as this export delivers it.
Project delivered(const Project& project, const ExportOrder& order);
ShotIndex shot_of(const Project& project, const ExportOrder& order);

/// What is written: at the delivery rate, or, of a loop, each photo for exactly its hold, to the step of the format's
/// clock that the running total rounds to. project: as delivered.
std::shared_ptr<const Timeline> written_film(const Project& project, const ExportOrder& order);

/// All of it, where only a part is written.
std::shared_ptr<const Timeline> repeated_film(const Project& project, const ExportOrder& order);
/// Of a film of so many.
FrameRange frames_of(const FilmPart& part, std::int64_t frames);

/// These frames of it alone.
std::shared_ptr<const Timeline> part_of_film(std::shared_ptr<const Timeline> film, FrameRange frames);

/// The width and height that are rendered: one more than the film's where a line is cut to make it even.
struct Sizes
{
    cv::Size rendered;
    cv::Size written;
};

Sizes sizes_for(const Timeline& film, const Preset& preset);

/// That the plan's bytes do not fit where the file goes to; nothing where they do.
std::optional<Problem> too_little_room(const ExportOrder& order, const ExportPlan& plan);

/// That what would be written lies there already.
Problem there_already(const std::vector<std::filesystem::path>& existing);

}
