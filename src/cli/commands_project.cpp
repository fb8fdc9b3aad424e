#include "cli/commands.h"
#include "core/base/text.h"
#include "core/document/edits.h"
#include "core/document/project_file.h"

#include <iostream>
#include <numeric>

namespace frenlo::cli {

namespace {

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
    if (std::filesystem::exists(call.project, ec))
        throw Failure({"the file is there already", call.project, "Choose another name"});
    const std::vector<std::filesystem::path> places(call.folders.begin(), call.folders.end());
    const ScanResult found = scan(places, scan_wishes(call.order, call.pause, !call.split), context.job());
    if (found.shots.empty())
        throw Failure({"there are no photos that can be read", call.folders.front(), "Choose another folder"});
    project = add_scanned(project, found, hold, call.split ? Division::found_shots : Division::one_shot);
    save_project(project, call.project);
    std::vector<Problem> problems;
    for (const auto& f : found.findings)
        problems.push_back({f.text.substr(0, f.text.size() - (f.text.ends_with('.') ? 1 : 0)), {}, ""});
    context.json ? print_json(project_json(project, problems)) : print_project(project, problems);
    return problems.empty() ? done : done_with_problems;
}

int show_project(const std::string& file, const Context& context)
{
    const LoadedProject loaded = load_project(file);
    context.json ? print_json(project_json(loaded.project, loaded.problems))
                 : print_project(loaded.project, loaded.problems);
    return loaded.problems.empty() ? done : done_with_problems;
}

struct PaceCall
{
    std::string project, shot, hold, photos, rate, paced_at;
};

ShotIndex named_shot(const Project& project, const std::string& name)
{
    if (const auto shot = project.find_shot(name))
        return *shot;
    std::string names;
    for (const auto& s : project.shots)
        names += (names.empty() ? "" : ", ") + s->name;
    throw WrongCall("there is no shot \"" + name + "\"; there are: " + names);
}

/// "A-B" or "A", numbers from 1, both ends included.
std::vector<PhotoIndex> photos_option(const std::string& text, const Shot& shot)
{
    const auto count = static_cast<std::int64_t>(shot.photos.size());
    std::int64_t first = 1, last = count;
    if (!text.empty()) {
        const auto dash = text.find('-');
        const auto a = parse_fraction(text.substr(0, dash));
        const auto b = dash == std::string::npos ? a : parse_fraction(text.substr(dash + 1));
        if (!a || !b || a->den() != 1 || b->den() != 1 || a->num() < 1 || b->num() > count || *b < *a)
            throw WrongCall("\"" + text + "\" are not photos of this shot; 1-" + std::to_string(count) + " are");
        first = a->num();
        last = b->num();
    }
    std::vector<PhotoIndex> photos;
    for (std::int64_t n = first; n <= last; ++n)
        photos.emplace_back(n - 1);
    return photos;
}

int pace_shot(const PaceCall& call, const Context& context)
{
    LoadedProject loaded = load_project(call.project);
    Project project = loaded.project;
    const ShotIndex shot = named_shot(project, call.shot);
    if (!call.rate.empty())
        project = set_delivered_at(project, rate_option(call.rate));
    if (!call.paced_at.empty())
        project = set_paced_at(project, shot,
                               call.paced_at == "delivered" ? std::nullopt : std::optional(rate_option(call.paced_at)));
    if (!call.hold.empty())
        project = set_hold(project, shot, photos_option(call.photos, project.shot(shot)), hold_option(call.hold));
    if (!(project == loaded.project))
        save_project(project, call.project);
    const Schedule schedule = schedule_of(project, project.shot(shot));
    for (const PhotoIndex p : schedule.between_frames())
        loaded.problems.push_back({"the photo falls between two frames and will not be seen",
                                   project.shot(shot).photos[p.at()].photo->file, "Hold it longer or raise the rate"});
    if (context.json) {
        Json frames = Json::array();
        for (const PhotoIndex p : schedule.photo_of_each_frame())
            frames.push_back(p.value + 1); // photo numbers start at 1
        print_json({{"frames", frames},
                    {"rate", schedule.rate().value().text()},
                    {"seconds", schedule.length().value.text()},
                    {"problems", problems_json(loaded.problems)}});
    } else {
        print_project(project, loaded.problems);
    }
    return loaded.problems.empty() ? done : done_with_problems;
}

void add_pace(CLI::App& app, Run& run)
{
    auto call = std::make_shared<PaceCall>();
    CLI::App* pace = app.add_subcommand("pace", "Change the timing of a shot; prints its schedule");
    pace->add_option("project", call->project, "The project")->required();
    pace->add_option("--shot", call->shot, "The shot's name")->required();
    pace->add_option("--hold", call->hold, "How long each photo stays: 2f, 0.15s, 1/6s");
    pace->add_option("--photos", call->photos, "Only these, as A-B; numbers start at 1")->needs("--hold");
    pace->add_option("--rate", call->rate,
                     "Deliver the project at this rate; shots paced as delivered keep the frames of each photo");
    pace->add_option("--paced-at", call->paced_at,
                     "The rate the shot's holds are counted in, so that it keeps its clock time; \"delivered\" for none");
    pace->callback([call, &run] { run = [call](const Context& c) { return pace_shot(*call, c); }; });
}

}

void add_project_commands(CLI::App& app, Run& run)
{
    auto call = std::make_shared<NewCall>();
    CLI::App* make = app.add_subcommand("new", "Make a project from folders of photos");
    make->add_option("project", call->project, "The project to write, ending in .frenlo")->required();
    make->add_option("folders", call->folders, "Folders, or one photo that stands for its run")->required();
    make->add_flag("--split", call->split, "Make the shots that scan finds; without it all photos make one shot");
    make->add_option("--rate", call->rate, "Delivered at: 24, 23.976, 30000/1001")->capture_default_str();
    make->add_option("--hold", call->hold, "How long each photo stays: 2f, 0.15s, 1/6s")->capture_default_str();
    make->add_option("--pause", call->pause, "With --split: the pause that ends a shot, as 120s");
    make->add_option("--order", call->order, "Order of the photos")->check(CLI::IsMember({"name", "time"}));
    make->callback([call, &run] { run = [call](const Context& c) { return make_project(*call, c); }; });

    auto file = std::make_shared<std::string>();
    CLI::App* info = app.add_subcommand("info", "Say what is in a project");
    info->add_option("project", *file, "The project")->required();
    info->callback([file, &run] { run = [file](const Context& c) { return show_project(*file, c); }; });

    add_pace(app, run);
}

}
