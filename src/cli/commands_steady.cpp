#include "cli/commands.h"
#include "core/base/text.h"
#include "core/document/project_file.h"
#include "core/document/steady_edits.h"

#include <algorithm>
#include <iostream>
#include <sstream>

namespace frenlo::cli {

namespace {

struct SteadyCall
{
    std::string project, shot, way = "still", model = "similar", region, crop = "auto";
    int reference = 0;
    bool off = false;
};

/// "X,Y,W,H": pixels of the photos as seen.
Region region_option(const std::string& text, cv::Size size)
{
    Region region;
    if (text.empty())
        return region;
    std::array<double, 4> v{};
    std::istringstream in(text);
    char comma = ',';
    for (std::size_t i = 0; i < v.size(); ++i)
        if ((i > 0 && !(in >> comma)) || comma != ',' || !(in >> v[i]))
            throw WrongCall("\"" + text + "\" is not a region; X,Y,W,H in pixels is");
    if (v[2] < 1 || v[3] < 1 || v[0] < 0 || v[1] < 0 || v[0] + v[2] > size.width || v[1] + v[3] > size.height)
        throw WrongCall("the region " + text + " does not lie within the photos, which are " + std::to_string(size.width) + " x " +
                        std::to_string(size.height));
    region.look_at = {{v[0] / size.width, v[1] / size.height, v[2] / size.width, v[3] / size.height}};
    return region;
}

Json matrix_json(const Transform& t)
{
    Json rows = Json::array();
    for (int r = 0; r < 3; ++r)
        rows.push_back({t(r, 0), t(r, 1), t(r, 2)});
    return rows;
}

Json steady_json(const Shot& shot, const std::vector<Problem>& problems)
{
    Json j;
    const auto reference = reference_photo(shot);
    j["reference"] = reference ? Json(json_path(shot.photos[reference->at()].photo->file)) : Json(nullptr);
    j["photos"] = Json::array();
    for (const ShotPhoto& p : shot.photos) {
        if (!p.alignment)
            continue;
        Json photo{{"file", json_path(p.photo->file)},
                   {"matrix", matrix_json(p.alignment->from_reference)},
                   {"residual_px", p.alignment->residual_px},
                   {"inliers", p.alignment->inliers},
                   {"doubtful", !p.alignment->doubt.empty()}};
        if (!p.alignment->doubt.empty())
            photo["doubt"] = p.alignment->doubt;
        j["photos"].push_back(std::move(photo));
    }
    if (shot.steady) {
        const cv::Rect& f = shot.steady->frame;
        j["crop"] = {f.x, f.y, f.width, f.height};
    }
    j["problems"] = problems_json(problems);
    return j;
}

int steady_shot(const SteadyCall& call, const Context& context)
{
    const LoadedProject loaded = load_project(call.project);
    const ShotIndex index = named_shot(loaded.project, call.shot);
    if (call.off) {
        save_project(as_shot(loaded.project, index), call.project);
        return done;
    }
    const ToMeasure photos = to_measure(loaded.project.shot(index));
    StillWishes wishes;
    wishes.movement = *parse_movement(call.model);
    if (call.reference > 0) {
        const auto at = std::find(photos.at.begin(), photos.at.end(), PhotoIndex(call.reference - 1));
        if (at == photos.at.end())
            throw WrongCall("photo " + std::to_string(call.reference) + " is not in the film of this shot");
        wishes.reference = std::size_t(at - photos.at.begin());
    }
    if (!photos.at.empty())
        wishes.region = region_option(call.region, seen_size(loaded.project.shot(index).photos[photos.at.front().at()]));
    const HeldStill held = hold_still(photos.photos, wishes, Originals(), context.job());
    const Project project = hold_still(loaded.project, index, photos, held, wishes.movement, call.crop == "auto");
    save_project(project, call.project);
    std::vector<Problem> problems = loaded.problems;
    for (std::size_t i = 0; i < held.photos.size(); ++i)
        if (!held.photos[i].doubt.empty())
            problems.push_back({held.photos[i].doubt, photos.photos[i].photo->file, "Look at it; it lies as its neighbours do"});
    const Shot& shot = project.shot(index);
    if (context.json) {
        print_json(steady_json(shot, problems));
    } else {
        const cv::Rect& f = shot.steady->frame;
        std::cout << shot.name << ": " << held.photos.size() << " photos held still on "
                  << shown_path(photos.photos[held.reference].photo->file.filename()) << "; the film's frame is " << f.width << " x "
                  << f.height << " at " << f.x << ", " << f.y << '\n';
        print_problems(problems);
    }
    return problems.empty() ? done : done_with_problems;
}

}

void add_steady(CLI::App& app, Run& run)
{
    auto call = std::make_shared<SteadyCall>();
    CLI::App* steady = app.add_subcommand("steady", "Hold the photos of a shot still; prints how each lies");
    steady->add_option("project", call->project, "The project")->required();
    steady->add_option("--shot", call->shot, "The shot's name")->required();
    steady->add_option("--way", call->way, "still: all photos on a reference photo")->check(CLI::IsMember({"still"}))->capture_default_str();
    steady->add_option("--model", call->model, "What the photos may have moved by, each including those before it")
        ->check(CLI::IsMember({"shift", "turn", "similar", "perspective"}))
        ->capture_default_str();
    steady->add_option("--reference", call->reference, "The photo that stays where it is; the sharpest of the most typical when not given")
        ->check(CLI::PositiveNumber);
    steady->add_option("--region", call->region, "Look at this part only: X,Y,W,H in pixels");
    steady->add_option("--crop", call->crop, "auto: the largest box inside all photos; none: the whole frame, edges go on")
        ->check(CLI::IsMember({"auto", "none"}))
        ->capture_default_str();
    steady->add_flag("--off", call->off, "As shot again");
    steady->callback([call, &run] { run = [call](const Context& c) { return steady_shot(*call, c); }; });
}

}
