#include "core/steps/sort/clip_taking.h"

#include "core/base/text.h"
#include "core/project/with_shot.h"

#include <algorithm>
#include <charconv>
#include <map>

namespace frenlo {

namespace {

constexpr std::int64_t many_pictures = 3'000; ///< of a clip are still handled one by one

/// The last picture that has begun by then.
std::int64_t seen_at(const PictureTimes& times, Seconds when)
{
    const auto after = std::upper_bound(times.begins.begin(), times.begins.end(), when);
    return std::max<std::int64_t>(0, after - times.begins.begin() - 1);
}

/// Pictures a second: the clip's rate, or what it has on average.
std::optional<Fraction> rate_of(const PictureTimes& times)
{
    if (times.rate)
        return times.rate->value();
    return times.end.value > Fraction(0) ? std::optional(Fraction(times.count) / times.end.value) : std::nullopt;
}

/// One picture in each step of time; steps that are shorter than a picture take each picture once.
std::vector<std::int64_t> by_time(const PictureTimes& times, Fraction step)
{
    std::vector<std::int64_t> firsts;
    if (times.begins.empty() || step <= Fraction(0))
        return {0};
    for (std::int64_t i = 0;; ++i) {
        const Seconds when{step * Fraction(i)};
        if (when >= times.end && i > 0)
            return firsts;
        if (const auto n = seen_at(times, when); firsts.empty() || n > firsts.back())
            firsts.push_back(n);
    }
}

std::vector<std::int64_t> each_of(std::int64_t count, std::int64_t every)
{
    std::vector<std::int64_t> firsts;
    for (std::int64_t i = 0; i < count; i += std::max<std::int64_t>(1, every))
        firsts.push_back(i);
    return firsts;
}

std::vector<std::int64_t> firsts_of(const PictureTimes& times, const ClipTaking& taking)
{
    switch (taking.way) {
    case TakeWay::all:
        return each_of(times.count, 1);
    case TakeWay::every:
        return each_of(times.count, taking.every);
    case TakeWay::interval:
        return by_time(times, taking.interval.value);
    case TakeWay::speed: {
        const auto rate = rate_of(times);
        return times.begins.empty() || !rate ? each_of(times.count, taking.speed.rounded())
                                             : by_time(times, taking.speed / *rate);
    }
    }
    return {};
}

template <class Number>
std::optional<Number> number_in(std::string_view text)
{
    Number n{};
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), n);
    return error == std::errc() && end == text.data() + text.size() ? std::optional(n) : std::nullopt;
}

/// Animations are thought in lengths, films in a rate.
bool held_by_times(const FoundClip& clip, const ClipTaking& taking)
{
    return taking.way == TakeWay::all && !clip.times->begins.empty() &&
           (!clip.times->rate || clip.file->format != PhotoFormat::clip);
}

}

std::optional<ClipTaking> parse_taking(std::string_view text)
{
    ClipTaking t;
    constexpr std::string_view average = "+average";
    if (text.ends_with(average)) {
        t.average = true;
        text.remove_suffix(average.size());
    }
    if (text == "all")
        return t;
    const auto colon = text.find(':');
    if (colon == std::string_view::npos)
        return std::nullopt;
    const auto way = text.substr(0, colon), value = text.substr(colon + 1);
    if (way == "every") {
        const auto n = number_in<std::int64_t>(value);
        t.way = TakeWay::every;
        t.every = n.value_or(0);
        return n && *n >= 1 && *n <= most_taken_apart ? std::optional(t) : std::nullopt;
    }
    if (way == "interval") {
        const auto hold = parse_hold(value);
        const auto* s = hold ? std::get_if<Seconds>(&*hold) : nullptr;
        if (!s || s->value <= Fraction(0))
            return std::nullopt;
        t.way = TakeWay::interval;
        t.interval = *s;
        return t;
    }
    const auto speed = way == "speed" ? parse_fraction(value) : std::nullopt;
    if (!speed || *speed < Fraction(1) || *speed > Fraction(fastest_clip))
        return std::nullopt;
    t.way = TakeWay::speed;
    t.speed = *speed;
    return t;
}

std::string taking_text(const ClipTaking& t)
{
    const std::string text = t.way == TakeWay::all        ? "all"
                             : t.way == TakeWay::every    ? "every:" + std::to_string(t.every)
                             : t.way == TakeWay::interval ? "interval:" + hold_text(t.interval)
                                                          : "speed:" + t.speed.text();
    return text + (t.average ? "+average" : "");
}

ClipTaking usual_taking(const PictureTimes& times)
{
    ClipTaking t;
    if (times.count > many_pictures) {
        t.way = TakeWay::every;
        t.every = (times.count + many_pictures - 1) / many_pictures;
    }
    return t;
}

std::vector<PickedPicture> picked(const PictureTimes& times, const ClipTaking& taking)
{
    std::vector<PickedPicture> all;
    const auto firsts = firsts_of(times, taking);
    for (std::size_t i = 0; i < firsts.size(); ++i) {
        const std::int64_t next = i + 1 < firsts.size() ? firsts[i + 1] : times.count;
        all.push_back({firsts[i], taking.average ? next - firsts[i] : 1});
    }
    return all;
}

Shot clip_shot(const FoundClip& clip, const ClipTaking& taking)
{
    const PictureTimes& times = *clip.times;
    Shot shot;
    shot.name = shown_path(clip.file->file.stem());
    shot.kind = clip.file->format == PhotoFormat::clip ? ShotKind::time_lapse : ShotKind::unknown;
    shot.steps.set(ShotClip{taking});
    const bool by_times = held_by_times(clip, taking);
    if (!by_times)
        shot.pacing.paced_at = times.rate;
    const auto all = picked(times, taking);
    auto photos = pictures_of(clip.file, times, all);
    shot.photos.reserve(photos.size());
    for (std::size_t i = 0; i < photos.size(); ++i) {
        Hold hold = Frames{1};
        if (by_times) {
            const auto n = std::size_t(all[i].first);
            const Seconds end = n + 1 < times.begins.size() ? times.begins[n + 1] : times.end;
            hold = Seconds{std::min(end.value - times.begins[n].value, Fraction(max_hold_seconds))};
        }
        shot.photos.push_back({std::move(photos[i]), hold});
    }
    return shot;
}

PhotoPtr clip_of(const Shot& shot)
{
    if (shot.photos.empty() || !shot.steps.has<ShotClip>())
        return nullptr;
    const PhotoPtr& first = shot.photos.front().photo;
    const bool all = std::all_of(shot.photos.begin(), shot.photos.end(), [&](const ShotPhoto& p) {
        return is_one_of_several(*p.photo) && p.photo->file == first->file;
    });
    return all && is_one_of_several(*first) ? first : nullptr;
}

Project take_anew(const Project& project, ShotIndex shot, const FoundClip& clip, const ClipTaking& taking)
{
    const Shot& so_far = project.shot(shot);
    if (!clip_of(so_far))
        throw Failure({"\"" + so_far.name + "\" is not made of one clip", {}, "Choose another shot"});
    const Shot fresh = clip_shot(clip, taking);
    std::map<std::pair<std::int64_t, std::int64_t>, std::size_t> known;
    for (std::size_t i = 0; i < so_far.photos.size(); ++i)
        known.emplace(std::pair(so_far.photos[i].photo->picture, so_far.photos[i].photo->averaged), i);
    return with_shot(project, shot, [&](Shot& s) {
        PhotoList photos;
        for (std::size_t i = 0; i < fresh.photos.size(); ++i) {
            const PhotoFile& p = *fresh.photos[i].photo;
            if (const auto k = known.find({p.picture, p.averaged}); k != known.end())
                photos.push_back(so_far.photos.shared(k->second));
            else
                photos.push_back(fresh.photos.shared(i));
        }
        s.photos = std::move(photos);
        for (std::size_t i = 0; i < s.photos.size(); ++i) // its timing is the file's again
            if (s.photos[i].hold != fresh.photos[i].hold)
                s.photos.edit(i).hold = fresh.photos[i].hold;
        s.pacing.paced_at = fresh.pacing.paced_at;
        s.pacing.kept.reset();
        s.steps.set(ShotClip{taking});
        give_ids(s);
    });
}

}
