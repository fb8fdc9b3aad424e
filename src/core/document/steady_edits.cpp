#include "core/document/steady_edits.h"

#include "core/document/with_shot.h"
#include "core/steady/crop.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

ToMeasure to_measure(const Shot& shot)
{
    ToMeasure m;
    for (const HeldPhoto& held : held_photos(shot)) {
        const ShotPhoto& p = shot.photos[held.photo.at()];
        m.photos.push_back({p.photo, p.turns, p.what_there_is ? Damage::accept : Damage::refuse});
        m.at.push_back(held.photo);
    }
    return m;
}

std::optional<PhotoIndex> reference_photo(const Shot& shot)
{
    const auto at = std::find_if(shot.photos.begin(), shot.photos.end(), [](const ShotPhoto& p) {
        return p.alignment && p.alignment->reference;
    });
    return at == shot.photos.end() ? std::nullopt : std::optional(PhotoIndex(at - shot.photos.begin()));
}

namespace {

/// Whole pixels of the reference photo; none shrinks to nothing.
cv::Rect frame_for(const Shot& shot, cv::Size size, bool cropped)
{
    const cv::Rect whole({0, 0}, size);
    if (!cropped)
        return whole;
    std::vector<Transform> sure;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (const auto& a = shot.photos[i].alignment; a && shown[i] && a->doubt.empty())
            sure.push_back(a->from_reference);
    const cv::Rect2d box = largest_box(seen_by_all(sure, size), double(size.width) / size.height);
    // Box edges are half a pixel before pixel centres; a hair is no reason to lose a row.
    constexpr double hair = 1e-6;
    const int left = int(std::ceil(box.x + 0.5 - hair)), top = int(std::ceil(box.y + 0.5 - hair));
    const int right = int(std::floor(box.br().x + 0.5 + hair)), bottom = int(std::floor(box.br().y + 0.5 + hair));
    const cv::Rect frame(left, top, right - left, bottom - top);
    return frame.width < 2 || frame.height < 2 ? whole : frame & whole;
}

}

Project hold_still(const Project& project, ShotIndex shot, const ToMeasure& measured, const HeldStill& result, Movement movement,
                   bool cropped)
{
    return with_shot(project, shot, [&](Shot& s) {
        for (ShotPhoto& p : s.photos)
            p.alignment.reset();
        for (std::size_t i = 0; i < measured.at.size(); ++i)
            s.photos.at(measured.at[i].at()).alignment = result.photos.at(i);
        const cv::Size size = seen_size(s.photos[measured.at.at(result.reference).at()]);
        s.steady = Steadying{movement, frame_for(s, size, cropped), cropped};
    });
}

Project set_steady_crop(const Project& project, ShotIndex shot, bool cropped)
{
    return with_shot(project, shot, [&](Shot& s) {
        const auto reference = reference_photo(s);
        if (!s.steady || !reference)
            return;
        s.steady->cropped = cropped;
        s.steady->frame = frame_for(s, seen_size(s.photos[reference->at()]), cropped);
    });
}

Project nudge_photo(const Project& project, ShotIndex shot, PhotoIndex photo, cv::Point2d by)
{
    return with_shot(project, shot, [&](Shot& s) {
        auto& alignment = s.photos.at(photo.at()).alignment;
        if (!s.steady || !alignment || alignment->reference)
            return;
        // What is to appear further right is looked for further left.
        alignment->from_reference = alignment->from_reference * Transform(1, 0, -by.x, 0, 1, -by.y, 0, 0, 1);
        alignment->doubt.clear();
        if (const auto reference = reference_photo(s))
            s.steady->frame = frame_for(s, seen_size(s.photos[reference->at()]), s.steady->cropped);
    });
}

Project as_shot(const Project& project, ShotIndex shot)
{
    return with_shot(project, shot, [](Shot& s) {
        s.steady.reset();
        for (ShotPhoto& p : s.photos)
            p.alignment.reset();
    });
}

}
