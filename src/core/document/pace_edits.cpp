#include "core/document/pace_edits.h"

#include "core/base/problem.h"
#include "core/document/with_shot.h"

#include <algorithm>
#include <stdexcept>

namespace frenlo {

namespace {

/// Changes one member of a shot's pacing.
template <class Member, class Value>
Project with_pacing(const Project& project, ShotIndex shot, Member member, Value value)
{
    return with_shot(project, shot, [&](Shot& s) { s.pacing.*member = value; });
}

[[noreturn]] void too_fine()
{
    throw Failure({"the holds would be too fine to be kept exactly", {}, "Set them anew, in frames or seconds"});
}

/// The length as a hold: in frames where it is whole frames of the pacing rate.
Hold hold_for(Fraction seconds, Rate paced)
{
    constexpr std::int64_t finest = 1'000'000'000'000; // of a second; such holds still add up in 64 bits
    if (seconds > Fraction(max_hold_seconds))
        throw Failure({"a photo would be held for more than an hour", {}, "Choose a shorter length"});
    if (seconds.den() > finest)
        too_fine();
    const Fraction frames = seconds * paced.value();
    if (frames.den() == 1 && frames.num() <= max_hold_frames)
        return Frames{frames.num()};
    return Seconds{seconds};
}

/// These of the photos that are in the film and shown, in the shot's order.
std::vector<HeldPhoto> shown_of(const Shot& shot, std::span<const PhotoIndex> photos)
{
    std::vector<bool> asked(shot.photos.size(), false);
    for (const PhotoIndex p : photos)
        asked.at(p.at()) = true;
    std::vector<HeldPhoto> held = held_photos(shot);
    std::erase_if(held, [&](const HeldPhoto& h) { return !asked[h.photo.at()] || !is_shown(h.hold); });
    return held;
}

Project scaled(const Project& project, ShotIndex shot, const std::vector<HeldPhoto>& photos, Fraction factor)
{
    const Rate paced = pacing_rate(project, project.shot(shot));
    return with_shot(project, shot, [&](Shot& s) {
        for (const HeldPhoto& p : photos)
            s.photos.edit(p.photo.at()).hold = hold_for(length_of(p.hold, paced).value * factor, paced);
    });
}

Rate scaled_rate(Rate paced, Fraction slower)
{
    const Fraction rate = paced.value() / slower;
    const auto known = parse_rate(rate.text());
    if (!known)
        throw Failure({"the pacing rate of a shot would become " + rate.text() + " frames a second", {},
                       "Keep the same clock time, or set another pacing rate first"});
    return Rate(rate);
}

template <class Work>
Project exactly(Work work)
{
    try {
        return work();
    } catch (const std::overflow_error&) {
        too_fine();
    }
}

}

Project set_hold(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, Hold hold)
{
    return with_shot(project, shot, [&](Shot& s) {
        for (const PhotoIndex i : photos)
            s.photos.edit(i.at()).hold = hold;
    });
}

Project lengthen(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, std::int64_t frames)
{
    const Fraction one = length_of(1, project.delivered_at).value;
    return exactly([&] {
        return with_shot(project, shot, [&](Shot& s) {
            for (const PhotoIndex i : photos) {
                Hold& hold = s.photos.edit(i.at()).hold;
                if (!is_shown(hold))
                    continue;
                if (auto* f = std::get_if<Frames>(&hold))
                    f->count = std::clamp<std::int64_t>(f->count + frames, 1, max_hold_frames);
                else
                    hold = Seconds{std::clamp(std::get<Seconds>(hold).value + one * Fraction(frames), one,
                                              Fraction(max_hold_seconds))};
            }
        });
    });
}

Project set_first_hold(const Project& project, ShotIndex shot, std::optional<Hold> hold)
{
    return with_pacing(project, shot, &Pacing::first_hold, hold);
}

Project set_last_hold(const Project& project, ShotIndex shot, std::optional<Hold> hold)
{
    return with_pacing(project, shot, &Pacing::last_hold, hold);
}

Project spread_over(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, Seconds length)
{
    return exactly([&] {
        const Shot& before = project.shot(shot);
        const auto shown = shown_of(before, photos);
        const auto count = std::int64_t(shown.size());
        const Rate paced = pacing_rate(project, before);
        // Frames of the pacing rate where they make up the length, else of the delivery rate.
        const Rate unit = (length.value * paced.value()).den() == 1 ? paced : project.delivered_at;
        const std::int64_t frames = (length.value * unit.value()).rounded();
        return with_shot(project, shot, [&](Shot& s) {
            for (std::int64_t i = 0; i < count; ++i) {
                const auto end = [&](std::int64_t n) { return Fraction(n * frames, count).rounded(); };
                const Fraction hold = frames < count ? length.value / Fraction(count)
                                                     : length_of(end(i + 1) - end(i), unit).value;
                s.photos.edit(shown[std::size_t(i)].photo.at()).hold = hold_for(hold, paced);
            }
        });
    });
}

Seconds length_of_photos(const Project& project, const Shot& shot, std::span<const PhotoIndex> photos)
{
    try {
        return total_of(shown_of(shot, photos), pacing_rate(project, shot));
    } catch (const std::overflow_error&) {
        too_fine();
    }
}

Project fit_to(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, Seconds length)
{
    return exactly([&] {
        const Seconds now = length_of_photos(project, project.shot(shot), photos);
        if (now.value == Fraction(0))
            return project;
        return scaled(project, shot, shown_of(project.shot(shot), photos), length.value / now.value);
    });
}

Project change_speed(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, Fraction speed)
{
    return exactly([&] { return scaled(project, shot, shown_of(project.shot(shot), photos), Fraction(1) / speed); });
}

Project deliver_at(const Project& project, Rate rate, RateIntent intent)
{
    if (rate == project.delivered_at)
        return project;
    return exactly([&] {
        Project result = project;
        result.delivered_at = rate;
        const Fraction slower = project.delivered_at.value() / rate.value(); // of clock time
        for (auto& shot : result.shots) {
            auto now = std::make_shared<Shot>(*shot);
            Pacing& pacing = now->pacing;
            if (intent == RateIntent::same_clock_time) {
                if (!pacing.paced_at)
                    pacing.paced_at = project.delivered_at;
            } else {
                if (pacing.paced_at)
                    pacing.paced_at = scaled_rate(*pacing.paced_at, slower);
                const auto slow = [&](Hold& hold) {
                    if (auto* s = std::get_if<Seconds>(&hold))
                        s->value = s->value * slower;
                };
                now->photos.edit_all([&](ShotPhoto& p) { slow(p.hold); });
                for (auto* end : {&pacing.first_hold, &pacing.last_hold})
                    if (*end)
                        slow(**end);
            }
            if (pacing.paced_at == rate)
                pacing.paced_at.reset();
            if (!(*now == *shot))
                shot = std::move(now);
        }
        return result;
    });
}

Project set_delivered_at(const Project& project, Rate rate)
{
    Project result = project;
    result.delivered_at = rate;
    return result;
}

Project set_paced_at(const Project& project, ShotIndex shot, std::optional<Rate> rate)
{
    return with_pacing(project, shot, &Pacing::paced_at, rate);
}

Project set_between(const Project& project, ShotIndex shot, Between between)
{
    return with_pacing(project, shot, &Pacing::between, between);
}

Project set_kept(const Project& project, ShotIndex shot, std::optional<KeptRange> kept)
{
    return with_pacing(project, shot, &Pacing::kept, kept);
}

namespace {

/// One plain pass: shown photos of the film, thinned, in the shot's order, those of the range only.
std::vector<HeldPhoto> one_pass(const Project& project, const Shot& shot, const std::optional<KeptRange>& kept)
{
    Pacing plain;
    plain.paced_at = shot.pacing.paced_at;
    plain.keep_every = shot.pacing.keep_every;
    plain.kept = kept;
    return arranged(held_photos(shot), plain, project.delivered_at).film;
}

/// What a range is taken out of.
std::vector<HeldPhoto> to_choose_from(const Project& project, const Shot& shot)
{
    return one_pass(project, shot, std::nullopt);
}

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
    return std::lower_bound(photos.begin(), photos.end(), photo, [](const HeldPhoto& p, PhotoIndex i) { return p.photo < i; }) -
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
    return {begin, count - position_of(photos, std::get<PhotoIndex>(kept.extent))};
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

Project keep_as_version(const Project& project, ShotIndex shot)
{
    auto version = std::make_shared<Shot>(project.shot(shot));
    version->name = free_name(project, version->name);
    Project result = project;
    result.shots.insert(result.shots.begin() + shot.value + 1, std::move(version));
    return result;
}

Project set_keep_every(const Project& project, ShotIndex shot, int every)
{
    return with_pacing(project, shot, &Pacing::keep_every, std::max(1, every));
}

Project set_backwards(const Project& project, ShotIndex shot, bool backwards)
{
    return with_pacing(project, shot, &Pacing::backwards, backwards);
}

Project set_there_and_back(const Project& project, ShotIndex shot, Return back)
{
    return with_pacing(project, shot, &Pacing::there_and_back, back);
}

Project set_times(const Project& project, ShotIndex shot, int times, std::optional<Seconds> at_least)
{
    return with_shot(project, shot, [&](Shot& s) {
        s.pacing.times = std::clamp(times, 1, most_times);
        s.pacing.at_least = at_least;
    });
}

Project toggle_mark(const Project& project, ShotIndex shot, PhotoIndex photo)
{
    return with_shot(project, shot, [&](Shot& s) { s.photos.edit(photo.at()).marked = !s.photos.at(photo.at()).marked; });
}

Project clear_marks(const Project& project, ShotIndex shot)
{
    return with_shot(project, shot, [](Shot& s) {
        s.photos.edit_all([](ShotPhoto& p) { p.marked = false; });
    });
}

std::vector<PhotoIndex> marked_photos(const Shot& shot)
{
    std::vector<PhotoIndex> marked;
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (shot.photos[i].marked)
            marked.emplace_back(std::int64_t(i));
    return marked;
}

Project set_aside_at_marks(const Project& project, ShotIndex shot, std::int64_t photos)
{
    const auto film = to_choose_from(project, project.shot(shot));
    return with_shot(project, shot, [&](Shot& s) {
        for (const PhotoIndex mark : marked_photos(s)) {
            auto at = std::find_if(film.begin(), film.end(), [&](const HeldPhoto& p) { return p.photo >= mark; });
            for (std::int64_t n = 0; n < photos && at != film.end(); ++n, ++at)
                s.photos.edit(at->photo.at()).aside = true;
            s.photos.edit(mark.at()).marked = false;
        }
    });
}

}
