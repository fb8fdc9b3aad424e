#pragma once
#include "core/timeline/reel_timeline.h"

#include <memory>

namespace frenlo::app {

/// The Reel as a page like a shot's: all its photos in order as if they were of one shot, which is never edited, and
/// which frames show which.
struct ReelPage
{
    std::shared_ptr<const ReelTimeline> film;
    ShotPtr shot;
    DisplayTimeline timeline;
};

ReelPage reel_page(const Project& project);

/// Who the page's shot is, among zooms that are kept.
inline constexpr ShotId reel_page_id{0x5265656c};

}
