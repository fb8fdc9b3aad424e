#include "core/timeline/reel_timeline.h"

#include "core/base/text.h"
#include "core/cards/card_values.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

namespace frenlo {

namespace {

/// Frames of a film at this speed.
std::int64_t frames_at(std::int64_t kept, Fraction speed)
{
    return std::max<std::int64_t>(1, (Fraction(kept) / speed).rounded());
}

}

FrameIndex ReelPart::page_frame(FrameIndex of_reel) const
{
    const std::int64_t kept = page->kept_end - page->kept_begin;
    std::int64_t along = of_reel - frames.begin;
    if (item.speed != Fraction(1)) // exact, and slow where there are many
        along = (Fraction(along) * item.speed).floor();
    if (frames.frames() >= frames_at(kept, item.speed) && (of_reel < frames.end || item.lasts))
        along = std::min(along, kept - 1); // its last photo is held, whatever lies behind it
    return std::clamp(page->kept_begin + along, FrameIndex(0), FrameIndex(page->schedule.frames() - 1));
}

ReelTimeline::ReelTimeline(const Project& project) : rate_(project.delivered_at), fit_(project.reel.fit)
{
    FrameIndex begin(0);
    const auto all = std::make_shared<const Project>(project);
    for (const ReelItem& item : reel_items(project)) {
        ReelPart part;
        part.item = item;
        part.shot = shot_in_reel(project, part.item);
        part.page = std::make_shared<const DisplayTimeline>(display_timeline(project, *part.shot));
        const std::int64_t kept = part.page->kept_end - part.page->kept_begin;
        if (kept == 0)
            continue;
        std::int64_t frames = frames_at(kept, part.item.speed);
        if (part.item.lasts)
            frames = std::max<std::int64_t>(1, (part.item.lasts->value * rate_.value()).rounded());
        part.frames = {begin, begin + frames};
        begin = part.frames.end;
        films_.push_back(std::make_shared<const ShotTimeline>(part.shot, *part.page, films_of(all, {part.shot->id})));
        parts_.push_back(std::move(part));
    }
    for (std::size_t i = 0; i < parts_.size(); ++i)
        lay_join(i);
    // That of the first photos; a title before them is as large as they are.
    for (const bool cards : {false, true})
        for (const ReelPart& part : parts_)
            if (size_.empty() && (text_card_of(*part.shot) != nullptr) == cards)
                size_ = film_size(*part.shot);
    size_ = project.reel.frame.value_or(size_);
    dress_ = dress_of(project.reel, size_, rate_, films_of(all));
}

/// The join of this part into the next one, behind that of the part before.
void ReelTimeline::lay_join(std::size_t at)
{
    ReelPart& part = parts_[at];
    const Join& join = part.item.join;
    const FrameIndex cut = part.frames.end;
    part.join = {cut, cut};
    if (join.kind == JoinKind::cut || at + 1 == parts_.size())
        return;
    const ReelPart& next = parts_[at + 1];
    const std::int64_t wanted = (join.length.value * rate_.value()).rounded();
    std::int64_t before = join.place == JoinPlace::before ? wanted : join.place == JoinPlace::after ? 0 : wanted / 2;
    std::int64_t after = wanted - before;
    const FrameIndex free = at > 0 ? std::max(part.frames.begin, parts_[at - 1].join.end) : part.frames.begin;
    before = std::min(before, cut - free);
    after = std::min(after, next.frames.frames());
    part.join = {cut - before, cut + after};
    part.join_shortened = before + after < wanted;
    for (FrameIndex f = part.join.begin; f < part.join.end; ++f) {
        const std::int64_t here = (Fraction(f - part.frames.begin) * part.item.speed).floor();
        const std::int64_t there = (Fraction(f - next.frames.begin) * next.item.speed).floor();
        part.held += part.page->kept_begin.value + here >= part.page->schedule.frames() ||
                     next.page->kept_begin.value + there < 0;
    }
}

std::size_t ReelTimeline::part_at(FrameIndex frame) const
{
    const auto it = std::upper_bound(parts_.begin(), parts_.end(), frame,
                                     [](FrameIndex f, const ReelPart& p) { return f < p.frames.begin; });
    return std::size_t(it - parts_.begin()) - 1;
}

std::optional<std::size_t> ReelTimeline::join_at(FrameIndex frame) const
{
    const std::size_t part = part_at(frame);
    if (parts_[part].join.contains(frame))
        return part;
    if (part > 0 && parts_[part - 1].join.contains(frame))
        return part - 1;
    return std::nullopt;
}

FrameRequest ReelTimeline::of_part(std::size_t part, FrameIndex frame, const FrameLook& look) const
{
    FrameLook own = look;
    if (fit_ == ReelFit::fill)
        own.fit = Fit::fill;
    return films_[part]->frame(parts_[part].page_frame(frame), own);
}

FrameDress ReelTimeline::dress_at(FrameIndex frame) const
{
    FrameDress dress;
    dress_(frame, dress);
    return dress;
}

FrameRequest ReelTimeline::frame(FrameIndex frame, const FrameLook& look) const
{
    FrameRequest film = joined(frame, look);
    const FrameDress dress = dress_ && look.corrections == Corrections::applied ? dress_at(frame) : FrameDress();
    if (dress == FrameDress())
        return film;
    FrameRequest request{.size = look.size, .depth = look.depth, .alpha = look.alpha, .dither = look.dither};
    request.parts = {{1, std::make_shared<const FrameRequest>(std::move(film))}};
    wear(dress, request, look.fit);
    return request;
}

FrameRequest ReelTimeline::joined(FrameIndex frame, const FrameLook& look) const
{
    const auto at = join_at(frame);
    if (!at)
        return of_part(part_at(frame), frame, look);
    const ReelPart& part = parts_[*at];
    const Join& join = part.item.join;
    // Evenly from the last frame that is all of one to the first that is all of the other.
    const double gone = double(frame - part.join.begin + 1) / double(part.join.frames() + 1);
    const auto film = [&](std::size_t p) { return std::make_shared<const FrameRequest>(of_part(p, frame, look)); };
    FrameRequest request{.size = look.size, .depth = look.depth, .alpha = look.alpha, .dither = look.dither};
    if (join.kind == JoinKind::dissolve) {
        request.parts = {{1 - gone, film(*at)}, {gone, film(*at + 1)}};
    } else if (join.kind == JoinKind::dip) {
        const double shown = std::abs(2 * gone - 1);
        request.parts = {{shown, film(gone < 0.5 ? *at : *at + 1)}, {1 - shown, PlainColour{join.colour}}};
    } else {
        const SoftEdge edge{.degrees = join.degrees, .at = gone, .softness = join.softness / 100};
        SoftEdge rest = edge;
        rest.before = true;
        request.parts = {{1, film(*at), rest}, {1, film(*at + 1), edge}};
    }
    return request;
}

std::vector<FrameRange> ReelTimeline::runs() const
{
    std::vector<FrameRange> all;
    for (std::size_t i = 0; i < parts_.size(); ++i) {
        const ReelPart& part = parts_[i];
        const auto runs = films_[i]->runs();
        std::size_t run = 0;
        std::optional<std::size_t> before; // the run that the frame before shows, alone
        for (FrameIndex f = part.frames.begin; f < part.frames.end; ++f) {
            const FrameIndex on_page = part.page_frame(f);
            while (runs[run].end <= on_page)
                ++run;
            const bool joined = join_at(f).has_value();
            if (!joined && before == run)
                all.back().end = f + 1;
            else
                all.push_back({f, f + 1});
            before = joined ? std::nullopt : std::optional(run);
        }
    }
    return dress_ ? split_by_dress(all, [this](FrameIndex f) { return dress_at(f); }) : all;
}

std::vector<PhotoPtr> ReelTimeline::between_frames() const
{
    std::vector<PhotoPtr> photos;
    for (const auto& film : films_) {
        const auto of_film = film->between_frames();
        photos.insert(photos.end(), of_film.begin(), of_film.end());
    }
    return photos;
}

std::shared_ptr<const ReelTimeline> reel_of(const Project& project)
{
    return std::make_shared<const ReelTimeline>(project);
}

std::vector<std::string> reel_notes(const ReelTimeline& reel)
{
    std::vector<std::string> notes;
    const auto parts = reel.parts();
    for (std::size_t i = 0; i < parts.size(); ++i) {
        const ReelPart& part = parts[i];
        if (const cv::Size s = film_size(*part.shot);
            std::abs(double(s.width) * reel.size().height / (double(s.height) * reel.size().width) - 1) > 0.005)
            notes.push_back("\"" + part.shot->name + "\" has another shape (" + std::to_string(s.width) + " × " +
                            std::to_string(s.height) + " in " + std::to_string(reel.size().width) + " × " +
                            std::to_string(reel.size().height) + ")");
        if (i + 1 == parts.size())
            continue;
        const std::string between = "between \"" + part.shot->name + "\" and \"" + parts[i + 1].shot->name + "\"";
        if (part.join_shortened)
            notes.push_back("the join " + between + " is only " + counted(part.join.frames(), "frame", "frames") +
                            " long, since they are too short for more");
        if (part.held > 0)
            notes.push_back("the join " + between + " holds a photo for " + counted(part.held, "frame", "frames") +
                            ", since their ranges leave too little out");
    }
    return notes;
}

}
