#include "cli/commands.h"
#include "cli/export_options.h"
#include "core/base/shared_cache.h"
#include "core/base/text.h"
#include "core/command/output.h"
#include "core/export/estimate.h"
#include "core/export/export.h"
#include "core/export/export_list.h"
#include "core/export/format.h"
#include "core/export/join.h"
#include "core/export/kept_presets.h"
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/steps/sort/scan_edits.h"
#include "core/time/timecode.h"

#include <CLI/CLI.hpp>

#include <algorithm>
#include <array>
#include <ctime>
#include <iostream>

namespace frenlo::cli {

using namespace command;

namespace {

struct ExportCall
{
    std::string from, to, shot, preset, size, fit, rate, hold = "1f", bad_photo = "stop", palette, format, part,
                                                         max_bytes, list, shape;
    std::optional<Between> between;
    int quality = 0, colours = 0, depth = 0, times = 1;
    bool no_dither = false, dry_run = false, overwrite = false, reel = false;
};

/// A project file, or a folder that is taken as one shot.
LoadedProject opened(const ExportCall& call, const Preset& preset, const Context& context)
{
    std::error_code ec;
    if (!std::filesystem::is_directory(call.from, ec))
        return load_project(call.from);
    const std::vector<std::filesystem::path> places{call.from};
    ScanResult found = scan(places, ScanOptions{.looking = Looking::at_headers}, Job(context.stop));
    if (!found.shots.empty()) // a film that lies beside the photos is none of them
        found.clips.clear();
    if (found.shots.empty() && found.clips.empty())
        throw Failure({"there are no photos that can be read in the folder", call.from, "Choose another folder"});
    LoadedProject loaded;
    if (preset.rate) // frames are counted at the rate that is asked for: one a photo, where nothing else is said
        loaded.project.delivered_at = *preset.rate;
    loaded.project = add_scanned(loaded.project, found, hold_option(call.hold), Division::one_shot);
    for (const auto& f : found.findings)
        loaded.problems.push_back({f.text.substr(0, f.text.size() - 1), {}, ""});
    return loaded;
}

ShotIndex chosen_shot(const Project& project, const std::string& name)
{
    if (name.empty() && project.shots.size() == 1)
        return ShotIndex(0);
    if (name.empty())
        throw WrongCall("the project has " + counted(std::int64_t(project.shots.size()), "shot", "shots") +
                        "; say which with --shot");
    if (const auto shot = project.find_shot(name))
        return *shot;
    throw WrongCall("there is no shot \"" + name + "\"");
}

/// "3/8".
FilmPart part_option(const std::string& text)
{
    const auto slash = text.find('/');
    const auto number = parse_fraction(text.substr(0, slash));
    const auto of = slash == std::string::npos ? std::nullopt : parse_fraction(text.substr(slash + 1));
    constexpr std::int64_t most = 100'000;
    if (!number || !of || number->den() != 1 || of->den() != 1 || of->num() < 1 || of->num() > most ||
        number->num() < 1 || number->num() > of->num())
        throw WrongCall("\"" + text + "\" is no part; 3/8 is the third of eight");
    return {number->num(), of->num()};
}

/// ".mp4, .mov and .gif".
std::string endings()
{
    std::vector<std::string> all;
    for (const Format& f : formats())
        if (std::string e(f.ending()); std::find(all.begin(), all.end(), e) == all.end())
            all.push_back(std::move(e));
    std::string text;
    for (std::size_t i = 0; i < all.size(); ++i)
        text += (i == 0 ? "" : i + 1 == all.size() ? " and " : ", ") + all[i];
    return text;
}

/// The preset that writes this format, with its usual settings.
const Preset* preset_of_format(const std::string& key)
{
    const auto all = presets();
    const auto it = std::find_if(all.begin(), all.end(), [&](const Preset& p) { return p.format == key; });
    return it == all.end() ? nullptr : &*it;
}

Preset chosen_preset(const ExportCall& call)
{
    const auto own = call.preset.empty() ? std::vector<Preset>() : load_presets(usual_presets_file());
    const Preset* found = !call.preset.empty()   ? find_preset(call.preset, own)
                          : !call.format.empty() ? preset_of_format(call.format)
                                                 : preset_for_ending(call.to);
    if (!found && call.preset.empty() && !call.format.empty())
        throw WrongCall("there is no format \"" + call.format + "\"; 'frenlo-cli presets --json' lists them");
    if (!found && call.preset.empty())
        throw WrongCall("the ending of \"" + call.to + "\" says no format; " + endings() + " do");
    if (!found)
        throw WrongCall("there is no preset \"" + call.preset + "\"; 'frenlo-cli presets' lists them");
    Preset preset = *found;
    if (!call.size.empty())
        preset.size = size_option(call.size);
    if (!call.fit.empty())
        preset.fit = call.fit == "fill" ? Fit::fill : Fit::inside;
    if (!call.rate.empty())
        preset.rate = rate_option(call.rate);
    if (call.quality > 0)
        preset.quality = call.quality;
    if (call.colours > 0)
        preset.colours = call.colours;
    if (call.depth > 0)
        preset.depth = call.depth == 16 ? Depth::sixteen : Depth::eight;
    if (!call.max_bytes.empty())
        preset.most_bytes = bytes_option(call.max_bytes);
    if (call.no_dither)
        preset.dither = false;
    if (!call.palette.empty())
        preset.palette = call.palette == "picture" ? Palette::each_picture : Palette::one_for_all;
    return preset;
}

/// "96 frames, 0:04:00" of a film, "13 pictures, 1.95 s" of a loop.
std::string length_of_plan(const ExportPlan& plan)
{
    if (length_of(plan.frames, plan.rate) == plan.length)
        return counted(plan.frames, "frame", "frames") + ", " + length_text(plan.frames, plan.rate, Counting::clock);
    return counted(plan.frames, "picture", "pictures") + ", " + shown_seconds(plan.length);
}

Json plan_json(const ExportPlan& plan)
{
    return {{"file", json_path(plan.file)},
            {"frames", plan.frames},
            {"seconds", plan.length.value.text()},
            {"rate", plan.rate.value().text()},
            {"width", plan.size.width},
            {"height", plan.size.height},
            {"notes", plan.notes}};
}

void print_notes(const ExportPlan& plan)
{
    for (const std::string& note : plan.notes)
        std::cerr << "note: " << note << '\n';
}

/// What would be written. bad: photos that stand in its way.
int show_dry_run(const LoadedProject& loaded, const ExportOrder& order, const ExportPlan& planned,
                 const std::vector<Problem>& bad, const Context& context)
{
    ExportPlan plan = planned;
    std::optional<ExportEstimate> estimate;
    if (bad.empty()) {
        SharedCache memory(usual_cache_bytes());
        estimate = estimate_export(loaded.project, order, Originals(&memory), context.job());
        plan = with_estimate(std::move(plan), order, *estimate);
    }
    std::vector<Problem> problems = loaded.problems;
    problems.insert(problems.end(), plan.problems.begin(), plan.problems.end());
    for (const Problem& p : bad)
        if (std::find(problems.begin(), problems.end(), p) == problems.end())
            problems.push_back(p);
    if (context.json) {
        Json j = plan_json(plan);
        j["estimated_bytes"] = plan.estimated_bytes;
        if (estimate)
            j["estimated_time"] = estimate->seconds;
        j["free_bytes"] = plan.free_bytes;
        j["existing"] = Json::array();
        for (const auto& file : plan.existing)
            j["existing"].push_back(json_path(file));
        j["problems"] = problems_json(problems);
        print_json(j);
    } else {
        std::cout << shown_path(plan.file) << ": " << length_of_plan(plan) << ", " << plan.size.width << " × "
                  << plan.size.height << ", about " << shown_bytes(plan.estimated_bytes) << ", "
                  << shown_bytes(plan.free_bytes) << " free\n";
        print_notes(plan);
        print_problems(problems);
    }
    return problems.empty() ? done : done_with_problems;
}

int export_shot(const ExportCall& call, const Context& context)
{
    const Preset preset = chosen_preset(call);
    if (call.reel && !call.shot.empty())
        throw WrongCall("--reel is all shots as one film; --shot is one of them");
    const LoadedProject loaded = opened(call, preset, context);
    ExportOrder order;
    order.reel = call.reel;
    if (!call.reel)
        order.shot = loaded.project.shot(chosen_shot(loaded.project, call.shot)).id;
    order.file = call.to;
    order.preset = preset;
    order.shape = call.shape;
    order.on_bad_photo = call.bad_photo == "hold" ? OnBadPhoto::hold_before : OnBadPhoto::stop;
    order.between = call.between;
    order.overwrite = call.overwrite;
    if (!call.part.empty())
        order.part = part_option(call.part);
    order.times = call.times;
    const ExportPlan plan = plan_export(loaded.project, order);
    std::vector<Problem> problems = loaded.problems;
    if (call.dry_run) {
        const auto bad = check_photos(exported_photos(loaded.project, order), Originals(), context.job());
        return show_dry_run(loaded, order, plan, bad, context);
    }
    if (!plan.existing.empty() && !call.overwrite)
        throw Failure({plan.existing.size() == 1
                           ? "the file is there already"
                           : "this file and " + std::to_string(plan.existing.size() - 1) + " more are there already",
                       plan.existing.front(), "Choose another name, or replace what is there with --overwrite"});
    SharedCache memory(usual_cache_bytes());
    const ExportReport report = run_export(loaded.project, order, Originals(&memory), context.long_job());
    problems.insert(problems.end(), report.problems.begin(), report.problems.end());
    if (context.json) {
        Json j = plan_json(report.plan);
        j["files"] = report.files;
        j["bytes"] = report.bytes;
        j["checked"] = report.checked;
        for (const TriedSettings& t : report.tried)
            j["tried"].push_back({{"quality", t.quality},
                                  {"colours", t.colours},
                                  {"width", t.size.width},
                                  {"height", t.size.height},
                                  {"bytes", t.bytes},
                                  {"sampled", t.sampled}});
        j["problems"] = problems_json(problems);
        print_json(j);
    } else {
        std::cout << shown_path(report.plan.file) << ": " << length_of_plan(report.plan) << ", "
                  << report.plan.size.width << " × " << report.plan.size.height << ", " << shown_bytes(report.bytes)
                  << ", checked\n";
        print_notes(report.plan);
        print_problems(problems);
    }
    return problems.empty() ? done : done_with_problems;
}

std::string today()
{
    const std::time_t now = std::time(nullptr);
    std::tm local = {};
    localtime_r(&now, &local);
    std::array<char, 16> text{};
    std::strftime(text.data(), text.size(), "%Y-%m-%d", &local);
    return text.data();
}

Json listed_json(const ListedExport& e)
{
    return {{"file", json_path(e.file)}, {"state", word_of(e.state)}, {"bytes", e.bytes}, {"said", e.said}};
}

/// What would go wrong with what waits in a list; nothing is written.
int look_through(const ExportList& list, const LoadedProject& loaded, const Context& context)
{
    LookedAt looked_at;
    Json j{{"exports", Json::array()}};
    bool fine = true;
    for (const ListedExport& e : list.exports) {
        if (e.state != ListState::waiting && e.state != ListState::running)
            continue;
        const auto problems = look_ahead(e, loaded.project, Originals(), today(), context.long_job(), looked_at);
        fine = fine && problems.empty();
        j["exports"].push_back({{"file", json_path(e.file)}, {"problems", problems_json(problems)}});
        if (context.json)
            continue;
        std::cout << shown_path(e.file) << (problems.empty() ? ": nothing stands in its way\n" : "\n");
        print_problems(problems);
    }
    j["photos"] = looked_at.photos.size();
    j["problems"] = problems_json(loaded.problems);
    if (context.json)
        print_json(j);
    return fine && loaded.problems.empty() ? done : done_with_problems;
}

/// All that waits in a list; what became of each is written into it before the next begins.
int export_list(const ExportCall& call, const Context& context)
{
    ExportList list = read_export_list(call.list);
    if (!call.from.empty())
        list.project = call.from;
    if (list.project.empty())
        throw WrongCall("the list names no project; name one before --list");
    const LoadedProject loaded = load_project(list.project);
    const auto own = load_presets(usual_presets_file());
    for (ListedExport& e : list.exports)
        if (const Preset* preset = find_preset(e.preset, own); preset && !e.own && !find_preset(e.preset))
            e.own = *preset;
    if (call.dry_run)
        return look_through(list, loaded, context);
    SharedCache memory(usual_cache_bytes());
    run_export_list(list, loaded.project, Originals(&memory), today(), context.long_job(), [&](const ExportList& now) {
        write_export_list(now, call.list);
        for (const ListedExport& e : now.exports)
            if (e.state == ListState::running && !context.json)
                std::cerr << shown_path(e.file) << '\n';
    });
    Json j{{"exports", Json::array()}};
    bool all = true;
    for (const ListedExport& e : list.exports) {
        all = all && e.state == ListState::done && e.said.empty();
        j["exports"].push_back(listed_json(e));
        if (!context.json)
            std::cout << word_of(e.state) << "  " << shown_path(e.file)
                      << (e.state == ListState::done ? ", " + shown_bytes(e.bytes) : std::string())
                      << (e.said.empty() ? std::string() : "  " + e.said) << '\n';
    }
    if (context.json) {
        j["problems"] = problems_json(loaded.problems);
        print_json(j);
    } else {
        print_problems(loaded.problems);
    }
    return all && loaded.problems.empty() ? done : done_with_problems;
}

struct JoinCall
{
    std::vector<std::string> pieces;
    std::string to;
    bool overwrite = false;
};

int join_films(const JoinCall& call, const Context& context)
{
    const std::vector<std::filesystem::path> pieces(call.pieces.begin(), call.pieces.end());
    const Joined joined = join_pieces(pieces, call.to, call.overwrite, context.job());
    const Seconds length = length_of(joined.frames, joined.rate);
    if (context.json)
        print_json({{"file", json_path(call.to)},
                    {"frames", joined.frames},
                    {"seconds", length.value.text()},
                    {"rate", joined.rate.value().text()},
                    {"bytes", joined.bytes},
                    {"width", joined.size.width},
                    {"height", joined.size.height},
                    {"checked", true},
                    {"problems", Json::array()}});
    else
        std::cout << shown_path(call.to) << ": " << counted(joined.frames, "frame", "frames") << ", "
                  << shown_bytes(joined.bytes) << ", checked\n";
    return done;
}

}

void add_export_commands(CLI::App& app, Run& run)
{
    auto call = std::make_shared<ExportCall>();
    CLI::App* e = app.add_subcommand("export", "Write a film, a loop or numbered stills");
    e->add_option("from", call->from, "A project, or a folder of photos");
    e->add_option("-o,--output", call->to, "The file; its ending chooses the format, name_%04d.png writes stills");
    e->add_option(
        "--list", call->list,
        "In place of all else: a list of exports as JSON, {\"project\":…,\"exports\":[{\"shot\":…,\"preset\":…,"
        "\"file\":\"{shot} {preset} {version}.mp4\"}]}; what is done in it is not done again");
    e->add_option("--shot", call->shot, "The shot's name; not needed where there is one");
    e->add_option("--preset", call->preset, "One of 'frenlo-cli presets'");
    e->add_option("--part", call->part,
                  "3/8: the third of eight pieces, an exact share of the frames; join puts them together");
    e->add_option("--format", call->format, "One of the formats that 'frenlo-cli presets --json' names");
    e->add_option("--max-bytes", call->max_bytes,
                  "2MB: the best quality, colours and size that keep the file below it are found");
    e->add_option("--times", call->times, "The film so often, one after another")->check(CLI::Range(1, most_times));
    e->add_option("--depth", call->depth, "Bits a channel, where the format has more than 8")
        ->check(CLI::IsMember({8, 16}));
    e->add_option("--size", call->size, "WxH pixels; Wx or xH lets the other side follow");
    e->add_option("--fit", call->fit, "inside: the whole photo; fill: the whole frame")
        ->check(CLI::IsMember({"inside", "fill"}));
    e->add_option("--shape", call->shape,
                  "9:16: the dress of this shape, where the shot is dressed for several; without it that of --size, or "
                  "the one in hand");
    e->add_option("--rate", call->rate, "Deliver at this rate; holds keep their clock time");
    e->add_option("--between", call->between,
                  "What a frame shows that begins in one photo and ends in another; the shot's own when not given")
        ->transform(CLI::CheckedTransformer(command::words<Between>()));
    e->add_option("--hold", call->hold, "For a folder: how long each photo stays; frames are those of --rate")
        ->capture_default_str();
    e->add_option("--quality", call->quality, "1 to 100")->check(CLI::Range(1, 100));
    e->add_option("--colours", call->colours, "Of a loop")->check(CLI::Range(4, 256));
    e->add_flag("--no-dither", call->no_dither, "Leave the colours of a loop plain");
    e->add_option("--palette", call->palette, "Of a loop: one for all, or one for each picture")
        ->check(CLI::IsMember({"all", "picture"}));
    e->add_option("--bad-photo", call->bad_photo, "When a photo cannot be read: stop, or hold the photo before")
        ->check(CLI::IsMember({"stop", "hold"}))
        ->capture_default_str();
    e->add_flag("--overwrite", call->overwrite,
                "Replace what is there under the names that are written; without it, it stays and is told");
    e->add_flag("--dry-run", call->dry_run,
                "Only say what would be written, how large it gets, whether there is room and whether each photo can "
                "be read whole");
    e->add_flag("--reel", call->reel, "All shots of the Reel as one film, with its sound");
    e->callback([call, &run] {
        if (call->list.empty() && (call->from.empty() || call->to.empty()))
            throw CLI::RequiredError(call->from.empty() ? "from" : "--output");
        run = [call](const Context& c) { return call->list.empty() ? export_shot(*call, c) : export_list(*call, c); };
    });

    auto joining = std::make_shared<JoinCall>();
    CLI::App* j =
        app.add_subcommand("join", "Put pieces of a film (export --part) together, without encoding them again");
    j->add_option("pieces", joining->pieces, "In their order")->required();
    j->add_option("-o,--output", joining->to, "The film")->required();
    j->add_flag("--overwrite", joining->overwrite, "Replace what is there");
    j->callback([joining, &run] { run = [joining](const Context& c) { return join_films(*joining, c); }; });
}

}
