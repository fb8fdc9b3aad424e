#include "app/work/wanted.h"

#include <algorithm>
#include <set>

namespace frenlo::app {

std::size_t WantedHash::operator()(const Wanted& w) const noexcept
{
    std::size_t h = std::hash<const void*>{}(w.request.photo.get());
    for (const int v : {w.request.size.width, w.request.size.height, int(w.quality), int(w.request.fit), w.request.turns, int(w.request.damage),
                        w.request.backdrop[0] << 16 | w.request.backdrop[1] << 8 | w.request.backdrop[2]})
        h = h * 1'000'003 + std::size_t(v);
    return h;
}

PictureRequest tile_request(const Shot& shot, PhotoIndex photo, cv::Size box)
{
    return request_for_photo(shot, photo, fitted(seen_size(shot.photos.at(photo.at())), box));
}

namespace {

bool usable(const Shot& shot, PhotoIndex photo)
{
    return photo.value >= 0 && photo.at() < shot.photos.size() && !shot.photos[photo.at()].photo->size.empty();
}

void want_playing(const Situation& s, std::vector<Wanted>& wanted)
{
    if (!s.schedule || s.schedule->frames() == 0)
        return;
    std::set<PhotoIndex> taken;
    const std::int64_t frames = s.schedule->frames();
    for (std::int64_t i = 0; i < std::min<std::int64_t>(s.ahead, frames); ++i) {
        const PhotoIndex p = s.schedule->photo_at(FrameIndex((s.playhead.value + i) % frames));
        if (taken.insert(p).second && usable(*s.shot, p))
            wanted.push_back({request_for_photo(*s.shot, p, s.picture_size), Quality::preview});
    }
}

void want_tiles(const Situation& s, const std::vector<PhotoIndex>& tiles, Quality quality, std::vector<Wanted>& wanted)
{
    for (const PhotoIndex p : tiles)
        if (usable(*s.shot, p))
            wanted.push_back({tile_request(*s.shot, p, s.tile_size), quality});
}

}

std::vector<Wanted> what_is_wanted(const Situation& s)
{
    std::vector<Wanted> wanted;
    if (!s.shot)
        return wanted;
    const bool larger_than_previews = std::max(s.picture_size.width, s.picture_size.height) > 2 * preview_side;
    if (usable(*s.shot, s.shown) && !s.picture_size.empty() && !larger_than_previews)
        wanted.push_back({request_for_photo(*s.shot, s.shown, s.picture_size), Quality::preview});
    if (s.playing && !s.picture_size.empty())
        want_playing(s, wanted);
    if (!s.playing)
        want_tiles(s, s.visible, Quality::camera, wanted);
    want_tiles(s, s.visible, Quality::preview, wanted);
    if (!s.playing) {
        for (const PhotoIndex p : {s.shown, s.also})
            if (usable(*s.shot, p) && !s.picture_size.empty())
                wanted.push_back({request_for_photo(*s.shot, p, s.picture_size), Quality::exact});
        want_tiles(s, s.near, Quality::preview, wanted);
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
