#pragma once
#include "core/project/project.h"

#include <optional>
#include <string>

namespace frenlo {

/// The timing of a shot, or of the Reel, as other programs read it. shot: none is the Reel.

/// JSON of OpenTimelineIO, Timeline.1: a shot's photos as image sequences, each of photos that are numbered one after
/// another and held equally long, so that a hold is the sequence's rate; photos without numbers as files. In the Reel
/// shots are tracks within the track, joins are transitions, sounds are audio tracks of their own, markers lie on the
/// stack. As published at opentimelineio.readthedocs.io, "Serialized Schema Documentation" (from memory).
std::string otio_text(const Project& project, std::optional<ShotIndex> shot);

/// CMX 3600: a shot's photos as stills, or the Reel's shots with their dissolves and wipes; record time from
/// 01:00:00:00, counted without dropped frames. Common practice, no source. Throws Failure where there are more than
/// its 999 events.
std::string edl_text(const Project& project, std::optional<ShotIndex> shot);

}
