#include "app/steps/reel/reel_hands.h"

#include "core/steps/reel/reel_edits.h"

#include <QCoreApplication>
#include <QPointF>
#include <QWidget>

#include <algorithm>
#include <cmath>

namespace frenlo::app {

namespace {

enum Kind
{
    film,
    join,
    sound,
    sound_begin,
    sound_end
};

constexpr double edge = 5; ///< pixels beside a line that still mean it

QString words(const char* text)
{
    return QCoreApplication::translate("frenlo::app::ReelHands", text);
}

}

Seconds ReelHands::time_of(double frame) const
{
    return length_of(std::llround(frame), viewing_.schedule().rate());
}

double ReelHands::frame_of(Seconds time) const
{
    return time.value.approx() * viewing_.schedule().rate().value().approx();
}

std::optional<RowHands::Held> ReelHands::at(QPointF place, const MeterRow& row, const QWidget& on) const
{
    if (!viewing_.reel())
        return std::nullopt;
    for (const ReelPart& part : viewing_.reel()->film->parts()) {
        if (row.frames.contains(part.frames.begin) && ReelRows::name_tag(part, row, on).contains(place))
            return Held{film, part.item.id.value, Qt::OpenHandCursor};
        if (part.join.frames() > 0 && place.y() >= row.tiles.top() && place.y() <= row.tiles.bottom())
            for (const FrameIndex end : {part.join.begin, part.join.end})
                if (end >= row.frames.begin && end <= row.frames.end &&
                    std::abs(place.x() - row.x_of(double(end.value))) <= edge)
                    return Held{join, part.item.id.value};
    }
    if (!ReelRows::sound_band(row).contains(place))
        return std::nullopt;
    const auto& sounds = session_.project().reel.sound.sounds;
    for (std::size_t i = sounds.size(); i-- > 0;) { // the last one lies above
        const Sound* s = &sounds[i];
        const double begin = row.x_of(frame_of(s->at)), end = row.x_of(frame_of(s->until()));
        if (std::abs(place.x() - begin) <= edge)
            return Held{sound_begin, s->id.value};
        if (std::abs(place.x() - end) <= edge)
            return Held{sound_end, s->id.value};
        if (place.x() > begin && place.x() < end)
            return Held{sound, s->id.value, Qt::OpenHandCursor};
    }
    return std::nullopt;
}

void ReelHands::carry(const Held& held, double from, double to, double reach, std::uint64_t gesture)
{
    switch (held.kind) {
    case film:
        return carry_film(ReelItemId{held.of}, to);
    case join:
        return pull_join(ReelItemId{held.of}, to, gesture);
    default:
        return carry_sound(held.kind, SoundId{held.of}, to - from, reach, gesture);
    }
}

/// To the cut that is nearest; that before it and that behind it are where it stands already.
void ReelHands::carry_film(ReelItemId carried, double to)
{
    drop_.reset();
    before_.reset();
    if (!viewing_.reel())
        return;
    const auto parts = viewing_.reel()->film->parts();
    double nearest = 1e18;
    for (std::size_t i = 0; i <= parts.size(); ++i) {
        const std::int64_t cut = i < parts.size() ? parts[i].frames.begin.value : parts[i - 1].frames.end.value;
        if (const double away = std::abs(to - double(cut)); away < nearest) {
            nearest = away;
            const bool stays =
                (i < parts.size() && parts[i].item.id == carried) || (i > 0 && parts[i - 1].item.id == carried);
            drop_ = stays ? std::nullopt : std::optional(cut);
            before_ = i < parts.size() ? std::optional(parts[i].item.id) : std::nullopt;
        }
    }
    rows_.repaint();
}

void ReelHands::pull_join(ReelItemId into_next, double to, std::uint64_t gesture)
{
    if (!viewing_.reel())
        return;
    const auto parts = viewing_.reel()->film->parts();
    const auto part =
        std::find_if(parts.begin(), parts.end(), [&](const ReelPart& p) { return p.item.id == into_next; });
    if (part == parts.end())
        return;
    const double away = std::abs(to - double(part->frames.end.value));
    const double frames = std::max(1.0, std::round(part->item.join.place == JoinPlace::centred ? 2 * away : away));
    session_.apply(
        [&](const Project& p) {
            return change_reel_item(p, into_next, [&](ReelItem& item) { item.join.length = time_of(frames); });
        },
        words("Set the length of a join"), gesture);
}

double ReelHands::snapped(double frame, double reach, SoundId but) const
{
    std::vector<double> worth{0};
    if (viewing_.reel())
        for (const ReelPart& part : viewing_.reel()->film->parts())
            worth.push_back(double(part.frames.end.value));
    const Reel& reel = session_.project().reel;
    for (const Seconds beat : reel.sound.beats)
        worth.push_back(frame_of(beat));
    for (const ReelMarker& marker : reel.markers)
        worth.push_back(frame_of(marker.at));
    for (const Sound& s : reel.sound.sounds)
        if (s.id != but)
            worth.insert(worth.end(), {frame_of(s.at), frame_of(s.until())});
    const double nearest = *std::min_element(
        worth.begin(), worth.end(), [&](double a, double b) { return std::abs(a - frame) < std::abs(b - frame); });
    return std::round(std::abs(nearest - frame) <= reach ? nearest : frame);
}

void ReelHands::carry_sound(int kind, SoundId id, double by, double reach, std::uint64_t gesture)
{
    const auto& sounds = session_.project().reel.sound.sounds;
    const auto now = std::find_if(sounds.begin(), sounds.end(), [&](const Sound& s) { return s.id == id; });
    if (now == sounds.end())
        return;
    if (!as_taken_ || as_taken_->id != id)
        as_taken_ = *now;
    const Sound& was = *as_taken_;
    const double begin = frame_of(was.at), end = frame_of(was.until());
    Seconds at = was.at, until = was.until();
    if (kind == sound_end) {
        until = time_of(std::max(begin + 1, snapped(end + by, reach, id)));
    } else if (kind == sound_begin) {
        at = time_of(std::clamp(snapped(begin + by, reach, id), 0.0, std::max(0.0, std::floor(end - 1))));
    } else { // by whichever of its ends meets something
        const double to = snapped(begin + by, reach, id), by_end = snapped(end + by, reach, id) - end;
        const bool end_meets = std::abs(by_end - by) < std::abs(to - begin - by);
        at = time_of(std::max(0.0, end_meets ? begin + by_end : to));
    }
    session_.apply(
        [&](const Project& p) {
            return change_sound(p, id, [&](Sound& s) {
                s = was;
                s.at = at;
                if (kind == sound_begin && !s.lasts)
                    s.begin = {std::max(Fraction(0), was.begin.value + (at.value - was.at.value) * was.tempo)};
                else if (kind == sound_begin)
                    s.lasts = Seconds{was.until().value - at.value};
                else if (kind == sound_end && s.lasts)
                    s.lasts = Seconds{until.value - was.at.value};
                else if (kind == sound_end)
                    s.end = {was.begin.value + (until.value - was.at.value) * was.tempo};
            });
        },
        kind == sound ? words("Move the sound") : words("Cut the sound"), gesture);
}

void ReelHands::let_go(const Held& held)
{
    if (held.kind == film && drop_)
        session_.apply([&](const Project& p) { return move_in_reel(p, ReelItemId{held.of}, before_); },
                       words("Move the shot"));
    drop_.reset();
    before_.reset();
    as_taken_.reset();
    rows_.repaint();
}

}
