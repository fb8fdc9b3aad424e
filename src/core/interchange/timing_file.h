#pragma once
#include "core/project/project.h"

#include <filesystem>
#include <optional>

namespace frenlo {

/// The timing as a file whose ending says what it is: .csv a dopesheet, .otio OpenTimelineIO, .edl CMX 3600. shot: none
/// is the Reel, of which there is no dopesheet. replace: a file that is there. Throws Failure.
void write_timing(const Project& project, std::optional<ShotIndex> shot, const std::filesystem::path& file,
                  bool replace);

/// holds_from_csv() of a file.
Project read_holds(const Project& project, ShotIndex shot, const std::filesystem::path& file);

}
