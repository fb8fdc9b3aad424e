#include "cli/commands.h"
#include "core/base/text.h"
#include "core/document/light_edits.h"
#include "core/document/project_file.h"

#include <iostream>

namespace frenlo::cli {

namespace {

struct LightCall
{
    std::string project, shot, window;
    std::vector<std::string> region;
    double strength = 100;
    bool each_colour = false, camera_steps = false, off = false;
};

Json light_json(const Shot& shot, const std::vector<Problem>& problems)
{
    Json j;
    j["photos"] = Json::array();
    for (const ShotPhoto& p : shot.photos) {
        if (!p.light)
            continue;
        const LightChange& c = p.light->change;
        Json photo{{"file", json_path(p.photo->file)}};
        photo["stops"] = c.stops;
        photo["target"] = c.target;
        photo["gain_stops"] = 0.2126 * c.gain[0] + 0.7152 * c.gain[1] + 0.0722 * c.gain[2]; // one figure; of each colour below
        photo["gain_stops_rgb"] = c.gain;
        photo["after_stops"] = p.light->after;
        photo["suspect"] = c.suspect;
        j["photos"].push_back(std::move(photo));
    }
    j["steps"] = Json::array();
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (const auto& l = shot.photos[i].light; l && l->jump)
            j["steps"].push_back({{"photo", i + 1},
                                  {"stops", l->jump->stops},
                                  {"cause", l->jump->cause == LightJump::Cause::camera ? "camera" : "scene"},
                                  {"kept", l->jump->kept}});
    j["flicker_before"] = shot.lighting->flicker_before;
    j["flicker_after"] = shot.lighting->flicker_after;
    j["problems"] = problems_json(problems);
    return j;
}

int light_shot(const LightCall& call, const Context& context)
{
    const LoadedProject loaded = load_project(call.project);
    const ShotIndex index = named_shot(loaded.project, call.shot);
    if (call.off) {
        save_project(light_as_shot(loaded.project, index), call.project);
        return done;
    }
    const Shot& as_it_was = loaded.project.shot(index);
    Lighting lighting;
    if (!call.window.empty())
        lighting.window_s = length_option(call.window, loaded.project.delivered_at).value.approx();
    lighting.strength = call.strength / 100;
    lighting.each_colour = call.each_colour;
    lighting.camera_steps = call.camera_steps;
    const ToEven photos = to_even(loaded.project, as_it_was, lighting);
    if (photos.photos.at.empty())
        throw Failure({"there are no photos in the film of this shot", {}, "Bring photos into the shot"});
    lighting.region.look_at = boxes_option(call.region, as_it_was.steady ? as_it_was.steady->size : seen_size(as_it_was.photos[photos.photos.at.front().at()]));
    const EvenedShot evened = even_shot(photos.photos.photos, photos.alignments, photos.seconds, lighting.region, photos.wishes, Originals(), context.job());
    const Project project = even_shot(loaded.project, index, photos, evened, lighting);
    save_project(project, call.project);
    const Shot& shot = project.shot(index);
    std::vector<Problem> problems = loaded.problems;
    for (const ShotPhoto& p : shot.photos)
        if (p.light && p.light->change.suspect)
            problems.push_back({"it is much brighter or darker than the photos around it", p.photo->file, "Look at it; set it aside where it does not belong"});
    if (context.json) {
        print_json(light_json(shot, problems));
    } else {
        std::cout.precision(2);
        std::cout << shot.name << ": flicker " << shot.lighting->flicker_before << " to " << shot.lighting->flicker_after << " stop\n";
        print_problems(problems);
    }
    return problems.empty() ? done : done_with_problems;
}

}

void add_light(CLI::App& app, Run& run)
{
    auto call = std::make_shared<LightCall>();
    CLI::App* light = app.add_subcommand("light", "Even the light of a shot; prints how bright each photo was, is to be, and is");
    light->add_option("project", call->project, "The project")->required();
    light->add_option("--shot", call->shot, "The shot's name")->required();
    light->add_option("--window", call->window, "Changes that take longer stay: 4s, 96f; 4s when not given");
    light->add_option("--strength", call->strength, "How much of the flicker is taken out, in percent")->check(CLI::Range(0.0, 100.0))->capture_default_str();
    light->add_option("--region", call->region, "Measure this part only: X,Y,W,H in pixels; may be given several times")->allow_extra_args(false);
    light->add_flag("--each-colour", call->each_colour, "Red, green and blue by themselves, for flicker in colour");
    light->add_flag("--camera-steps", call->camera_steps, "Take out what changes of shutter time, aperture and sensitivity made");
    light->add_flag("--off", call->off, "As shot again");
    light->callback([call, &run] { run = [call](const Context& c) { return light_shot(*call, c); }; });
}

}
