#pragma once
#include "core/project/project.h"

#include <string>
#include <string_view>
#include <vector>

namespace frenlo {

/// A photo of a film, as the animator's table has it.
struct DopesheetLine
{
    FrameIndex begin;
    std::int64_t frames = 0; ///< that it is held
    PhotoIndex photo;
    std::string file; ///< its name
    bool marked = false;
    std::string words; ///< that are heard meanwhile, where the shot first lies in the Reel
};

std::vector<DopesheetLine> dopesheet(const Project& project, ShotIndex shot);

/// "2+05": feet of 16 frames (35 mm, 4 perforations) and frames, from 0; common practice, no source.
std::string feet_and_frames(std::int64_t frame);

/// As RFC 4180, with a heading: frame (from 1), feet, hold (frames), photo (from 1), file, mark, words.
std::string dopesheet_csv(const std::vector<DopesheetLine>& lines);

/// Holds as such a table says them: it needs the columns hold and photo, or file; others may be there and are not read.
/// Photos that are not in it stay as they are. Throws Failure that names the line where something is wrong: no number,
/// a photo that is not there, two holds for one photo; and where the shot has a speed course.
Project holds_from_csv(const Project& project, ShotIndex shot, std::string_view csv);

}
