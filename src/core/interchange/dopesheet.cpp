#include "core/interchange/dopesheet.h"

#include "core/base/problem.h"
#include "core/base/text.h"
#include "core/interchange/photo_runs.h"
#include "core/project/delivery.h"
#include "core/project/speed_course.h"
#include "core/project/with_shot.h"

#include <algorithm>
#include <charconv>
#include <iomanip>
#include <map>
#include <optional>
#include <sstream>

namespace frenlo {

namespace {

std::string field_of(const std::string& text)
{
    if (text.find_first_of(",\"\r\n") == std::string::npos)
        return text;
    std::string quoted = "\"";
    for (const char c : text) {
        if (c == '"')
            quoted += '"';
        quoted += c;
    }
    return quoted + '"';
}

struct Record
{
    std::vector<std::string> fields;
    int line = 1; ///< where it begins
};

/// RFC 4180; lines may end in LF alone, too.
std::vector<Record> records(std::string_view csv)
{
    constexpr std::string_view byte_order_mark = "\xEF\xBB\xBF";
    if (csv.starts_with(byte_order_mark))
        csv.remove_prefix(byte_order_mark.size());
    std::vector<Record> all;
    Record now;
    std::string field;
    bool quoted = false;
    int line = 1;
    const auto end_record = [&] {
        now.fields.push_back(std::move(field));
        field.clear();
        if (now.fields.size() > 1 || !now.fields.front().empty())
            all.push_back(std::move(now));
        now = {.fields = {}, .line = line};
    };
    for (std::size_t i = 0; i < csv.size(); ++i) {
        const char c = csv[i];
        if (c == '\n')
            ++line;
        if (quoted) {
            if (c != '"')
                field += c;
            else if (i + 1 < csv.size() && csv[i + 1] == '"')
                field += csv[++i];
            else
                quoted = false;
        } else if (c == '"') {
            quoted = true;
        } else if (c == ',') {
            now.fields.push_back(std::move(field));
            field.clear();
        } else if (c == '\n') {
            end_record();
        } else if (c != '\r') {
            field += c;
        }
    }
    if (quoted)
        throw Failure({"line " + std::to_string(now.line) + " has a quotation mark that never ends", {}, "Close it"});
    end_record();
    return all;
}

std::optional<std::int64_t> whole(const std::string& text)
{
    const std::string_view t = trimmed(text);
    std::int64_t n = 0;
    const auto parsed = std::from_chars(t.data(), t.data() + t.size(), n);
    return parsed.ec == std::errc() && parsed.ptr == t.data() + t.size() ? std::optional(n) : std::nullopt;
}

[[noreturn]] void wrong(int line, const std::string& what, const std::string& hint)
{
    throw Failure({"line " + std::to_string(line) + ": " + what, {}, hint});
}

}

std::vector<DopesheetLine> dopesheet(const Project& project, ShotIndex at)
{
    const Shot& shot = project.shot(at);
    const Rate rate = project.delivered_at;
    std::optional<Fraction> in_reel; // seconds
    if (!project.reel.sound.words.empty()) {
        const auto reel = reel_of(project);
        for (const ReelPart& part : reel->parts())
            if (!in_reel && part.shot->id == shot.id)
                in_reel = length_of(part.frames.begin.value, rate).value;
    }
    std::vector<DopesheetLine> lines;
    for (const SeenRun& run : photo_runs(project, shot)) {
        const ShotPhoto& p = shot.photos[run.photo.at()];
        DopesheetLine line{run.begin, run.frames, run.photo, shown_path(p.photo->file.filename()), p.marked, {}};
        if (in_reel) {
            const Fraction begin = *in_reel + length_of(run.begin.value, rate).value,
                           end = begin + length_of(run.frames, rate).value;
            for (const SoundWord& word : project.reel.sound.words)
                if (word.begin.value < end && word.end.value > begin)
                    line.words += (line.words.empty() ? "" : " ") + word.text;
        }
        lines.push_back(std::move(line));
    }
    return lines;
}

std::string feet_and_frames(std::int64_t frame)
{
    constexpr std::int64_t frames_per_foot = 16;
    std::ostringstream text;
    text << frame / frames_per_foot << '+' << std::setw(2) << std::setfill('0') << frame % frames_per_foot;
    return text.str();
}

std::string dopesheet_csv(const std::vector<DopesheetLine>& lines)
{
    std::string csv = "frame,feet,hold,photo,file,mark,words\r\n";
    for (const DopesheetLine& line : lines)
        csv += std::to_string(line.begin.value + 1) + ',' + feet_and_frames(line.begin.value) + ',' +
               std::to_string(line.frames) + ',' + std::to_string(line.photo.value + 1) + ',' + field_of(line.file) +
               ',' + (line.marked ? "x" : "") + ',' + field_of(line.words) + "\r\n";
    return csv;
}

Project holds_from_csv(const Project& project, ShotIndex at, std::string_view csv)
{
    const Shot& shot = project.shot(at);
    if (shot.steps.has<SpeedCourse>())
        throw Failure(
            {"the shot has a speed course, which changes every hold", {}, "Take the speed course away first"});
    const auto all = records(csv);
    if (all.empty())
        throw Failure({"the table is empty", {}, "Its first line names the columns: hold, and photo or file"});
    const auto column = [&](std::string_view name) -> std::optional<std::size_t> {
        const auto& heading = all.front().fields;
        const auto it =
            std::find_if(heading.begin(), heading.end(), [&](const std::string& h) { return trimmed(h) == name; });
        return it == heading.end() ? std::nullopt : std::optional(std::size_t(it - heading.begin()));
    };
    const auto hold = column("hold"), photo = column("photo"), file = column("file");
    if (!hold || (!photo && !file))
        wrong(1, "it does not name the columns hold, and photo or file", "Let the first line name them");
    std::map<std::string, std::size_t> by_name;
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        by_name.emplace(shown_path(shot.photos[i].photo->file.filename()), i);
    std::map<std::size_t, std::int64_t> holds;
    for (std::size_t r = 1; r < all.size(); ++r) {
        const Record& record = all[r];
        const auto text = [&](const std::optional<std::size_t>& c) {
            return c && *c < record.fields.size() ? std::string(trimmed(record.fields[*c])) : std::string();
        };
        const auto frames = whole(text(hold));
        if (!frames || *frames < 0 || *frames > max_hold_frames)
            wrong(record.line, "“" + text(hold) + "” is no hold", "A hold is a whole number of frames");
        std::optional<std::size_t> which;
        if (!text(photo).empty()) {
            const auto number = whole(text(photo));
            if (number && *number >= 1 && *number <= std::int64_t(shot.photos.size()))
                which = std::size_t(*number - 1);
        } else if (const auto it = by_name.find(text(file)); it != by_name.end()) {
            which = it->second;
        }
        if (!which)
            wrong(record.line, "the shot has no photo “" + (text(photo).empty() ? text(file) : text(photo)) + "”",
                  "Photos are numbered from 1 to " + std::to_string(shot.photos.size()));
        const auto [known, fresh] = holds.emplace(*which, *frames);
        if (!fresh && known->second != *frames)
            wrong(record.line, "photo " + std::to_string(*which + 1) + " has two holds",
                  "A photo that comes again is held as long each time");
    }
    return with_shot(project, at, [&](Shot& s) {
        for (const auto& [which, frames] : holds)
            s.photos.edit(which).hold = hold_of_frames(frames, project, shot);
    });
}

}
