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
    std::vector<std::int64_t> keep_step, take_out_step, mix, leave, accept;
    double strength = 100;
    bool each_colour = false, by_tone = false, by_place = false, camera_steps = false, moving_too = false, off = false;
};

Json light_json(const Shot& shot, const std::vector<Problem>& problems)
{
    Json j;
    j["photos"] = Json::array();
    for (std::size_t i = 0; i < shot.photos.size(); ++i) {
        const ShotPhoto& p = shot.photos[i];
        if (!p.light)
            continue;
        const LightChange& c = p.light->change;
        const Correction done = correction_of(*p.light);
        Json photo{{"file", json_path(p.photo->file)}};
        photo["stops"] = c.stops;
        photo["target"] = c.target;
        photo["gain_stops"] = 0.2126 * done.gain[0] + 0.7152 * done.gain[1] + 0.0722 * done.gain[2]; // one figure; of each colour below
        photo["gain_stops_rgb"] = done.gain;
        if (!done.by_tone.empty())
            photo["gain_stops_by_tone"] = done.by_tone;
        if (!done.by_place.empty())
            photo["gain_stops_by_place"] = done.by_place;
        photo["after_stops"] = *light_now(shot, PhotoIndex(std::int64_t(i)));
        photo["suspect"] = c.suspect;
        if (p.light->remedy == LightRemedy::mixed)
            photo["mixed"] = true;
        j["photos"].push_back(std::move(photo));
    }
    j["steps"] = Json::array();
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (const auto& l = shot.photos[i].light; l && l->jump)
            j["steps"].push_back({{"photo", i + 1},
                                  {"stops", l->jump->stops},
                                  {"cause", l->jump->cause == LightJump::Cause::camera ? "camera" : "scene"},
                                  {"kept", l->jump->kept}});
    const auto& [before, after] = std::pair(shot.lighting->before, shot.lighting->after);
    j["flicker_before"] = before.shared;
    j["flicker_after"] = after.shared;
    j["by_colour_before"] = before.by_colour;
    j["by_colour_after"] = after.by_colour;
    j["by_tone_before"] = before.by_tone;
    j["by_tone_after"] = after.by_tone;
    j["by_place_before"] = before.by_place;
    j["by_place_after"] = after.by_place;
    j["problems"] = problems_json(problems);
    return j;
}

/// What the call says about steps and single photos, on top of what was decided before.
Project decided(const Project& project, ShotIndex index, const LightCall& call)
{
    const std::size_t photos = project.shot(index).photos.size();
    const auto photo = [&](std::int64_t number) {
        if (number < 1 || std::size_t(number) > photos)
            throw WrongCall("the shot has photos 1 to " + std::to_string(photos) + ", not " + std::to_string(number));
        return PhotoIndex(number - 1);
    };
    Project p = project;
    for (const auto& [numbers, remedy] : {std::pair(&call.mix, LightRemedy::mixed), std::pair(&call.leave, LightRemedy::as_shot),
                                          std::pair(&call.accept, LightRemedy::evened)})
        for (const std::int64_t n : *numbers)
            p = settle_light(p, index, photo(n), remedy);
    return p;
}

void decide_steps(EveningWishes& wishes, const ToMeasure& photos, const LightCall& call)
{
    for (const auto& [numbers, stays] : {std::pair(&call.keep_step, true), std::pair(&call.take_out_step, false)})
        for (const std::int64_t n : *numbers)
            for (std::size_t i = 0; i < photos.at.size(); ++i)
                if (photos.at[i].value + 1 == n)
                    for (const LightJump::Cause cause : {LightJump::Cause::scene, LightJump::Cause::camera})
                        wishes.steps.insert(wishes.steps.begin(), {i, {0, cause, stays}});
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
    lighting.by_tone = call.by_tone;
    lighting.by_place = call.by_place;
    lighting.camera_steps = call.camera_steps;
    lighting.leave_out_moving = !call.moving_too;
    ToEven photos = to_even(loaded.project, as_it_was, lighting);
    decide_steps(photos.wishes, photos.photos, call);
    if (photos.photos.at.empty())
        throw Failure({"there are no photos in the film of this shot", {}, "Bring photos into the shot"});
    photos.region = {};
    photos.region.look_at = boxes_option(call.region, as_it_was.steady ? as_it_was.steady->size : seen_size(as_it_was.photos[photos.photos.at.front().at()]));
    const EvenedShot evened = even_shot(photos.photos.photos, photos.alignments, photos.seconds, photos.region, photos.wishes, Originals(), context.job());
    const Project project = decided(even_shot(set_light_region(loaded.project, index, photos.region), index, photos, evened, lighting), index, call);
    save_project(project, call.project);
    const Shot& shot = project.shot(index);
    std::vector<Problem> problems = loaded.problems;
    for (const ShotPhoto& p : shot.photos)
        if (to_look_at(p))
            problems.push_back({"it is much brighter or darker than the photos around it", p.photo->file,
                                "Look at it; then --accept, --leave-as-shot or --mix its number, or set it aside"});
    if (context.json) {
        print_json(light_json(shot, problems));
    } else {
        std::cout.precision(2);
        std::cout << shot.name << ": flicker " << shot.lighting->before.shared << " to " << shot.lighting->after.shared << " stop\n";
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
    light->add_flag("--by-tone", call->by_tone, "Darks and lights apart, where flicker is not a plain gain");
    light->add_flag("--by-place", call->by_place, "Each part of the picture by itself, where it is lit unevenly");
    light->add_flag("--moving-too", call->moving_too, "What moves through the picture counts, too");
    light->add_option("--keep-step", call->keep_step, "The step at this photo stays in the film");
    light->add_option("--take-out-step", call->take_out_step, "The step at this photo is taken out");
    light->add_option("--mix", call->mix, "This photo's neighbours, mixed, stand in for it");
    light->add_option("--leave-as-shot", call->leave, "The flash or shadow of this photo stays");
    light->add_option("--accept", call->accept, "This photo was looked at: it takes the brightness of its neighbours");
    light->add_flag("--camera-steps", call->camera_steps, "Take out what changes of shutter time, aperture and sensitivity made");
    light->add_flag("--off", call->off, "As shot again");
    light->callback([call, &run] { run = [call](const Context& c) { return light_shot(*call, c); }; });
}

}
