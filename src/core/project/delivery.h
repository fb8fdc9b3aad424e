#pragma once
#include "core/project/project.h"

namespace frenlo {

/// Two intents for another delivery rate, for all shots alike. Same photos per frame: every film keeps its frames and
/// gets shorter or longer. Same clock time: every film keeps its length and frames are repeated or left out. A fixed
/// length of a kept range stays what it is in both.
enum class RateIntent
{
    same_photos_per_frame,
    same_clock_time
};
Project deliver_at(const Project& project, Rate rate, RateIntent intent);
/// The delivery rate alone: shots that are paced as delivered keep the photos of each frame, others their clock time.
Project set_delivered_at(const Project& project, Rate rate);
/// So many frames of the film as a hold of this shot: in frames of its pacing rate where these are whole ones.
Hold hold_of_frames(std::int64_t frames, const Project& project, const Shot& shot);

}
