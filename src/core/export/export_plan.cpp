#include "core/export/export_plan.h"

#include "core/base/text.h"
#include "core/export/animated_gif.h"
#include "core/project/delivery.h"
#include "core/project/with_shot.h"
#include "core/sound/sound_mix.h"
#include "core/timeline/reel_timeline.h"

#include <algorithm>
#include <cmath>
#include <sys/stat.h>

namespace frenlo {

namespace fs = std::filesystem;

ShotIndex shot_of(const Project& project, const ExportOrder& order)
{
    if (!order.shot) {
        if (project.shots.empty())
            throw Failure({"there is no shot to export", {}, "Bring photos in"});
        return ShotIndex(0);
    }
    if (const auto found = project.find_shot(*order.shot))
        return *found;
    throw Failure({"the shot that was to be exported is not in the project any more", {}, "Choose another one"});
}

Project delivered(const Project& project, const ExportOrder& order)
{
    Project p = order.preset.rate ? deliver_at(project, *order.preset.rate, RateIntent::same_clock_time) : project;
    const cv::Size asked = order.preset.size.value_or(cv::Size());
    p = in_shape(p, order.shape, asked.width > 0 && asked.height > 0 ? asked : cv::Size());
    if (!order.between)
        return p;
    for (ShotIndex s(0); s.at() < p.shots.size(); ++s)
        if (order.reel || s == shot_of(project, order))
            p = with_shot(p, s, [&](Shot& shot) { shot.pacing.between = *order.between; });
    return p;
}

Problem there_already(const std::vector<fs::path>& existing)
{
    const auto more = std::int64_t(existing.size()) - 1;
    return {more > 0 ? "this file and " + std::to_string(more) + " more are there already"
                     : "the file is there already",
            existing.front(), "Choose another name, or let it be replaced"};
}

namespace {

cv::Size planned_size(const Timeline& film, const Preset& preset)
{
    const cv::Size natural = film.size();
    if (preset.size && preset.size->width > 0 && preset.size->height > 0)
        return *preset.size;
    if (preset.size && (preset.size->width > 0 || preset.size->height > 0)) { // one side is given, the other follows
        constexpr int any = 1 << 20;
        return fitted(natural, {preset.size->width > 0 ? preset.size->width : any,
                                preset.size->height > 0 ? preset.size->height : any});
    }
    return preset.long_side > 0 ? within_side(natural, preset.long_side) : natural;
}

/// Every name that is written, in order. names: of stills.
std::vector<fs::path> targets_of(const fs::path& file, const std::optional<StillNames>& names, std::int64_t first,
                                 std::int64_t frames)
{
    if (!names)
        return {file};
    std::vector<fs::path> targets;
    for (std::int64_t n = first; n < first + frames; ++n)
        targets.push_back(file.parent_path() / names->name(n));
    return targets;
}

std::vector<fs::path> those_there(const std::vector<fs::path>& targets)
{
    std::vector<fs::path> there;
    std::error_code ec;
    for (const fs::path& t : targets)
        if (fs::exists(t, ec))
            there.push_back(t);
    return there;
}

/// Originals are never changed: no export may end on a photo of the project, told to overwrite or not.
void refuse_photos_as_target(const Project& project, const std::vector<fs::path>& existing)
{
    std::vector<std::pair<dev_t, ino_t>> files; // the same file has many names
    struct stat info = {};
    for (const fs::path& e : existing)
        if (::stat(e.c_str(), &info) == 0)
            files.emplace_back(info.st_dev, info.st_ino);
    std::sort(files.begin(), files.end());
    for (const auto& shot : files.empty() ? std::vector<ShotPtr>() : project.shots)
        for (const auto& p : shot->photos)
            if (::stat(p.photo->file.c_str(), &info) == 0 &&
                std::binary_search(files.begin(), files.end(), std::pair(info.st_dev, info.st_ino)))
                throw Failure({"this is one of the project's photos, which are never changed", p.photo->file,
                               "Choose another name or folder"});
}

std::uintmax_t free_space(fs::path folder)
{
    std::error_code ec;
    while (!folder.empty() && !fs::exists(folder, ec) && folder != folder.parent_path())
        folder = folder.parent_path();
    const auto space = fs::space(folder, ec);
    return ec ? 0 : space.available;
}

void check_order(const ExportOrder& order, const Format& format, const Timeline& film)
{
    if (order.file.empty() || !order.file.has_filename())
        throw Failure({"there is no file name to write to", order.file, "Choose a name"});
    if (!format.fits(order.file))
        throw Failure(
            {"the file's ending does not fit the format", order.file, "Let it end in " + std::string(format.ending())});
    if (film.frames() == 0)
        throw Failure(
            {"the film of \"" + film.name() + "\" has no frames", {}, "Bring photos into it, or hold them longer"});
    std::error_code ec;
    if (fs::is_directory(order.file, ec))
        throw Failure({"this is a folder", order.file, "Choose another name"});
}

/// What is not as asked because of the format's pixels.
void tell_of_size(const Sizes& sizes, std::vector<std::string>& notes)
{
    if (sizes.rendered.width > sizes.written.width)
        notes.emplace_back("one column of pixels is cut off at the right, so that the width is even");
    if (sizes.rendered.height > sizes.written.height)
        notes.emplace_back("one row of pixels is cut off at the bottom, so that the height is even");
    if (sizes.written.width > sizes.rendered.width || sizes.written.height > sizes.rendered.height)
        notes.emplace_back("the picture is made 2 pixels wide or high, the least that a film can be");
}

/// What will be refused where the file goes to, and what a size limit will do.
void tell_of_limits(const Preset& preset, ExportPlan& plan)
{
    if (preset.least_length && plan.length < *preset.least_length) {
        const Fraction times = preset.least_length->value / plan.length.value;
        const std::int64_t enough = times.den() == 1 ? times.num() : times.floor() + 1;
        plan.problems.push_back({"the film lasts " + shown_seconds(plan.length) + ", and at least " +
                                     shown_seconds(*preset.least_length) + " are asked for",
                                 {},
                                 "Let it repeat " + std::to_string(enough) + " times, or hold the photos longer"});
    }
    if (preset.longest_length && plan.length > *preset.longest_length)
        plan.problems.push_back({"the film lasts " + shown_seconds(plan.length) + ", and at most " +
                                     shown_seconds(*preset.longest_length) + " are asked for",
                                 {},
                                 "Keep less of it, or hold the photos shorter"});
    if (preset.most_bytes && !format_of(preset).stills() && plan.estimated_bytes > std::uintmax_t(*preset.most_bytes)) {
        plan.notes.push_back("about " + shown_bytes(plan.estimated_bytes) +
                             " without the size limit: quality and size are lowered until it is kept");
        plan.estimated_bytes = std::uintmax_t(*preset.most_bytes);
    }
}

/// How shots were made to fit the Reel, and how its sound fits the picture.
void tell_of_reel(const Project& project, const ExportOrder& order, ExportPlan& plan)
{
    plan.notes = reel_notes(*reel_of(project));
    const Soundtrack& track = project.reel.sound;
    std::error_code ec;
    bool heard = false;
    for (const Sound& s : track.sounds) {
        heard = heard || !s.muted;
        if (!s.muted && !fs::exists(s.file, ec))
            plan.problems.push_back({"the sound is not there any more, and is silent", s.file,
                                     "Put it back, mute it or take it out of the Reel"});
    }
    const Format& format = format_of(order.preset);
    if (!heard)
        return;
    if (!format.sound || order.part) {
        plan.notes.push_back(order.part ? "a part of a film is written without its sound"
                                        : "a " + std::string(format.name) + " has no sound");
        return;
    }
    const std::int64_t sound = (sound_length(track).value * plan.rate.value()).rounded(), picture = plan.frames;
    if (sound != picture)
        plan.notes.push_back(sound > picture
                                 ? "the sound goes on for " + counted(sound - picture, "frame", "frames") +
                                       " after the picture, and is cut there"
                                 : "the last " + counted(picture - sound, "frame is", "frames are") + " silent");
}

/// Of a loop, what its delays make of the film's runs.
void take_delays(const std::vector<FrameRange>& runs, const ExportOrder& order, ExportPlan& plan)
{
    const LoopTiming timing = loop_timing(runs);
    plan.frames = timing.pictures();
    if (timing.delays.empty())
        throw Failure(
            {"the loop is shorter than 2/100 s, the least that a GIF can say", order.file, "Hold the photos longer"});
    if (timing.left_out > 0)
        plan.problems.push_back({counted(std::int64_t(timing.left_out), "photo lasts", "photos last") +
                                     " less than 2/100 s, which players of GIF show as 10/100 s, and will not be seen",
                                 {},
                                 "Hold them longer"});
}

}

Sizes sizes_for(const Timeline& film, const Preset& preset)
{
    const cv::Size s = planned_size(film, preset);
    const int m = format_of(preset).side_multiple;
    return {s, {std::max(m, s.width / m * m), std::max(m, s.height / m * m)}};
}

ExportPlan plan_export(const Project& project, const ExportOrder& order)
{
    const Project p = delivered(project, order);
    const Format& format = format_of(order.preset);
    const auto film = written_film(p, order);
    check_order(order, format, *film);

    ExportPlan plan;
    plan.rate = p.delivered_at;
    plan.frames = film->frames();
    plan.length = film->length();
    plan.file = order.file;
    std::optional<StillNames> names;
    if (format.stills()) {
        const std::int64_t all = order.part ? repeated_film(p, order)->frames() : plan.frames;
        if (order.part) // numbered as in the whole film
            plan.first_number = frames_of(*order.part, all).begin.value + 1;
        names = value_or_throw(StillNames::parse(order.file, all));
        plan.file.replace_filename(names->pattern());
    }
    plan.existing = those_there(targets_of(plan.file, names, plan.first_number, plan.frames));
    refuse_photos_as_target(p, plan.existing);
    if (!plan.existing.empty() && !order.overwrite)
        plan.problems.push_back(there_already(plan.existing));

    const Sizes sizes = sizes_for(*film, order.preset);
    plan.size = sizes.written;
    if (sizes.rendered.empty())
        throw Failure({"no photo of \"" + film->name() + "\" can be read", {}, "Look at the problems in Sort"});
    if (std::max(sizes.rendered.width, sizes.rendered.height) > format.most_side)
        throw Failure({"a " + std::string(format.name) + " can be at most " + std::to_string(format.most_side) +
                           " pixels wide or high",
                       order.file, "Choose a smaller size"});
    if (sizes.written.width < format.least.width || sizes.written.height < format.least.height)
        throw Failure({"a " + std::string(format.name) + " must be at least " + std::to_string(format.least.width) +
                           " pixels wide and " + std::to_string(format.least.height) + " high",
                       order.file, "Choose a larger size"});
    tell_of_size(sizes, plan.notes);
    if (order.reel)
        tell_of_reel(p, order, plan);
    if (const auto between = film->between_frames(); !between.empty())
        plan.problems.push_back({counted(std::int64_t(between.size()), "photo falls", "photos fall") +
                                     " between two frames and will not be seen",
                                 between.front()->file, "Hold them longer or raise the rate"});
    const auto runs = film->runs();
    if (format.key == animated_gif().key)
        take_delays(runs, order, plan);
    else if (format.kind == Format::Kind::loop)
        plan.frames = std::int64_t(runs.size());
    plan.estimated_bytes = std::uintmax_t(format.bytes(
        order.preset, {double(plan.size.width) * plan.size.height, std::int64_t(runs.size()), plan.frames}));
    tell_of_limits(order.preset, plan);
    plan.free_bytes = free_space(fs::absolute(order.file).parent_path());
    if (auto problem = too_little_room(order, plan))
        plan.problems.push_back(*std::move(problem));
    return plan;
}

std::optional<Problem> too_little_room(const ExportOrder& order, const ExportPlan& plan)
{
    if (plan.free_bytes >= plan.estimated_bytes)
        return std::nullopt;
    return Problem{"about " + shown_bytes(plan.estimated_bytes) + " will be needed and " +
                       shown_bytes(plan.free_bytes) + " are free",
                   fs::absolute(order.file).parent_path(), "Make room or choose another folder"};
}

fs::path free_name(const fs::path& file, const Format& format, std::int64_t frames)
{
    std::optional<StillNames> names;
    if (format.stills())
        names = value_or_throw(StillNames::parse(file, frames));
    for (int n = 2;; ++n) {
        const std::string number = '-' + std::to_string(n);
        fs::path other = file;
        if (!names) {
            other.replace_filename(file.stem().native() + number + file.extension().native());
            if (those_there({other}).empty())
                return other;
            continue;
        }
        const bool joined = names->before().ends_with('_');
        const StillNames renamed = names->after(names->before().substr(0, names->before().size() - (joined ? 1 : 0)) +
                                                number + (joined ? "_" : ""));
        if (other.replace_filename(renamed.pattern()); those_there(targets_of(other, renamed, 1, frames)).empty())
            return other;
    }
}

}
