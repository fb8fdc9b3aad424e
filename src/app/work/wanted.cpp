#include "app/work/wanted.h"

#include <algorithm>
#include <array>
#include <unordered_set>

namespace frenlo::app {

FrameRequest tile_request(const Shot& shot, PhotoIndex photo, cv::Size box)
{
    return request_for_photo(shot, photo, fitted(seen_size(shot.photos.at(photo.at())), box));
}

namespace {

bool usable(const Shot& shot, PhotoIndex photo)
{
    return photo.value >= 0 && photo.at() < shot.photos.size() && !shot.photos[photo.at()].photo->size.empty();
}

bool readable(const FrameRequest& r)
{
    const PhotoPtr photo = r.photo();
    return photo && !photo->size.empty() && !r.size.empty();
}

void want_playing(const ViewState& s, std::vector<Wanted>& wanted)
{
    const std::int64_t frames = s.play_end - s.play_begin;
    if (!s.film || frames <= 0 || s.picture_size.empty())
        return;
    const auto cost = std::size_t(s.picture_size.area()) * 4;
    const std::size_t most = std::max<std::size_t>(8, s.playing_budget / cost);
    const bool inside = s.playhead >= s.play_begin && s.playhead < s.play_end;
    const std::int64_t first = inside ? s.playhead - s.play_begin : 0;
    std::unordered_set<Wanted, WantedHash> taken;
    constexpr std::int64_t farthest = 3'000; // frames: of long holds a few pictures last for minutes
    for (std::int64_t i = 0; i < std::min(frames, farthest) && taken.size() < most; ++i) {
        const FrameIndex frame = s.play_begin + (first + i) % frames;
        Wanted w{s.film->frame(frame, {.size = s.picture_size}), Quality::preview};
        if (readable(w.request) && taken.insert(w).second)
            wanted.push_back(std::move(w));
    }
}

void want_tiles(const ViewState& s, const std::vector<PhotoIndex>& tiles, Quality quality, std::vector<Wanted>& wanted)
{
    for (const PhotoIndex p : tiles)
        if (usable(*s.shot, p))
            wanted.push_back({tile_request(*s.shot, p, s.tile_size), quality});
}

}

std::vector<Wanted> plan_loads(const ViewState& s)
{
    std::vector<Wanted> wanted;
    if (!s.shot)
        return wanted;
    const bool larger_than_previews = std::max(s.picture_size.width, s.picture_size.height) > 2 * preview_side;
    if (!s.large.empty() && readable(s.large.front()) && !larger_than_previews) {
        if (!s.playing && s.large.front().parts.size() == 1) // at once, where the preview must be made first
            wanted.push_back({s.large.front(), Quality::camera});
        wanted.push_back({s.large.front(), Quality::preview});
    }
    if (s.playing)
        want_playing(s, wanted);
    if (!s.playing)
        want_tiles(s, s.visible, Quality::camera, wanted);
    want_tiles(s, s.visible, Quality::preview, wanted);
    if (!s.playing) {
        for (const FrameRequest& request : s.large)
            if (readable(request))
                wanted.push_back({request, Quality::exact});
        want_tiles(s, s.near, Quality::preview, wanted);
        if (s.can_play && !larger_than_previews)
            want_playing(s, wanted);
    }
    return wanted;
}

std::vector<PhotoPtr> preparing_order(const Shot& shot, PhotoIndex around)
{
    std::vector<std::int64_t> order;
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (usable(shot, PhotoIndex(std::int64_t(i))))
            order.push_back(std::int64_t(i));
    std::stable_sort(order.begin(), order.end(), [&](std::int64_t a, std::int64_t b) {
        return std::abs(a - around.value) < std::abs(b - around.value);
    });
    std::vector<PhotoPtr> photos;
    photos.reserve(order.size());
    for (const auto i : order)
        photos.push_back(shot.photos[std::size_t(i)].photo);
    return photos;
}

}
