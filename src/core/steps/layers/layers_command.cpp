#include "core/steps/layers/layers_command.h"

#include "core/base/text.h"
#include "core/cards/card_values.h"
#include "core/command/change_measured.h"
#include "core/picture/step_pictures.h"
#include "core/project/project_file.h"
#include "core/steps/layers/bring_picture_in.h"
#include "core/steps/layers/layer_edits.h"
#include "core/timeline/reel_timeline.h"

#include <CLI/CLI.hpp>

#include <cmath>
#include <iostream>
#include <map>
#include <span>
#include <sstream>

namespace frenlo::command {

namespace {

struct LayersCall
{
    std::string project, shot, picture, text, film, frames, at, to, take_out;
    std::optional<double> size, turn, opacity, soft_edge;
    std::optional<Blend> blend;
    std::optional<FilmEnd> film_end;
    std::optional<Ease> ease;
    std::optional<MovementEnd> movement_end;
    std::optional<bool> behind, scene, shadow, locked, curved;
    std::optional<int> layer, matte, on, off, remove, up, down;
    bool reel = false, inverse = false, brightness = false, keep_colour = false, no_matte = false;
};

std::string kind_of(const Project& project, const Layer& layer)
{
    if (!layer.shot)
        return "drawing";
    const auto shot = project.find_shot(*layer.shot);
    if (!shot)
        return "gone";
    if (text_card_of(project.shot(*shot)))
        return "text";
    return project.shot(*shot).photos.size() == 1 ? "picture" : "film";
}

std::pair<double, double> place_option(const std::string& text)
{
    const std::string what = "a place is X,Y in shares of the frame, 0.5,0.5 its middle";
    const auto n = numbers_option(text, what);
    if (n.size() != 2)
        throw WrongCall(what + ", not \"" + text + '"');
    return {n[0], n[1]};
}

LayerId numbered(std::span<const Layer> layers, int n)
{
    if (n < 1 || std::size_t(n) > layers.size())
        throw WrongCall("there is no layer " + std::to_string(n) + "; there are " + std::to_string(layers.size()));
    return layers[std::size_t(n - 1)].id;
}

/// As times from begin to end.
void take_frames(const std::string& text, Rate rate, Layer& layer)
{
    constexpr std::int64_t most = 100'000'000;
    const auto [first, last] = span_option(text, most, "frames");
    layer.begin = length_of(first - 1, rate);
    layer.end = length_of(last, rate);
}

/// What a call says of one layer.
void describe(const LayersCall& call, std::span<const Layer> all, Rate rate, Seconds film, Layer& layer)
{
    if (call.behind)
        layer.behind = *call.behind;
    if (call.scene)
        layer.on_scene = *call.scene;
    if (call.locked)
        layer.locked = *call.locked;
    if (call.curved)
        layer.curved = *call.curved;
    layer.blend = call.blend.value_or(layer.blend);
    layer.film_end = call.film_end.value_or(layer.film_end);
    layer.movement_end = call.movement_end.value_or(layer.movement_end);
    layer.soft_edge = call.soft_edge ? *call.soft_edge / 100 : layer.soft_edge;
    if (call.shadow)
        layer.shadow = *call.shadow ? std::optional(LayerShadow()) : std::nullopt;
    if (!call.frames.empty())
        take_frames(call.frames, rate, layer);
    const bool placed = !call.at.empty() || call.size || call.turn || call.opacity || !call.to.empty();
    if (placed && layer.keys.empty())
        layer.keys.push_back({.at = layer.begin});
    for (LayerKey& k : layer.keys) {
        if (!call.at.empty())
            std::tie(k.x, k.y) = place_option(call.at);
        k.size = call.size ? *call.size / 100 : k.size;
        k.turn = call.turn.value_or(k.turn);
        k.opacity = call.opacity ? *call.opacity / 100 : k.opacity;
        k.ease = call.ease.value_or(k.ease);
    }
    if (!call.to.empty()) { // there with the last frame that it is seen in
        layer.keys.resize(1);
        layer.keys.front().at = layer.begin;
        LayerKey last = layer.keys.front();
        last.at = {(layer.end ? *layer.end : film).value - length_of(1, rate).value};
        std::tie(last.x, last.y) = place_option(call.to);
        if (!(layer.keys.front().at.value < last.at.value))
            throw WrongCall("the layer is seen in one frame only: it cannot move");
        layer.keys.push_back(last);
    }
    if (call.matte)
        layer.matte = LayerMatte{numbered(all, *call.matte), call.brightness ? MatteOf::brightness : MatteOf::alpha,
                                 call.inverse};
    if (call.no_matte)
        layer.matte.reset();
}

LayerHome home_of(const Project& project, const LayersCall& call)
{
    if (call.reel)
        return {};
    return {project.shot(named_shot(project, call.shot)).id};
}

std::int64_t frames_of(const Project& project, const LayerHome& home)
{
    if (!home.shot)
        return reel_of(project)->frames();
    return schedule_of(project, project.shot(*project.find_shot(*home.shot))).frames();
}

Project changed(const Project& now, const LayersCall& call)
{
    const LayerHome home = home_of(now, call);
    const auto before = layers_of(now, home);
    WithLayer with{now};
    if (!call.picture.empty())
        with = add_picture_layer(now, home, picture_shot(call.picture));
    else if (!call.text.empty())
        with = add_text_layer(now, home, call.text);
    else if (!call.film.empty()) {
        with = add_film_layer(now, home, now.shot(named_shot(now, call.film)).id);
        if (!with.layer)
            throw WrongCall("a shot cannot lie over itself");
    } else if (call.layer)
        with.layer = numbered(before, *call.layer);
    Project p = std::move(with.project);
    const Seconds film = length_of(frames_of(p, home), p.delivered_at);
    if (with.layer)
        p = change_layer(p, home, with.layer,
                         [&](Layer& layer) { describe(call, before, p.delivered_at, film, layer); });
    const auto switched = [&](const std::optional<int>& n, bool on) {
        if (n)
            p = change_layer(p, home, numbered(before, *n), [&](Layer& layer) { layer.on = on; });
    };
    switched(call.on, true);
    switched(call.off, false);
    if (call.up)
        p = move_layer(p, home, numbered(before, *call.up), 1);
    if (call.down)
        p = move_layer(p, home, numbered(before, *call.down), -1);
    if (call.remove)
        p = remove_layer(p, home, numbered(before, *call.remove));
    if (!call.take_out.empty() || call.keep_colour) {
        std::optional<ShotId> of = home.shot;
        if (with.layer)
            of = find_layer(p, home, with.layer)->shot;
        if (!of)
            throw WrongCall("a colour is taken out of a shot or of a layer with a film");
        p = set_colour_out(
            p, *of, call.keep_colour ? std::nullopt : std::optional(ColourOut{.colour = colour_option(call.take_out)}));
    }
    return p;
}

int run_layers(const LayersCall& call, const Context& context)
{
    const LoadedProject loaded = change_project(call.project, [&](const Project& now) { return changed(now, call); });
    const Project& p = loaded.project;
    const LayerHome home = home_of(p, call);
    const auto notes = layer_notes(p, home);
    const std::int64_t last = frames_of(p, home);
    const Rate rate = p.delivered_at;
    Json list = Json::array();
    int n = 0;
    for (const Layer& layer : layers_of(p, home)) {
        const std::int64_t begin = (layer.begin.value * rate.value()).rounded();
        const std::int64_t end = layer.end ? (layer.end->value * rate.value()).rounded() : last;
        list.push_back({{"kind", kind_of(p, layer)},
                        {"name", layer.name},
                        {"begin", begin},
                        {"end", end},
                        {"on", layer.on},
                        {"behind", layer.behind},
                        {"blend", word_of(layer.blend)}});
        if (!context.json)
            std::cout << ++n << "  " << layer.name << ": " << kind_of(p, layer) << ", frames " << begin + 1 << " to "
                      << end << (layer.behind ? ", behind the photos" : "") << (layer.on ? "" : ", off") << '\n';
    }
    if (context.json)
        print_json({{"layers", list}, {"notes", notes}});
    else if (list.empty())
        std::cout << "no layers\n";
    if (!context.json)
        for (const std::string& note : notes)
            std::cerr << note << '\n';
    return loaded.problems.empty() ? done : done_with_problems;
}

}

void add_layers_commands(CLI::App& app, Run& run)
{
    auto call = std::make_shared<LayersCall>();
    CLI::App* c = app.add_subcommand("layers", "Pictures, films and text over a shot or the Reel, or behind it");
    c->add_option("project", call->project, "The project")->required();
    c->add_option("--shot", call->shot, "Of this shot");
    c->add_flag("--reel", call->reel, "Of the Reel");
    auto* picture = c->add_option("--add-picture", call->picture, "A picture on top, fitted inside the frame");
    auto* text = c->add_option("--add-text", call->text, "Text on top");
    auto* film = c->add_option("--add-shot", call->film, "The film of another shot on top");
    auto* layer = c->add_option("--layer", call->layer, "What follows is said of layer N; the lowest is 1");
    picture->excludes(text)->excludes(film)->excludes(layer);
    text->excludes(film)->excludes(layer);
    film->excludes(layer);
    c->add_option("--frames", call->frames, "A-B: it is seen in these frames, from 1");
    c->add_option("--at", call->at, "X,Y of its middle, shares of the frame");
    c->add_option("--to", call->to, "X,Y that it moves to until its last frame");
    c->add_option("--ease", call->ease, "none, in, out, both")->transform(CLI::CheckedTransformer(words<Ease>()));
    c->add_option("--size", call->size, "Percent; 100: it just fits inside the frame")
        ->check(CLI::Range(layer_size_limits.low * 100, layer_size_limits.high * 100));
    c->add_option("--turn", call->turn, "Degrees clockwise")->check(CLI::Range(-360'000.0, 360'000.0));
    c->add_option("--opacity", call->opacity, "Percent")->check(CLI::Range(0.0, 100.0));
    c->add_option("--blend", call->blend, "over, add, multiply, screen")
        ->transform(CLI::CheckedTransformer(words<Blend>()));
    add_switch(*c, "behind", call->behind, "Behind the photos, where they are transparent");
    add_switch(*c, "scene", call->scene, "It keeps its place in the scene, not in the frame");
    add_switch(*c, "shadow", call->shadow, "A soft shadow");
    add_switch(*c, "lock", call->locked, "Hands leave it alone");
    add_switch(*c, "curved", call->curved, "Through its keys without corners");
    c->add_option("--soft-edge", call->soft_edge, "Percent of the frame's height")->check(CLI::Range(0.0, 50.0));
    c->add_option("--film-end", call->film_end, "held, again, gone: when the film that it shows is over")
        ->transform(CLI::CheckedTransformer(words<FilmEnd>()));
    c->add_option("--movement-end", call->movement_end, "stays, again, there-and-back: when its movement is over")
        ->transform(CLI::CheckedTransformer(words<MovementEnd>()));
    c->add_option("--matte", call->matte, "Layer N decides what of it shows");
    c->add_flag("--by-brightness", call->brightness, "By that layer's brightness, not by its alpha");
    c->add_flag("--inverse", call->inverse, "Where that layer is not");
    c->add_flag("--no-matte", call->no_matte, "All of it shows");
    c->add_option("--on", call->on, "Switches layer N on");
    c->add_option("--off", call->off, "Switches layer N off");
    c->add_option("--up", call->up, "Layer N one place up");
    c->add_option("--down", call->down, "Layer N one place down");
    c->add_option("--remove", call->remove, "Takes layer N away");
    c->add_option("--take-out", call->take_out, "#RRGGBB taken out of the layer's film, or of the shot's photos");
    c->add_flag("--keep-colour", call->keep_colour, "No colour is taken out any more");
    c->callback([call, &run] { run = [call](const Context& context) { return run_layers(*call, context); }; });
}

}
