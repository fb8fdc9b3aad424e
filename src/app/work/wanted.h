#pragma once
// What the loader should make next, as values and pure functions.
#include "core/timeline/timeline.h"

#include <cstddef>
#include <vector>

namespace frenlo::app {

enum class Quality
{
    camera,  ///< the camera's thumbnail: instant and rough
    preview, ///< from the previews on disk, made when missing
    exact,   ///< from the photo itself: what an export writes
};

/// A picture to have in memory.
struct Wanted
{
    FrameRequest request;
    Quality quality = Quality::preview;
    bool operator==(const Wanted&) const = default;
};

struct WantedHash
{
    std::size_t operator()(const Wanted& w) const { return mixed_hash(hash_of(w.request), std::size_t(w.quality)); }
};

/// What is on the screen and what plays.
struct ViewState
{
    const Shot* shot = nullptr;
    const Timeline* film = nullptr;  ///< of the shot, as it is played
    std::vector<FrameRequest> large; ///< the large picture, and those it is compared with
    FrameIndex playhead;
    bool playing = false;
    cv::Size picture_size; ///< of the large picture, device pixels
    bool can_play = false; ///< in a step with a player: what plays next is got ready while it stands
    FrameIndex play_begin; ///< the frames that are played, [play_begin, play_end)
    FrameIndex play_end;
    std::size_t playing_budget = 160u << 20; ///< bytes that pictures for playing may take, of four a pixel
    std::vector<PhotoIndex> visible;         ///< tiles on the screen, in reading order
    std::vector<PhotoIndex> near;            ///< tiles a page away
    cv::Size tile_size;                      ///< device pixels, box
};

/// What to have in memory, the most urgent first: the large picture (exact when it stands still), the frames that play
/// next, the tiles that are seen (first rough, then fine), the tiles that a scroll would show. While it stands, what
/// plays next comes last: the first pass then plays in time.
std::vector<Wanted> plan_loads(const ViewState& s);

/// All photos of the shot, those nearest to this one first: the order in which previews are put on disk.
std::vector<PhotoPtr> preparing_order(const Shot& shot, PhotoIndex around);

/// The request for a tile: uncropped, at most as large as the box.
FrameRequest tile_request(const Shot& shot, PhotoIndex photo, cv::Size box);

}
