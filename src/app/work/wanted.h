#pragma once
// What the loader should make next, as values and pure functions.
#include "core/render/picture.h"

#include <cstddef>
#include <vector>

namespace frenlo::app {

enum class Quality {
    camera, ///< the camera's thumbnail: instant and rough
    preview, ///< from the previews on disk, made when missing
    exact, ///< from the photo itself: what an export writes
};

/// A picture to have in memory.
struct Wanted
{
    PictureRequest request;
    Quality quality = Quality::preview;
    bool operator==(const Wanted& o) const
    {
        return quality == o.quality && request == o.request;
    }
};

struct WantedHash
{
    std::size_t operator()(const Wanted& w) const noexcept;
};

/// What is on the screen and what plays.
struct Situation
{
    const Shot* shot = nullptr;
    const Schedule* schedule = nullptr;
    PhotoIndex shown{-1}; ///< large
    PhotoIndex also{-1}; ///< large too, in a moment: blinking
    FrameIndex playhead;
    bool playing = false;
    cv::Size picture_size; ///< of the large picture, device pixels
    int ahead = 48; ///< frames to have ready when playing
    std::vector<PhotoIndex> visible; ///< tiles on the screen, in reading order
    std::vector<PhotoIndex> near; ///< tiles a page away
    cv::Size tile_size; ///< device pixels, box
};

/// What to have in memory, the most urgent first: the large picture (exact when it stands still), the frames that play
/// next, the tiles that are seen (first rough, then fine), the tiles that a scroll would show.
std::vector<Wanted> what_is_wanted(const Situation& s);

/// All photos of the shot, those nearest to this one first: the order in which previews are put on disk.
std::vector<PhotoPtr> preparing_order(const Shot& shot, PhotoIndex around);

/// The request for a tile: uncropped, at most as large as the box.
PictureRequest tile_request(const Shot& shot, PhotoIndex photo, cv::Size box);

}
