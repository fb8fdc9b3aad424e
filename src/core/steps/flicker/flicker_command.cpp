#include "core/steps/flicker/flicker_command.h"

#include "core/base/text.h"
#include "core/command/change_measured.h"
#include "core/command/options.h"
#include "core/picture/step_pictures.h"
#include "core/project/project_file.h"
#include "core/source/photo_source.h"
#include "core/steps/flicker/flicker_kind.h"
#include "core/steps/flicker/operations.h"

#include <CLI/CLI.hpp>

#include <iostream>

namespace frenlo::command {

namespace {

struct LightCall
{
    std::string project, shot, window;
    std::vector<std::string> region;
    std::vector<std::int64_t> keep_step, take_out_step, mix, leave, accept;
    std::optional<double> strength;
    std::optional<bool> each_colour, by_tone, by_place, camera_steps, moving_too;
    bool automatic = false, off = false;
};

Json light_json(const Shot& shot, const std::vector<Problem>& problems)
{
    Json j;
    j["photos"] = Json::array();
    for (std::size_t i = 0; i < shot.photos.size(); ++i) {
        const ShotPhoto& p = shot.photos[i];
        if (!light_of(p))
            continue;
        const LightChange& c = light_of(p)->change;
        const Correction done = correction_of(*light_of(p));
        Json photo{{"file", json_path(p.photo->file)}};
        photo["stops"] = c.stops;
        photo["target"] = c.target;
        photo["gain_stops"] =
            0.2126 * done.gain[0] + 0.7152 * done.gain[1] + 0.0722 * done.gain[2]; // one figure; of each colour below
        photo["gain_stops_rgb"] = done.gain;
        if (!done.by_tone.empty())
            photo["gain_stops_by_tone"] = done.by_tone;
        if (!done.by_place.empty())
            photo["gain_stops_by_place"] = done.by_place;
        photo["after_stops"] = *light_now(shot, PhotoIndex(std::int64_t(i)));
        photo["suspect"] = c.outlier;
        if (light_of(p)->remedy == LightRemedy::mixed)
            photo["mixed"] = true;
        j["photos"].push_back(std::move(photo));
    }
    j["steps"] = Json::array();
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (const auto& l = light_of(shot.photos[i]); l && l->jump)
            j["steps"].push_back({{"photo", i + 1},
                                  {"stops", l->jump->stops},
                                  {"cause", l->jump->cause == LightJump::Cause::camera ? "camera" : "scene"},
                                  {"kept", l->jump->kept}});
    j["window_s"] =
        deflicker_of(shot)->window_s > 0 ? deflicker_of(shot)->window_s : deflicker_of(shot)->found_window_s;
    j["window_found"] = deflicker_of(shot)->window_s <= 0;
    j["kind"] = told(deflicker_of(shot)->kind);
    const Corrected& done = deflicker_of(shot)->corrected;
    j["corrected"] = Json::array();
    for (const auto& [name, does] :
         {std::pair("each-colour", done.each_colour), std::pair("by-tone", done.by_tone),
          std::pair("by-place", done.by_place), std::pair("camera-steps", done.camera_steps)})
        if (does)
            j["corrected"].push_back(name);
    const auto& [before, after] = std::pair(deflicker_of(shot)->before, deflicker_of(shot)->after);
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
    for (const auto& [numbers, remedy] :
         {std::pair(&call.mix, LightRemedy::mixed), std::pair(&call.leave, LightRemedy::as_shot),
          std::pair(&call.accept, LightRemedy::evened)})
        for (const std::int64_t n : *numbers)
            p = resolve_light(p, index, photo(n), remedy);
    return p;
}

/// What the call does not say stays as it is.
Deflicker deflicker_of_call(const LightCall& call, const Shot& shot, Rate delivered_at)
{
    Deflicker l = shot.steps.get<Deflicker>();
    if (call.automatic)
        l = {.strength = l.strength, .leave_out_moving = l.leave_out_moving};
    if (!call.window.empty())
        l.window_s = call.window == "auto" ? 0 : length_option(call.window, delivered_at).value.approx();
    l.strength = call.strength ? *call.strength / 100 : l.strength;
    for (const auto& [said, field] :
         {std::pair(&call.each_colour, &l.each_colour), std::pair(&call.by_tone, &l.by_tone),
          std::pair(&call.by_place, &l.by_place), std::pair(&call.camera_steps, &l.camera_steps)})
        if (*said)
            *field = **said;
    l.leave_out_moving = call.moving_too ? !*call.moving_too : l.leave_out_moving;
    return l;
}

FlickerPlan plan_of(const LightCall& call, const Shot& shot, Rate delivered_at, const ToMeasure& photos)
{
    FlickerPlan plan;
    plan.settings = deflicker_of_call(call, shot, delivered_at);
    for (const auto& [numbers, stays] : {std::pair(&call.keep_step, true), std::pair(&call.take_out_step, false)})
        for (const std::int64_t n : *numbers)
            plan.steps.emplace_back(PhotoIndex(n - 1), stays);
    if (!call.region.empty()) {
        const ShotPhoto& first = shot.photos[photos.at.front().at()];
        const auto placement = placement_of(shot, first);
        plan.region = Region{boxes_option(call.region, placement ? placement->plane : seen_size(first)), {}};
    }
    return plan;
}

int light_shot(const LightCall& call, const Context& context)
{
    if (call.off) {
        change_project(call.project, [&](const Project& p) { return light_as_shot(p, named_shot(p, call.shot)); });
        return done;
    }
    const Project as_it_was = load_project(call.project).project;
    const ShotIndex place = named_shot(as_it_was, call.shot);
    const Shot& before = as_it_was.shot(place);
    const ToMeasure photos = to_measure(before);
    if (photos.at.empty())
        throw Failure({"there are no photos in the film of this shot", {}, "Bring photos into the shot"});
    const FlickerPlan plan = plan_of(call, before, as_it_was.delivered_at, photos);
    decided(as_it_was, place, call); // wrong numbers are told before minutes of measuring
    const DeflickerInput input = deflicker_input(as_it_was, before, plan.settings);
    const Edit edit = measure_flicker(as_it_was, place, plan)(MeasuredFrom(), context.job());
    // Measuring takes its time: what others changed meanwhile stays.
    const LoadedProject loaded = change_measured(call.project, before, [&](const Project& now, ShotIndex index) {
        if (!deflicker_input(now, now.shot(index), plan.settings).same_photos(input))
            throw changed_meanwhile(call.project);
        return decided(edit(now), index, call);
    });
    const Shot& shot = loaded.project.shot(same_shot(loaded.project, before));
    std::vector<Problem> problems = loaded.problems;
    for (Problem& p : unmeasured_light(shot, Originals()))
        problems.push_back(std::move(p));
    for (const ShotPhoto& p : shot.photos)
        if (to_look_at(p))
            problems.push_back({"it is much brighter or darker than the photos around it", p.photo->file,
                                "Look at it; then --accept, --leave-as-shot or --mix its number, or set it aside"});
    if (context.json) {
        print_json(light_json(shot, problems));
    } else {
        const Deflicker& now = *deflicker_of(shot);
        std::cout.precision(2);
        std::cout << shot.name << ": flicker " << now.before.shared << " to " << now.after.shared << " stop. "
                  << told(now.kind) << '\n';
        print_problems(problems);
    }
    return problems.empty() ? done : done_with_problems;
}

}

void add_flicker_commands(CLI::App& app, Run& run)
{
    auto call = std::make_shared<LightCall>();
    CLI::App* light =
        app.add_subcommand("light", "Even the light of a shot; prints how bright each photo was, is to be, and is");
    light->add_option("project", call->project, "The project")->required();
    light->add_option("--shot", call->shot, "The shot's name")->required();
    light->add_option("--window", call->window,
                      "Changes that take longer stay: 4s, 96f; auto: as fast as the photos say, at each of them; as "
                      "before, or auto, where not given");
    light
        ->add_option("--strength", call->strength,
                     "How much of the flicker is taken out, in percent; as before, or 100, where not given")
        ->check(CLI::Range(0.0, 100.0));
    light
        ->add_option("--region", call->region,
                     "Measure this part only: X,Y,W,H in pixels; may be given several times; all for the whole "
                     "picture; as before where not given")
        ->allow_extra_args(false);
    add_switch(*light, "each-colour", call->each_colour,
               "Red, green and blue by themselves, for flicker in colour; this and the next ones as the photos say "
               "where not given");
    add_switch(*light, "by-tone", call->by_tone, "Darks and lights apart, where flicker is not a plain gain");
    add_switch(*light, "by-place", call->by_place, "Each part of the picture by itself, where it is lit unevenly");
    add_switch(*light, "moving-too", call->moving_too, "What moves through the picture counts, too");
    light->add_option("--keep-step", call->keep_step, "The step at this photo stays in the film");
    light->add_option("--take-out-step", call->take_out_step, "The step at this photo is taken out");
    light->add_option("--mix", call->mix, "This photo's neighbours, mixed, stand in for it");
    light->add_option("--leave-as-shot", call->leave, "The flash or shadow of this photo stays");
    light->add_option("--accept", call->accept, "This photo was looked at: it takes the brightness of its neighbours");
    add_switch(*light, "camera-steps", call->camera_steps,
               "Take out what changes of shutter time, aperture and sensitivity made");
    light->add_flag("--automatic", call->automatic,
                    "Window and corrections as the photos say, whatever was set before; what else is given counts");
    light->add_flag("--off", call->off, "As shot again");
    light->callback([call, &run] { run = [call](const Context& c) { return light_shot(*call, c); }; });
}

}
