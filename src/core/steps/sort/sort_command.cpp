#include "core/steps/sort/sort_command.h"

#include "core/base/text.h"
#include "core/command/options.h"
#include "core/project/project_file.h"
#include "core/source/decode.h"
#include "core/steps/sort/rhythm.h"
#include "core/steps/sort/scan.h"
#include "core/steps/sort/scan_edits.h"

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
    for (const auto& [photo, state] : found.photos) {
        Json p{{"file", json_path(photo->file)}, {"width", photo->size.width}, {"height", photo->size.height}};
        p["captured"] = photo->captured ? Json(photo->captured->text()) : Json();
        const auto number = number_of(*photo);
        p["number"] = number ? Json(*number) : Json();
        p["state"] = state_name(state);
        j["photos"].push_back(std::move(p));
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
    std::string rate = "24", hold = "1f", order = "name", pause;
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
    const ScanResult found = scan(places, scan_options(call.order, call.pause, !call.split), context.job());
    if (found.shots.empty())
        throw Failure({"there are no photos that can be read", call.folders.front(), "Choose another folder"});
    project = add_scanned(project, found, hold, call.split ? Division::found_shots : Division::one_shot);
    save_new_project(project, call.project);
    std::vector<Problem> problems;
    for (const auto& f : found.findings)
        problems.push_back({f.text.substr(0, f.text.size() - (f.text.ends_with('.') ? 1 : 0)), {}, ""});
    context.json ? print_json(project_json(project, problems)) : print_project(project, problems);
    return problems.empty() ? done : done_with_problems;
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
        if (found.photos.empty())
            j["problems"].push_back({{"kind", "no-photos"}, {"files", call.folders}, {"text", nothing}});
        print_json(j);
    } else {
        std::cout << counted(std::int64_t(found.photos.size()), "photo", "photos") << '\n';
        for (const auto& s : found.shots)
            std::cout << s.name << ": " << counted(std::int64_t(photos_of(found, s).size()), "photo", "photos") << ", "
                      << shown_path(found.photos[s.begin].photo->file.filename()) << " to "
                      << shown_path(found.photos[s.end - 1].photo->file.filename()) << ", " << kind_name(s.kind) << " ("
                      << s.reason << ")\n";
        if (!found.aside.empty())
            std::cout << "set aside: " << found.aside.size()
                      << ", marker cards among them: " << found.marker_cards.size() << '\n';
        if (found.shots.size() > 1)
            std::cout << "a pause over " << shown_pause(found.pause.value.approx()) << " ends a shot\n";
        for (const auto& f : found.findings)
            std::cerr << "look at: " << f.text << '\n';
    }
    if (found.photos.empty())
        std::cerr << nothing << '\n';
    return found.findings.empty() && !found.photos.empty() ? done : done_with_problems;
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

    auto made = std::make_shared<NewCall>();
    CLI::App* make = app.add_subcommand("new", "Make a project from folders of photos");
    make->add_option("project", made->project, "The project to write, ending in .frenlo")->required();
    make->add_option("folders", made->folders, "Folders, or one photo that stands for its run")->required();
    make->add_flag("--split", made->split, "Make the shots that scan finds; without it all photos make one shot");
    make->add_option("--rate", made->rate, "Delivered at: 24, 23.976, 30000/1001")->capture_default_str();
    make->add_option("--hold", made->hold, "How long each photo stays: 2f, 0.15s, 1/6s")->capture_default_str();
    make->add_option("--pause", made->pause, "With --split: the pause that ends a shot, as 120s");
    make->add_option("--order", made->order, "Order of the photos")->check(CLI::IsMember({"name", "time"}));
    make->callback([made, &run] { run = [made](const Context& c) { return make_project(*made, c); }; });
}

}
