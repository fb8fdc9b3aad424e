#include "core/steps/sort/sort_command.h"

#include "core/base/text.h"
#include "core/command/options.h"
#include "core/project/project_file.h"
#include "core/source/decode.h"
#include "core/steps/sort/rhythm.h"
#include "core/steps/sort/scan.h"
#include "core/steps/sort/scan_edits.h"
#include "core/steps/sort/write_sidecars.h"

#include <CLI/CLI.hpp>

#include <algorithm>
#include <iostream>

namespace frenlo::command {

namespace {

/// order: "name" or "time"; pause: "120s" or empty; throws WrongCall.
ScanOptions scan_options(const std::string& order, const std::string& pause, bool one_shot)
{
    ScanOptions options;
    options.order = order == "time" ? PhotoOrder::by_time : PhotoOrder::by_name;
    options.one_shot = one_shot;
    if (pause.empty())
        return options;
    const auto length = parse_hold(pause);
    const auto* seconds = length ? std::get_if<Seconds>(&*length) : nullptr;
    if (!seconds || seconds->value <= Fraction(0))
        throw WrongCall("\"" + pause + "\" is not a pause; 120s is");
    options.pause = *seconds;
    return options;
}

struct ScanCall
{
    std::vector<std::string> folders;
    std::string order = "name", pause;
    bool one_shot = false, close = false;
};

std::vector<std::size_t> photos_of(const ScanResult& found, const FoundShot& shot)
{
    std::vector<std::size_t> photos;
    for (std::size_t i = shot.begin; i < shot.end; ++i)
        if (found.photos[i].state == PhotoState::fine &&
            std::find(found.left_out.begin(), found.left_out.end(), i) == found.left_out.end())
            photos.push_back(i);
    return photos;
}

Json scan_json(const ScanResult& found)
{
    Json j;
    j["photos"] = Json::array();
    for (const auto& [photo, state, sidecar] : found.photos) {
        Json p{{"file", json_path(photo->file)}, {"width", photo->size.width}, {"height", photo->size.height}};
        p["captured"] = photo->captured ? Json(photo->captured->text()) : Json();
        const auto number = number_of(*photo);
        p["number"] = number ? Json(*number) : Json();
        p["state"] = state_name(state);
        if (photo->rating != 0)
            p["rating"] = photo->rating;
        if (!photo->label.empty())
            p["label"] = photo->label;
        j["photos"].push_back(std::move(p));
    }
    j["clips"] = Json::array();
    for (const FoundClip& c : found.clips) {
        Json clip{{"file", json_path(c.file->file)},
                  {"width", c.file->size.width},
                  {"height", c.file->size.height},
                  {"pictures", c.times->count}};
        clip["seconds"] = c.times->begins.empty() ? Json() : Json(c.times->end.value.text());
        clip["rate"] = c.times->rate ? Json(c.times->rate->value().text()) : Json();
        j["clips"].push_back(std::move(clip));
    }
    const auto files = [&](const std::vector<std::size_t>& indexes) {
        Json list = Json::array();
        for (const auto i : indexes)
            list.push_back(json_path(found.photos[i].photo->file));
        return list;
    };
    j["shots"] = Json::array();
    for (const auto& s : found.shots)
        j["shots"].push_back({{"name", s.name},
                              {"photos", files(photos_of(found, s))},
                              {"reason", s.reason},
                              {"kind", kind_name(s.kind)}});
    j["aside"] = files(found.aside);
    j["marker_cards"] = files(found.marker_cards);
    j["pause"] = found.pause.value.text();
    j["confidence"] = found.unsure.empty() ? "high" : "low";
    j["look_at_borders"] = Json::array();
    for (const auto& u : found.unsure)
        j["look_at_borders"].push_back({{"file", json_path(found.photos[u.photo].photo->file)}, {"text", u.why}});
    j["problems"] = Json::array();
    for (const auto& f : found.findings) {
        Json list = Json::array();
        for (const auto& file : f.files)
            list.push_back(json_path(file));
        j["problems"].push_back({{"kind", kind_name(f.kind)}, {"files", list}, {"text", f.text}});
    }
    return j;
}

struct NewCall
{
    std::string project;
    std::vector<std::string> folders;
    bool split = false;
    std::string rate = "24", hold = "1f", order = "name", pause, take;
};

int make_project(const NewCall& call, const Context& context)
{
    Project project;
    project.delivered_at = rate_option(call.rate);
    const Hold hold = hold_option(call.hold);
    std::error_code ec;
    if (std::filesystem::exists(call.project, ec)) // told before the scan; what comes into being meanwhile stays too
        throw Failure({"the file is there already", call.project, "Choose another name"});
    const std::vector<std::filesystem::path> places(call.folders.begin(), call.folders.end());
    const std::optional<ClipTaking> taking = call.take.empty() ? std::nullopt : parse_taking(call.take);
    if (!taking && !call.take.empty())
        throw WrongCall("\"" + call.take +
                        "\" says not what to take of a clip; all, every:10, interval:2s, speed:20 do");
    const ScanResult found = scan(places, scan_options(call.order, call.pause, !call.split), context.job());
    if (found.shots.empty() && found.clips.empty())
        throw Failure({"there are no photos that can be read", call.folders.front(), "Choose another folder"});
    project = add_scanned(project, found, hold, call.split ? Division::found_shots : Division::one_shot, {}, taking);
    save_new_project(project, call.project);
    std::vector<Problem> problems;
    for (const auto& f : found.findings)
        problems.push_back({f.text.substr(0, f.text.size() - (f.text.ends_with('.') ? 1 : 0)), {}, ""});
    context.json ? print_json(project_json(project, problems)) : print_project(project, problems);
    return problems.empty() ? done : done_with_problems;
}

struct SidecarsCall
{
    std::string project, shot;
};

int write_beside(const SidecarsCall& call, const Context& context)
{
    const LoadedProject loaded = load_project(call.project);
    std::optional<ShotIndex> one;
    if (!call.shot.empty() && !(one = loaded.project.find_shot(call.shot)))
        throw WrongCall("there is no shot \"" + call.shot + "\"");
    const SidecarReport report = write_sidecars(loaded.project, one, context.job());
    if (context.json) {
        Json j{{"written", report.written}, {"unchanged", report.unchanged}};
        j["problems"] = Json::array();
        for (const Problem& p : report.problems)
            j["problems"].push_back({{"file", json_path(p.file)}, {"text", p.text()}});
        print_json(j);
    } else {
        std::cout << counted(report.written, "sidecar", "sidecars") << " written, " << std::to_string(report.unchanged)
                  << " said so already\n";
    }
    for (const Problem& p : report.problems)
        std::cerr << p.text() << '\n';
    return report.problems.empty() ? done : done_with_problems;
}

int scan_and_print(const ScanCall& call, const Context& context)
{
    const std::vector<std::filesystem::path> places(call.folders.begin(), call.folders.end());
    ScanOptions options = scan_options(call.order, call.pause, call.one_shot);
    if (call.close)
        options.looking = Looking::at_photos;
    const ScanResult found = scan(places, options, context.job());
    const std::string nothing = "There are no photos in " + shown_path(call.folders.front()) +
                                (call.folders.size() > 1 ? " and the other places" : "") + ". " + readable_formats() +
                                " are found.";
    if (context.json) {
        Json j = scan_json(found);
        if (found.photos.empty() && found.clips.empty())
            j["problems"].push_back({{"kind", "no-photos"}, {"files", call.folders}, {"text", nothing}});
        print_json(j);
    } else {
        std::cout << counted(std::int64_t(found.photos.size()), "photo", "photos") << '\n';
        for (const auto& s : found.shots)
            std::cout << s.name << ": " << counted(std::int64_t(photos_of(found, s).size()), "photo", "photos") << ", "
                      << shown_name(*found.photos[s.begin].photo) << " to "
                      << shown_name(*found.photos[s.end - 1].photo) << ", " << kind_name(s.kind) << " (" << s.reason
                      << ")\n";
        for (const FoundClip& c : found.clips)
            std::cout << shown_path(c.file->file.filename()) << ": " << counted(c.times->count, "picture", "pictures")
                      << (c.times->rate ? ", " + c.times->rate->text() + " a second" : std::string()) << '\n';
        if (!found.aside.empty())
            std::cout << "set aside: " << found.aside.size()
                      << ", marker cards among them: " << found.marker_cards.size() << '\n';
        if (found.shots.size() > 1)
            std::cout << "a pause over " << shown_pause(found.pause.value.approx()) << " ends a shot\n";
        for (const auto& f : found.findings)
            std::cerr << "look at: " << f.text << '\n';
    }
    const bool none = found.photos.empty() && found.clips.empty();
    if (none)
        std::cerr << nothing << '\n';
    return found.findings.empty() && !none ? done : done_with_problems;
}

}

void add_sort_commands(CLI::App& app, Run& run)
{
    auto call = std::make_shared<ScanCall>();
    CLI::App* scan = app.add_subcommand("scan", "Find photos, runs, shots and problems");
    scan->add_option("folders", call->folders, "Folders, or one photo that stands for its run")->required();
    scan->add_option("--order", call->order, "Order of the photos")->check(CLI::IsMember({"name", "time"}));
    scan->add_option("--pause", call->pause, "The pause that ends a shot, as 120s, instead of the one that is found");
    scan->add_flag("--one-shot", call->one_shot, "All photos are one shot, whatever lies between them");
    scan->add_flag("--close", call->close,
                   "Look at each photo itself, not at the camera's thumbnail: finds blurred ones too");
    scan->callback([call, &run] { run = [call](const Context& c) { return scan_and_print(*call, c); }; });

    auto beside = std::make_shared<SidecarsCall>();
    CLI::App* sidecars = app.add_subcommand(
        "sidecars",
        "Write holds, turns and what is set aside into XMP sidecars beside the photos; their other fields stay");
    sidecars->add_option("project", beside->project, "The project")->required();
    sidecars->add_option("--shot", beside->shot, "One shot; without it all of them");
    sidecars->callback([beside, &run] { run = [beside](const Context& c) { return write_beside(*beside, c); }; });

    auto made = std::make_shared<NewCall>();
    CLI::App* make = app.add_subcommand("new", "Make a project from folders of photos");
    make->add_option("project", made->project, "The project to write, ending in .frenlo")->required();
    make->add_option("folders", made->folders, "Folders, or one photo that stands for its run")->required();
    make->add_flag("--split", made->split, "Make the shots that scan finds; without it all photos make one shot");
    make->add_option("--rate", made->rate, "Delivered at: 24, 23.976, 30000/1001")->capture_default_str();
    make->add_option("--hold", made->hold, "How long each photo stays: 2f, 0.15s, 1/6s")->capture_default_str();
    make->add_option("--pause", made->pause, "With --split: the pause that ends a shot, as 120s");
    make->add_option("--take", made->take,
                     "Of clips: all, every:10, interval:2s, speed:20; with +average the others are averaged in");
    make->add_option("--order", made->order, "Order of the photos")->check(CLI::IsMember({"name", "time"}));
    make->callback([made, &run] { run = [made](const Context& c) { return make_project(*made, c); }; });
}

}
