#include "core/export/export_plan.h"

#include "core/base/text.h"
#include "core/project/delivery.h"
#include "core/project/with_shot.h"

#include <algorithm>
#include <cmath>
#include <sys/stat.h>

namespace frenlo {

namespace fs = std::filesystem;

Project delivered(const Project& project, const ExportOrder& order)
{
    Project p = order.preset.rate ? deliver_at(project, *order.preset.rate, RateIntent::same_clock_time) : project;
    return order.between ? with_shot(p, order.shot, [&](Shot& s) { s.pacing.between = *order.between; }) : p;
}

Schedule written_schedule(const Project& project, const Shot& shot, MediaFormat format)
{
    if (format != MediaFormat::loop_gif)
        return schedule_of(project, shot);
    const Rate hundredths(100);
    Pacing pacing = shot.pacing;
    pacing.paced_at = pacing_rate(project, shot);
    return {arranged(held_photos(shot), pacing, hundredths).film, *pacing.paced_at, hundredths, Between::repeat};
}

LoopTiming loop_timing_of(const std::vector<Moment>& moments)
{
    std::vector<std::pair<std::int64_t, std::int64_t>> spans;
    spans.reserve(moments.size());
    for (const auto& m : moments)
        spans.emplace_back(m.begin.value, m.end.value);
    return loop_timing(spans);
}

Problem there_already(const std::vector<fs::path>& existing)
{
    const auto more = std::int64_t(existing.size()) - 1;
    return {more > 0 ? "this file and " + std::to_string(more) + " more are there already"
                     : "the file is there already",
            existing.front(), "Choose another name, or let it be replaced"};
}

namespace {

constexpr int most_film_side = 8192; // H.264, level 6.2; what few players reach

cv::Size planned_size(const Shot& shot, const Preset& preset)
{
    const cv::Size natural = film_size(shot);
    if (preset.size && preset.size->width > 0 && preset.size->height > 0)
        return *preset.size;
    if (preset.size && (preset.size->width > 0 || preset.size->height > 0)) { // one side is given, the other follows
        constexpr int any = 1 << 20;
        return fitted(natural, {preset.size->width > 0 ? preset.size->width : any,
                                preset.size->height > 0 ? preset.size->height : any});
    }
    return preset.long_side > 0 ? within_side(natural, preset.long_side) : natural;
}

/// What such pictures take, measured once on photo-like material. Held pictures cost a film next to nothing.
std::uintmax_t estimate(const ExportPlan& plan, const Preset& preset, std::int64_t pictures)
{
    const double pixels = double(plan.size.width) * plan.size.height;
    switch (preset.format) {
    case MediaFormat::film_h264:
        return static_cast<std::uintmax_t>(pixels * double(pictures) * 0.10 *
                                           std::exp2((18 - crf_for_quality(preset.quality)) / 6.0)) +
               10'000;
    case MediaFormat::loop_gif:
        return static_cast<std::uintmax_t>(pixels * double(pictures) * 0.09 * std::log2(preset.colours)) + 2'000;
    case MediaFormat::stills_png:
        return static_cast<std::uintmax_t>(pixels * double(plan.frames) * (preset.depth == Depth::sixteen ? 4.5 : 1.8));
    case MediaFormat::stills_jpeg:
        return static_cast<std::uintmax_t>(pixels * double(plan.frames) * 0.2 *
                                           std::exp2((preset.quality - 80) / 10.0));
    }
    return 0;
}

/// Every name that is written, in order. names: of stills.
std::vector<fs::path> targets_of(const fs::path& file, const std::optional<StillNames>& names, std::int64_t frames)
{
    if (!names)
        return {file};
    std::vector<fs::path> targets;
    for (std::int64_t n = 1; n <= frames; ++n)
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

/// Frames of the file: a delay that is longer than one of them can say takes several.
std::int64_t pictures_in(const LoopTiming& timing)
{
    std::int64_t pictures = 0;
    for (const auto& d : timing.delays)
        pictures += (d.end - d.begin + longest_loop_delay - 1) / longest_loop_delay;
    return pictures;
}

void check_order(const Project& project, const ExportOrder& order, const Schedule& schedule)
{
    if (order.file.empty() || !order.file.has_filename())
        throw Failure({"there is no file name to write to", order.file, "Choose a name"});
    if (!ending_fits(order.preset.format, order.file))
        throw Failure({"the file's ending does not fit the format", order.file,
                       "Let it end in " + std::string(ending_of(order.preset.format))});
    if (schedule.frames() == 0)
        throw Failure({"the film of \"" + project.shot(order.shot).name + "\" has no frames",
                       {},
                       "Bring photos into it, or hold them longer"});
    std::error_code ec;
    if (fs::is_directory(order.file, ec))
        throw Failure({"this is a folder", order.file, "Choose another name"});
}

}

Sizes sizes_for(const Shot& shot, const Preset& preset)
{
    const cv::Size s = planned_size(shot, preset);
    if (preset.format != MediaFormat::film_h264)
        return {s, s};
    return {s, {std::max(2, s.width / 2 * 2), std::max(2, s.height / 2 * 2)}};
}

ExportPlan plan_export(const Project& project, const ExportOrder& order)
{
    const Project p = delivered(project, order);
    const Shot& shot = p.shot(order.shot);
    const Schedule schedule = written_schedule(p, shot, order.preset.format);
    check_order(p, order, schedule);

    ExportPlan plan;
    plan.rate = p.delivered_at;
    plan.frames = schedule.frames();
    plan.length = schedule.length();
    plan.file = order.file;
    std::optional<StillNames> names;
    if (writes_stills(order.preset.format)) {
        names = value_or_throw(StillNames::parse(order.file, plan.frames));
        plan.file.replace_filename(names->pattern());
    }
    plan.existing = those_there(targets_of(plan.file, names, plan.frames));
    refuse_photos_as_target(p, plan.existing);
    if (!plan.existing.empty() && !order.overwrite)
        plan.problems.push_back(there_already(plan.existing));

    const auto [rendered, written] = sizes_for(shot, order.preset);
    plan.size = written;
    if (rendered.empty())
        throw Failure({"no photo of \"" + shot.name + "\" can be read", {}, "Look at the problems in Sort"});
    if (order.preset.format == MediaFormat::film_h264 && std::max(rendered.width, rendered.height) > most_film_side)
        throw Failure({"a film can be at most " + std::to_string(most_film_side) + " pixels wide or high", order.file,
                       "Choose a smaller size"});
    if (order.preset.format == MediaFormat::loop_gif && std::max(rendered.width, rendered.height) > 65'535)
        throw Failure({"a GIF can be at most 65535 pixels wide or high", order.file, "Choose a smaller size"});
    if (rendered.width > written.width)
        plan.problems.push_back({"one column of pixels is cut off at the right, so that the width is even", {}, ""});
    if (rendered.height > written.height)
        plan.problems.push_back({"one row of pixels is cut off at the bottom, so that the height is even", {}, ""});
    if (written.width > rendered.width || written.height > rendered.height)
        plan.problems.push_back({"the picture is made 2 pixels wide or high, the least that a film can be", {}, ""});

    if (const auto between = schedule.between_frames(); !between.empty())
        plan.problems.push_back({counted(std::int64_t(between.size()), "photo falls", "photos fall") +
                                     " between two frames and will not be seen",
                                 shot.photos[between.front().at()].photo->file, "Hold them longer or raise the rate"});
    const auto moments = schedule.moments();
    if (order.preset.format == MediaFormat::loop_gif) {
        const LoopTiming timing = loop_timing_of(moments);
        plan.frames = pictures_in(timing);
        if (timing.delays.empty())
            throw Failure({"the loop is shorter than 2/100 s, the least that a GIF can say", order.file,
                           "Hold the photos longer"});
        if (timing.left_out > 0)
            plan.problems.push_back(
                {counted(std::int64_t(timing.left_out), "photo lasts", "photos last") +
                     " less than 2/100 s, which players of GIF show as 10/100 s, and will not be seen",
                 {},
                 "Hold them longer"});
    }
    plan.estimated_bytes = estimate(plan, order.preset, std::int64_t(moments.size()));
    plan.free_bytes = free_space(fs::absolute(order.file).parent_path());
    if (plan.free_bytes < plan.estimated_bytes)
        plan.problems.push_back({"about " + shown_bytes(plan.estimated_bytes) + " will be needed and " +
                                     shown_bytes(plan.free_bytes) + " are free",
                                 fs::absolute(order.file).parent_path(), "Make room or choose another folder"});
    return plan;
}

fs::path free_name(const fs::path& file, MediaFormat format, std::int64_t frames)
{
    std::optional<StillNames> names;
    if (writes_stills(format))
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
        if (other.replace_filename(renamed.pattern()); those_there(targets_of(other, renamed, frames)).empty())
            return other;
    }
}

}
