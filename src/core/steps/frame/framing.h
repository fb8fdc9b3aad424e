#pragma once
#include "core/picture/step_pictures.h"
#include "core/steps/frame/drift.h"

namespace frenlo {

/// The largest box of this shape in the undressed frame after that was turned and made upright, without a corner beyond
/// it: shares. In its middle, or, where it was made upright, above or below. ratio: width by height in pixels.
cv::Rect2d largest_box(cv::Size2d undressed, double ratio, double straighten, double uprights = 0);

/// What the frame shows where there is no drift.
FrameView still_view(const Framing& framing, cv::Size undressed);

/// The size of the film's frames; nothing where they are as the photos.
std::optional<cv::Size> dressed_size(const Shot& shot, cv::Size undressed);

/// How each frame is dressed; empty where nothing is.
DressFrame dress_frames(const Shot& shot, const Schedule& schedule, const OtherFilms& others = {});

/// What each frame of the film shows, box and turn; for reports and for what is drawn.
std::vector<FrameView> views_of_frames(const Shot& shot, const Schedule& schedule);

/// How many pixels of a film of this size come from one pixel of the photo, where a view is smallest: above 1 the film
/// shows more pixels than there are. size: empty takes the film's own.
double enlargement(const Shot& shot, cv::Size size = {});

}
