#include "core/base/problem.h"
#include "core/base/text.h"
#include "core/interchange/edit_lists.h"
#include "core/interchange/photo_runs.h"
#include "core/time/timecode.h"

#include <iomanip>
#include <sstream>

namespace frenlo {

namespace {

class Edl
{
public:
    Edl(const std::string& title, Rate rate) : rate_(rate)
    {
        text_ << "TITLE: " << line(title) << "\r\nFCM: NON-DROP FRAME\r\n";
    }
    /// how: "C", "D    012", "W001 012". Frames of the source, and of the film.
    void event(const std::string& how, std::int64_t from, std::int64_t to, std::int64_t begin, std::int64_t end)
    {
        ++events_;
        put(how, from, to, begin, end);
    }
    /// A second line of the same event.
    void put(const std::string& how, std::int64_t from, std::int64_t to, std::int64_t begin, std::int64_t end)
    {
        const std::int64_t hour = rate_.nominal() * std::int64_t(3600);
        text_ << std::setw(3) << std::setfill('0') << events_ << "  AX       V     " << std::left << std::setw(8)
              << std::setfill(' ') << how << std::right << ' ' << timecode(from) << ' ' << timecode(to) << ' '
              << timecode(hour + begin) << ' ' << timecode(hour + end) << "\r\n";
    }
    void still() { text_ << "M2   AX       000.0                " << timecode(0) << "\r\n"; }
    void note(const std::string& text) { text_ << "* " << line(text) << "\r\n"; }
    [[nodiscard]] std::string text() const
    {
        constexpr int most = 999;
        if (events_ > most)
            throw Failure(
                {"this kind of list has no more than 999 events, and there would be " + std::to_string(events_),
                 {},
                 "Write it as OpenTimelineIO, or the Reel in place of the shot"});
        return text_.str();
    }

private:
    [[nodiscard]] std::string timecode(std::int64_t frames) const
    {
        return timecode_text(frames, rate_, DropFrame::no);
    }
    static std::string line(std::string text)
    {
        for (char& c : text)
            if (static_cast<unsigned char>(c) < ' ')
                c = ' ';
        return text;
    }

    Rate rate_;
    std::ostringstream text_;
    int events_ = 0;
};

std::string lasting(const char* kind, std::int64_t frames)
{
    std::ostringstream text;
    text << std::left << std::setw(4) << kind << ' ' << std::right << std::setw(3) << std::setfill('0') << frames;
    return text.str();
}

}

std::string edl_text(const Project& project, std::optional<ShotIndex> shot)
{
    if (shot) {
        const Shot& s = project.shot(*shot);
        Edl list(s.name, project.delivered_at);
        for (const SeenRun& run : photo_runs(project, s)) {
            list.event("C", 0, run.frames, run.begin.value, run.begin.value + run.frames);
            list.still();
            list.note("FROM CLIP NAME: " + shown_path(s.photos[run.photo.at()].photo->file.filename()));
        }
        return list.text();
    }
    const auto reel = reel_of(project);
    Edl list(reel->name(), project.delivered_at);
    const auto parts = reel->parts();
    for (std::size_t i = 0; i < parts.size(); ++i) {
        const ReelPart& part = parts[i];
        const auto joins = [](const ReelPart& p) {
            return p.join.begin < p.join.end &&
                   (p.item.join.kind == JoinKind::dissolve || p.item.join.kind == JoinKind::wipe);
        };
        const bool from_join = i > 0 && joins(parts[i - 1]), into_join = i + 1 < parts.size() && joins(part);
        const FrameIndex begin = from_join ? parts[i - 1].join.begin : part.frames.begin,
                         end = into_join ? part.join.begin : part.frames.end;
        const auto of_film = [](const ReelPart& p, FrameIndex at) { // frames of the shot's own film, none below 0
            return std::max<std::int64_t>(0, p.page_frame(at) - p.page->kept_begin);
        };
        const std::int64_t from = of_film(part, begin), to = from + (end - begin);
        if (from_join) {
            const ReelPart& before = parts[i - 1];
            const std::int64_t out = of_film(before, begin), length = before.join.end - before.join.begin;
            list.event("C", out, out, begin.value, begin.value);
            list.put(lasting(before.item.join.kind == JoinKind::wipe ? "W001" : "D", length), from, to, begin.value,
                     end.value);
            list.note("FROM CLIP NAME: " + before.shot->name);
            list.note("TO CLIP NAME: " + part.shot->name);
        } else {
            list.event("C", from, to, begin.value, end.value);
            list.note("FROM CLIP NAME: " + part.shot->name);
        }
        if (part.join.begin < part.join.end && part.item.join.kind == JoinKind::dip)
            list.note("DIP TO COLOUR, " + std::to_string(part.join.end - part.join.begin) +
                      " FRAMES, IS NOT IN THIS LIST");
        for (const ReelMarker& m : project.reel.markers) {
            const FrameIndex at((m.at.value * project.delivered_at.value()).rounded());
            if (at >= begin && at < end)
                list.note("MARKER " +
                          timecode_text(at.value + project.delivered_at.nominal() * std::int64_t(3600),
                                        project.delivered_at, DropFrame::no) +
                          " " + m.text);
        }
    }
    return list.text();
}

}
