#include "core/steps/reel/reel_edits.h"

#include "core/project/with_shot.h"
#include "core/sound/sound_mix.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

const Fraction slowest(1, most_reel_speed), fastest(most_reel_speed);
const Fraction least_tempo(1, 2), most_tempo(2);
constexpr std::int64_t longest_join = 60; ///< seconds
constexpr std::int64_t longest_item = 86'400;

/// With all items written down, those that are there by themselves among them.
Reel written_down(const Project& project)
{
    Reel reel = project.reel;
    reel.items = reel_items(project);
    return reel;
}

Project with_reel(const Project& project, Reel reel)
{
    Project result = project;
    result.reel = std::move(reel);
    return result;
}

auto place_of(std::vector<ReelItem>& items, ReelItemId id)
{
    return std::find_if(items.begin(), items.end(), [&](const ReelItem& i) { return i.id == id; });
}

auto place_of(std::vector<Sound>& sounds, SoundId id)
{
    return std::find_if(sounds.begin(), sounds.end(), [&](const Sound& s) { return s.id == id; });
}

/// Shots that no item shows any more stay out, instead of coming back at the end.
void leave_out_unused(const Project& project, Reel& reel)
{
    reel.left_out.clear();
    for (const ShotPtr& shot : project.shots)
        if (shot->parts.empty() &&
            std::none_of(reel.items.begin(), reel.items.end(), [&](const ReelItem& i) { return i.shot == shot->id; }))
            reel.left_out.push_back(shot->id);
}

void put_right(Sound& s)
{
    const Fraction least(1, 1000);
    s.file_length.value = std::max(s.file_length.value, least);
    s.begin.value = std::clamp(s.begin.value, Fraction(0), s.file_length.value - least);
    s.end.value = std::clamp(s.end.value, s.begin.value + least, s.file_length.value);
    s.at.value = std::max(s.at.value, Fraction(0));
    s.tempo = std::clamp(s.tempo, least_tempo, most_tempo);
    s.level_db = std::clamp(s.level_db, least_level_db, most_level_db);
    if (s.lasts && *s.lasts <= Seconds{(s.end.value - s.begin.value) / s.tempo})
        s.lasts.reset(); // it is over before it goes round
    s.fade_in.value = std::clamp(s.fade_in.value, Fraction(0), s.length().value);
    s.fade_out.value = std::clamp(s.fade_out.value, Fraction(0), s.length().value - s.fade_in.value);
}

}

Project change_reel(const Project& project, const std::function<void(Reel&)>& change)
{
    Reel reel = project.reel;
    change(reel);
    if (reel.sound.loudness)
        reel.sound.loudness = std::clamp(*reel.sound.loudness, -70.0, 0.0);
    std::sort(reel.sound.beats.begin(), reel.sound.beats.end());
    return with_reel(project, std::move(reel));
}

Project set_reel(const Project& project, std::span<const ShotId> shots)
{
    Reel reel = written_down(project);
    std::vector<ReelItem> before = std::move(reel.items);
    reel.items.clear();
    for (const ShotId shot : shots) {
        // An item that was there keeps its speed, range and join.
        const auto same = std::find_if(before.begin(), before.end(), [&](const ReelItem& i) { return i.shot == shot; });
        if (same != before.end()) {
            reel.items.push_back(*same);
            before.erase(same);
        } else if (project.find_shot(shot)) {
            reel.items.push_back({.id = ReelItemId::fresh(), .shot = shot});
        }
    }
    leave_out_unused(project, reel);
    return with_reel(project, std::move(reel));
}

Project add_to_reel(const Project& project, ShotId shot, std::optional<ReelItemId> before)
{
    if (!project.find_shot(shot))
        return project;
    Reel reel = written_down(project);
    const auto at = before ? place_of(reel.items, *before) : reel.items.end();
    reel.items.insert(at, {.id = ReelItemId::fresh(), .shot = shot});
    leave_out_unused(project, reel);
    return with_reel(project, std::move(reel));
}

Project remove_from_reel(const Project& project, ReelItemId item)
{
    Reel reel = written_down(project);
    const auto at = place_of(reel.items, item);
    if (at == reel.items.end())
        return project;
    reel.items.erase(at);
    leave_out_unused(project, reel);
    return with_reel(project, std::move(reel));
}

Project move_in_reel(const Project& project, ReelItemId item, std::optional<ReelItemId> before)
{
    Reel reel = written_down(project);
    const auto at = place_of(reel.items, item);
    if (at == reel.items.end() || before == item)
        return project;
    const ReelItem moved = *at;
    reel.items.erase(at);
    reel.items.insert(before ? place_of(reel.items, *before) : reel.items.end(), moved);
    return with_reel(project, std::move(reel));
}

Project change_reel_item(const Project& project, ReelItemId item, const std::function<void(ReelItem&)>& change)
{
    Reel reel = written_down(project);
    const auto at = place_of(reel.items, item);
    if (at == reel.items.end())
        return project;
    change(*at);
    at->id = item;
    at->speed = std::clamp(at->speed, slowest, fastest);
    at->join.length.value = std::clamp(at->join.length.value, Fraction(0), Fraction(longest_join));
    if (at->lasts)
        at->lasts->value = std::clamp(at->lasts->value, Fraction(1, 1000), Fraction(longest_item));
    return reel.items == reel_items(project) ? project : with_reel(project, std::move(reel));
}

Project set_marker(const Project& project, Seconds at, const std::string& text)
{
    return change_reel(project, [&](Reel& reel) {
        std::erase_if(reel.markers, [&](const ReelMarker& m) { return m.at == at; });
        if (!text.empty())
            reel.markers.push_back({at, text});
        std::sort(reel.markers.begin(), reel.markers.end(),
                  [](const ReelMarker& a, const ReelMarker& b) { return a.at < b.at; });
    });
}

Project add_sound(const Project& project, Sound sound)
{
    sound.id = SoundId::fresh();
    put_right(sound);
    return change_reel(project, [&](Reel& reel) { reel.sound.sounds.push_back(std::move(sound)); });
}

Project remove_sound(const Project& project, SoundId sound)
{
    return change_reel(
        project, [&](Reel& reel) { std::erase_if(reel.sound.sounds, [&](const Sound& s) { return s.id == sound; }); });
}

Project change_sound(const Project& project, SoundId sound, const std::function<void(Sound&)>& change)
{
    return change_reel(project, [&](Reel& reel) {
        const auto at = place_of(reel.sound.sounds, sound);
        if (at == reel.sound.sounds.end())
            return;
        change(*at);
        at->id = sound;
        put_right(*at);
    });
}

Project split_sound(const Project& project, SoundId sound, Seconds at)
{
    return change_reel(project, [&](Reel& reel) {
        const auto first = place_of(reel.sound.sounds, sound);
        if (first == reel.sound.sounds.end() || at <= first->at || at >= first->until() || first->lasts)
            return;
        Sound second = *first;
        const Fraction into = (at.value - first->at.value) * first->tempo;
        first->end.value = first->begin.value + into;
        first->fade_out = {};
        second.id = SoundId::fresh();
        second.begin = first->end;
        second.at = at;
        second.fade_in = {};
        put_right(*first);
        put_right(second);
        reel.sound.sounds.insert(first + 1, std::move(second));
    });
}

Project cross_fade(const Project& project, SoundId a, SoundId b)
{
    return change_reel(project, [&](Reel& reel) {
        auto first = place_of(reel.sound.sounds, a), second = place_of(reel.sound.sounds, b);
        if (first == reel.sound.sounds.end() || second == reel.sound.sounds.end() || first == second)
            return;
        if (second->at < first->at)
            std::swap(first, second);
        const Fraction common = first->until().value - second->at.value;
        if (common <= Fraction(0) || second->until() <= first->until())
            return;
        first->fade_out.value = common;
        second->fade_in.value = common;
        put_right(*first);
        put_right(*second);
    });
}

std::int64_t reel_sound_frames(const Project& project)
{
    return (sound_length(project.reel.sound).value * project.delivered_at.value()).rounded();
}

ReelLengths reel_lengths(const Project& project)
{
    return {reel_of(project)->frames(), reel_sound_frames(project)};
}

namespace {

/// Each part as long as before times the same, rounded so that all of them are exactly this long.
std::optional<Project> fitted_picture(const Project& project, std::int64_t frames)
{
    const auto film = reel_of(project);
    const auto parts = film->parts();
    if (frames < std::int64_t(parts.size()))
        return std::nullopt;
    Project result = project;
    for (const ReelPart& part : parts) {
        const auto at = [&](FrameIndex f) { return (Fraction(f.value) * Fraction(frames, film->frames())).rounded(); };
        const std::int64_t wanted = std::max<std::int64_t>(1, at(part.frames.end) - at(part.frames.begin));
        const Fraction speed(part.page->kept_end - part.page->kept_begin, wanted);
        if (speed < slowest || speed > fastest)
            return std::nullopt;
        result = change_reel_item(result, part.item.id, [&](ReelItem& i) {
            i.speed = speed;
            i.lasts.reset();
        });
    }
    return reel_of(result)->frames() == frames ? std::optional(result) : std::nullopt;
}

std::optional<Project> repeated_last(const Project& project, std::int64_t frames)
{
    const auto film = reel_of(project);
    const ReelPart& last = film->parts().back();
    constexpr std::int64_t most_repeats = 1'000;
    const std::int64_t times = (frames - film->frames() + last.frames.frames() - 1) / last.frames.frames();
    if (times < 1 || times > most_repeats)
        return std::nullopt;
    Reel reel = written_down(project);
    for (std::int64_t i = 0; i < times; ++i) {
        ReelItem again = last.item;
        again.id = ReelItemId::fresh();
        reel.items.push_back(again);
    }
    return with_reel(project, std::move(reel));
}

std::optional<Project> held_last(const Project& project, std::int64_t frames)
{
    const auto film = reel_of(project);
    const ReelPart& last = film->parts().back();
    const std::int64_t wanted = frames - last.frames.begin.value;
    if (wanted < 1)
        return std::nullopt;
    return change_reel_item(project, last.item.id,
                            [&](ReelItem& i) { i.lasts = length_of(wanted, project.delivered_at); });
}

/// The sound that is heard last.
const Sound* last_sound(const Project& project)
{
    const Sound* last = nullptr;
    for (const Sound& s : project.reel.sound.sounds)
        if (!s.muted && (!last || s.until() > last->until()))
            last = &s;
    return last;
}

/// No sound is heard behind this time.
Project cut_at(const Project& project, Seconds end, Seconds fade)
{
    Project result = project;
    for (const Sound& sound : project.reel.sound.sounds) {
        if (sound.muted || sound.until() <= end)
            continue;
        if (sound.at >= end) {
            result = change_sound(result, sound.id, [](Sound& s) { s.muted = true; });
            continue;
        }
        result = change_sound(result, sound.id, [&](Sound& s) {
            const Fraction left = end.value - s.at.value;
            if (s.lasts)
                s.lasts->value = left;
            if (!s.lasts || left * s.tempo < s.end.value - s.begin.value) {
                s.lasts.reset();
                s.end.value = s.begin.value + left * s.tempo;
            }
            s.fade_out.value = std::min(fade.value, left);
        });
    }
    return result;
}

}

std::optional<Project> with_remedy(const Project& project, LengthRemedy remedy)
{
    const ReelLengths now = reel_lengths(project);
    const Sound* last = last_sound(project);
    if (now.picture == 0 || !last || now.picture == now.sound)
        return std::nullopt;
    const Seconds picture = length_of(now.picture, project.delivered_at);
    const bool picture_longer = now.picture > now.sound;
    switch (remedy) {
    case LengthRemedy::fit_picture:
        return fitted_picture(project, now.sound);
    case LengthRemedy::repeat_shot:
        return picture_longer ? std::nullopt : repeated_last(project, now.sound);
    case LengthRemedy::hold_last:
        return held_last(project, now.sound);
    case LengthRemedy::cut_sound:
        return picture_longer ? std::nullopt : std::optional(cut_at(project, picture, Seconds{}));
    case LengthRemedy::fade_sound:
        return picture_longer ? std::nullopt : std::optional(cut_at(project, picture, Seconds{Fraction(2)}));
    case LengthRemedy::loop_sound:
        if (!picture_longer)
            return std::nullopt;
        return change_sound(project, last->id, [&](Sound& s) { s.lasts = Seconds{picture.value - s.at.value}; });
    case LengthRemedy::change_tempo:
        break;
    }
    const Fraction wanted = picture.value - last->at.value;
    if (last->lasts || wanted <= Fraction(0))
        return std::nullopt;
    const Fraction tempo = (last->end.value - last->begin.value) / wanted;
    if (tempo < least_tempo || tempo > most_tempo)
        return std::nullopt;
    return change_sound(project, last->id, [&](Sound& s) { s.tempo = tempo; });
}

Project cuts_to_beats(const Project& project)
{
    std::vector<std::int64_t> beats;
    for (const Seconds beat : project.reel.sound.beats)
        beats.push_back((beat.value * project.delivered_at.value()).rounded());
    Project result = project;
    const std::size_t count = reel_of(project)->parts().size();
    for (std::size_t i = 0; i < count && !beats.empty(); ++i) { // one after another: each cut moves those behind it
        const auto film = reel_of(result);
        const ReelPart& part = film->parts()[i];
        const std::int64_t cut = part.frames.end.value;
        const auto nearest = *std::min_element(beats.begin(), beats.end(), [&](std::int64_t a, std::int64_t b) {
            return std::abs(a - cut) < std::abs(b - cut);
        });
        if (nearest == cut || std::abs(nearest - cut) * 2 >= part.frames.frames())
            continue;
        result = change_reel_item(result, part.item.id, [&](ReelItem& item) {
            item.lasts = length_of(nearest - part.frames.begin.value, project.delivered_at);
        });
    }
    return result;
}

Project holds_to_beats(const Project& project, ShotIndex shot, PhotoIndex first, PhotoIndex last,
                       std::span<const std::int64_t> beats)
{
    // Where the photos of the range begin and end now, in frames of the film, each photo once.
    const Schedule film = schedule_of(project, project.shot(shot));
    std::vector<FrameSpan> spans;
    for (const FrameSpan& s : film.spans())
        if (s.photo >= first && s.photo <= last && s.frames() > 0 && (spans.empty() || spans.back().end == s.begin))
            spans.push_back(s);
    if (spans.size() < 2)
        return project;
    std::vector<std::int64_t> ends{spans.front().begin.value};
    for (const FrameSpan& s : spans)
        ends.push_back(s.end.value);
    // Each beat takes the boundary that is nearest to it, in order; what lies between two beats is spread evenly.
    std::vector<std::pair<std::size_t, std::int64_t>> fixed{{0, ends.front()}};
    for (const std::int64_t beat : beats) {
        if (beat <= fixed.back().second || beat >= ends.back())
            continue;
        const auto near = std::min_element(ends.begin() + 1, ends.end() - 1, [&](std::int64_t a, std::int64_t b) {
            return std::abs(a - beat) < std::abs(b - beat);
        });
        const auto at = std::size_t(near - ends.begin());
        const auto photos = std::int64_t(at) - std::int64_t(fixed.back().first);
        const auto behind = std::int64_t(ends.size() - 1 - at);
        if (photos >= 1 && beat - fixed.back().second >= photos && ends.back() - beat >= behind)
            fixed.emplace_back(at, beat);
    }
    fixed.emplace_back(ends.size() - 1, ends.back());
    std::vector<std::int64_t> moved = ends;
    for (std::size_t f = 1; f < fixed.size(); ++f) {
        const auto [from, begin] = fixed[f - 1];
        const auto [to, end] = fixed[f];
        const auto photos = std::int64_t(to - from);
        for (std::int64_t i = 1; i <= photos; ++i)
            moved[from + std::size_t(i)] = begin + (Fraction(end - begin) * Fraction(i, photos)).floor();
    }
    return with_shot(project, shot, [&](Shot& s) {
        for (std::size_t i = 0; i < spans.size(); ++i) {
            const Fraction frames(moved[i + 1] - moved[i]);
            const Rate paced = pacing_rate(project, s);
            s.photos.edit(spans[i].photo.at()).hold = paced == project.delivered_at
                                                          ? Hold(Frames{moved[i + 1] - moved[i]})
                                                          : Hold(Seconds{frames / project.delivered_at.value()});
        }
    });
}

Project film_to_beats(const Project& project, const ReelPart& part)
{
    const auto shot = project.find_shot(part.item.shot);
    if (!shot || part.page->film.spans().empty())
        return project;
    const Schedule film = schedule_of(project, project.shot(*shot)); // as the shot has it, whatever is kept of it here
    std::vector<std::int64_t> beats;
    const auto first = part.page->schedule.photo_at(part.page_frame(part.frames.begin));
    const auto last = part.page->schedule.photo_at(part.page_frame(part.frames.end - 1));
    const auto at = film.span_of(first);
    if (!at)
        return project;
    const FrameIndex begin = film.spans()[*at].begin;
    for (const Seconds beat : project.reel.sound.beats) {
        const std::int64_t f = (beat.value * project.delivered_at.value()).rounded() - part.frames.begin.value;
        beats.push_back(begin.value + (Fraction(f) * part.item.speed).rounded());
    }
    return holds_to_beats(project, *shot, std::min(first, last), std::max(first, last), beats);
}

}
