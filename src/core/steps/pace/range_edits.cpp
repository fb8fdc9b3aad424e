#include "core/steps/pace/range_edits.h"

#include "core/project/exactly.h"
#include "core/project/speed_course.h"
#include "core/steps/pace/with_pacing.h"

#include <algorithm>

namespace frenlo {

Project set_kept(const Project& project, ShotIndex shot, std::optional<KeptRange> kept)
{
    return with_pacing(project, shot, &Pacing::kept, kept);
}

namespace {

/// One plain pass: shown photos of the film, thinned, in the shot's order, those of the range only. Parts that play
/// backwards lie in the shot as all others do.
std::vector<HeldPhoto> one_pass(const Project& project, const Shot& shot, const std::optional<KeptRange>& kept)
{
    Pacing plain;
    plain.paced_at = shot.pacing.paced_at;
    plain.keep_every = shot.pacing.keep_every;
    plain.kept = kept;
    std::vector<HeldPhoto> photos = paced_photos(project, shot);
    for (HeldPhoto& p : photos)
        p.backwards = false;
    return arranged(photos, plain, project.delivered_at).film;
}

}

std::vector<HeldPhoto> to_choose_from(const Project& project, const Shot& shot)
{
    return one_pass(project, shot, std::nullopt);
}

namespace {

PhotoIndex behind_last(const Shot& shot)
{
    return PhotoIndex(std::int64_t(shot.photos.size()));
}

bool is_fixed(const KeptRange& kept)
{
    return !std::holds_alternative<PhotoIndex>(kept.extent);
}

/// The last start from which a fixed length is still filled.
PhotoIndex last_start(const Project& project, const Shot& shot, const KeptRange& kept)
{
    const auto photos = to_choose_from(project, shot);
    if (photos.empty())
        return PhotoIndex(0);
    if (const auto* count = std::get_if<PhotoCount>(&kept.extent))
        return photos[std::size_t(std::max<std::int64_t>(0, std::int64_t(photos.size()) - count->count))].photo;
    if (const auto* length = std::get_if<Seconds>(&kept.extent)) {
        try {
            const Rate paced = pacing_rate(project, shot);
            Fraction left = length->value;
            for (auto p = photos.rbegin(); p != photos.rend(); ++p) {
                left = left - length_of(p->hold, paced).value;
                if (left <= Fraction(0))
                    return p->photo;
            }
        } catch (const std::overflow_error&) {
            too_fine();
        }
        return photos.front().photo;
    }
    return photos.back().photo;
}

}

std::pair<PhotoIndex, PhotoIndex> kept_photos(const Project& project, const Shot& shot)
{
    const auto photos = one_pass(project, shot, shot.pacing.kept);
    if (photos.empty()) {
        const PhotoIndex at = shot.pacing.kept ? std::min(shot.pacing.kept->begin, behind_last(shot)) : PhotoIndex(0);
        return {at, at};
    }
    return {photos.front().photo, photos.back().photo + 1};
}

double missing_at_end(const Project& project, const Shot& shot)
{
    const auto* asked = shot.pacing.kept ? std::get_if<Seconds>(&shot.pacing.kept->extent) : nullptr;
    if (!asked)
        return 0;
    double there = 0; // for people, so it does not need to be exact
    for (const HeldPhoto& p : one_pass(project, shot, shot.pacing.kept))
        there += length_of(p.hold, pacing_rate(project, shot)).value.approx();
    constexpr double nothing = 1e-6;
    const double missing = asked->value.approx() - there;
    return missing > nothing ? missing : 0;
}

Project keep_from(const Project& project, ShotIndex shot, PhotoIndex photo)
{
    const Shot& s = project.shot(shot);
    KeptRange kept = s.pacing.kept.value_or(KeptRange{photo, behind_last(s)});
    if (is_fixed(kept)) {
        kept.begin = std::min(photo, last_start(project, s, kept));
    } else {
        kept.begin = photo;
        if (std::get<PhotoIndex>(kept.extent) <= photo)
            kept.extent = behind_last(s);
    }
    return set_kept(project, shot, kept);
}

Project keep_to(const Project& project, ShotIndex shot, PhotoIndex photo)
{
    const Shot& s = project.shot(shot);
    KeptRange kept = s.pacing.kept.value_or(KeptRange{PhotoIndex(0), behind_last(s)});
    if (!is_fixed(kept)) {
        kept.extent = photo + 1;
        if (kept.begin > photo)
            kept.begin = PhotoIndex(0);
        return set_kept(project, shot, kept);
    }
    // Slid so that it ends with this photo.
    const auto photos = to_choose_from(project, s);
    const auto end = std::find_if(photos.begin(), photos.end(), [&](const HeldPhoto& p) { return p.photo > photo; });
    Shot up_to = s; // the last start that is still filled, were this the last photo
    for (auto p = end; p != photos.end(); ++p)
        up_to.photos.edit(p->photo.at()).aside = true;
    kept.begin = last_start(project, up_to, kept);
    return set_kept(project, shot, kept);
}

namespace {

/// The position of the first photo at or behind this one.
std::int64_t position_of(const std::vector<HeldPhoto>& photos, PhotoIndex photo)
{
    return std::lower_bound(photos.begin(), photos.end(), photo,
                            [](const HeldPhoto& p, PhotoIndex i) { return p.photo < i; }) -
           photos.begin();
}

SlideRoom room_among(const std::vector<HeldPhoto>& photos, const Project& project, const Shot& shot)
{
    if (!shot.pacing.kept || photos.empty())
        return {};
    const KeptRange& kept = *shot.pacing.kept;
    const auto count = std::int64_t(photos.size());
    const std::int64_t begin = std::min(position_of(photos, kept.begin), count - 1);
    if (is_fixed(kept))
        return {begin, std::max<std::int64_t>(0, position_of(photos, last_start(project, shot, kept)) - begin)};
    // A range may lie wholly in what was set aside since: then its end is where it begins.
    return {begin, count - std::clamp(position_of(photos, std::get<PhotoIndex>(kept.extent)), begin + 1, count)};
}

}

SlideRoom slide_room(const Project& project, const Shot& shot)
{
    return room_among(to_choose_from(project, shot), project, shot);
}

Project slide_kept(const Project& project, ShotIndex shot, std::int64_t by)
{
    const Shot& s = project.shot(shot);
    const auto photos = to_choose_from(project, s);
    if (!s.pacing.kept || photos.empty())
        return project;
    const SlideRoom room = room_among(photos, project, s);
    const std::int64_t moved = std::clamp(by, -room.back, room.on);
    KeptRange kept = *s.pacing.kept;
    if (auto* end = std::get_if<PhotoIndex>(&kept.extent)) {
        const std::int64_t to = position_of(photos, *end) + moved;
        *end = to < std::int64_t(photos.size()) ? photos[std::size_t(to)].photo : behind_last(s);
    }
    kept.begin = photos[std::size_t(room.back + moved)].photo;
    return set_kept(project, shot, kept);
}

Project fix_kept(const Project& project, ShotIndex shot, std::optional<std::variant<PhotoCount, Seconds>> extent)
{
    const Shot& s = project.shot(shot);
    if (!extent && !s.pacing.kept)
        return project;
    KeptRange kept = s.pacing.kept.value_or(KeptRange{PhotoIndex(0), behind_last(s)});
    if (!extent) {
        kept.extent = kept_photos(project, s).second;
    } else {
        std::visit([&](const auto& e) { kept.extent = e; }, *extent);
        kept.begin = std::min(kept.begin, last_start(project, s, kept));
    }
    return set_kept(project, shot, kept);
}

}
