#include "core/export/export_list.h"

#include "core/base/atomic_file.h"
#include "core/base/text.h"
#include "core/export/export_plan.h"
#include "core/project/value_codecs.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <fstream>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

/// A file's name must not lead into another folder, whatever a shot is called.
std::string for_a_name(std::string text)
{
    std::replace(text.begin(), text.end(), '/', '-');
    return text;
}

void replace_all(std::string& text, std::string_view what, const std::string& with)
{
    for (std::size_t at = text.find(what); at != std::string::npos; at = text.find(what, at + with.size()))
        text.replace(at, what.size(), with);
}

fs::path relative_to(const fs::path& file, const fs::path& folder)
{
    const fs::path near = file.lexically_relative(folder);
    return near.empty() || *near.begin() == ".." ? file : near;
}

}

ExportList read_export_list(const fs::path& file)
{
    std::ifstream in(file, std::ios::binary);
    if (!in)
        throw Failure({"the list of exports cannot be opened", file, "Check its name"});
    const std::string text((std::istreambuf_iterator<char>(in)), {});
    ExportList list;
    try {
        list = from_json<ExportList>(json_from(text));
    } catch (const std::exception& e) { // Json's own, out of range, a wrong word: all mean a damaged list
        throw Failure({"the list of exports is damaged (" + std::string(e.what()) + ")", file, "Write it anew"});
    }
    const fs::path folder = fs::absolute(file).parent_path();
    if (!list.project.empty())
        list.project = (folder / list.project).lexically_normal();
    for (ListedExport& e : list.exports) {
        e.file = (folder / e.file).lexically_normal();
        if (!e.id)
            e.id = ListedId::fresh();
    }
    return list;
}

void write_export_list(const ExportList& list, const fs::path& file)
{
    ExportList near = list;
    const fs::path folder = fs::absolute(file).parent_path();
    if (!near.project.empty())
        near.project = relative_to(fs::absolute(near.project), folder);
    for (ListedExport& e : near.exports)
        e.file = relative_to(fs::absolute(e.file), folder);
    write_whole_file(file, json_text(to_json(near), 1) + '\n');
}

ExportOrder order_of(const ListedExport& listed, const Project& project, std::string_view date)
{
    ExportOrder order;
    order.reel = listed.reel;
    std::string name = "Reel";
    if (!listed.reel) {
        const auto shot = listed.shot.empty() && project.shots.size() == 1 ? std::optional(ShotIndex(0))
                                                                           : project.find_shot(listed.shot);
        if (!shot)
            throw Failure({"there is no shot \"" + listed.shot + "\"", listed.file, "Name another one in the list"});
        order.shot = project.shot(*shot).id;
        name = project.shot(*shot).name;
    }
    const Preset* preset = listed.own ? &*listed.own : find_preset(listed.preset);
    if (!preset)
        throw Failure({"there is no preset \"" + listed.preset + "\"", listed.file, "Name another one in the list"});
    order.preset = *preset;
    if (listed.size)
        order.preset.size = listed.size;
    if (listed.rate)
        order.preset.rate = listed.rate;
    if (listed.quality)
        order.preset.quality = *listed.quality;
    order.preset.fit = listed.fit.value_or(order.preset.fit);
    order.preset.colours = listed.colours.value_or(order.preset.colours);
    order.preset.dither = listed.dither.value_or(order.preset.dither);
    if (listed.most_bytes)
        order.preset.most_bytes = listed.most_bytes;
    order.shape = listed.shape;
    order.times = listed.times;
    order.overwrite = listed.overwrite;

    std::string file = listed.file.filename().native();
    replace_all(file, "{shot}", for_a_name(name));
    replace_all(file, "{preset}", for_a_name(order.preset.name));
    replace_all(file, "{date}", std::string(date));
    const Format& format = format_of(order.preset);
    const auto named = [&](int version) {
        std::string one = file;
        replace_all(one, "{version}", std::to_string(version));
        fs::path path = listed.file.parent_path() / one;
        if (!format.fits(path))
            path += format.ending();
        return path;
    };
    int version = 1;
    order.file = named(version);
    if (file.find("{version}") == std::string::npos)
        return order;
    const auto taken = [&] { return !plan_export(project, order).existing.empty(); };
    while (taken())
        order.file = named(++version);
    return order;
}

std::vector<Problem> look_ahead(const ListedExport& listed, const Project& project, const PhotoSource& source,
                                std::string_view date, const Job& job, LookedAt& looked_at)
{
    std::vector<Problem> problems;
    try {
        const ExportOrder order = order_of(listed, project, date);
        const ExportPlan plan = plan_export(project, order);
        problems = plan.problems;
        if (!plan.existing.empty() && !listed.overwrite)
            problems.push_back(there_already(plan.existing));
        if (!looked_at.files.insert(plan.file).second)
            problems.push_back(
                {"another export of the list writes this file", plan.file, "Give one of them another name"});
        std::error_code ec;
        const fs::path folder = plan.file.parent_path();
        std::uintmax_t& wanted = looked_at.wanted[folder];
        wanted += plan.estimated_bytes;
        if (const auto space = fs::space(folder, ec); !ec && wanted > space.available)
            problems.push_back({"there is room for " + shown_bytes(space.available) + ", and the list needs " +
                                    shown_bytes(wanted) + " by then",
                                folder, "Make room, or write some of it elsewhere"});
        std::vector<SeenPhoto> fresh;
        const auto photos = exported_photos(project, order);
        for (const SeenPhoto& photo : photos)
            if (!looked_at.photos.contains(photo.photo))
                fresh.push_back(photo);
        std::vector<std::optional<Problem>> found(fresh.size());
        std::atomic<std::size_t> done = 0;
        tbb::parallel_for(std::size_t(0), fresh.size(), [&](std::size_t i) {
            if (job.stopping())
                return;
            found[i] = check_photo(fresh[i], source);
            const std::size_t n = ++done;
            job.report(double(n) / double(fresh.size()),
                       "photo " + std::to_string(n) + " of " + std::to_string(fresh.size()));
        });
        job.check();
        for (std::size_t i = 0; i < fresh.size(); ++i)
            looked_at.photos[fresh[i].photo] = std::move(found[i]);
        for (const SeenPhoto& photo : photos)
            if (const auto& problem = looked_at.photos[photo.photo])
                problems.push_back(*problem);
    } catch (const Failure& failure) {
        problems.push_back(failure.problem());
    }
    return problems;
}

void run_listed(ListedExport& listed, const Project& project, const PhotoSource& source, std::string_view date,
                const Job& job)
{
    try {
        const ExportOrder order = order_of(listed, project, date);
        const ExportReport report = run_export(project, order, source, job);
        listed.state = ListState::done;
        listed.file = report.plan.file;
        listed.bytes = report.bytes;
        listed.said = report.problems.empty() ? std::string() : report.problems.front().text();
    } catch (const Failure& failure) {
        listed.state = ListState::failed;
        listed.said = failure.what();
    }
}

void run_export_list(ExportList& list, const Project& project, const PhotoSource& source, std::string_view date,
                     const Job& job, const std::function<void(const ExportList&)>& changed)
{
    const auto to_do = [](const ListedExport& e) {
        return e.state == ListState::waiting || e.state == ListState::running;
    };
    const auto all = std::count_if(list.exports.begin(), list.exports.end(), to_do);
    std::ptrdiff_t done = 0;
    for (ListedExport& e : list.exports) {
        if (!to_do(e))
            continue;
        job.check();
        e.state = ListState::running;
        changed(list);
        const Job one(job.token(), [&](double fraction, std::string_view what) {
            job.report((double(done) + fraction) / double(all),
                       std::to_string(done + 1) + " of " + std::to_string(all) + ": " + std::string(what));
        });
        try {
            run_listed(e, project, source, date, one);
        } catch (const Stopped&) {
            e.state = ListState::waiting;
            changed(list);
            throw;
        }
        ++done;
        changed(list);
    }
}

}
