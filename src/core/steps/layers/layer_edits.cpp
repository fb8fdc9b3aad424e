#include "core/steps/layers/layer_edits.h"

#include "core/cards/card_edits.h"
#include "core/project/edits.h"
#include "core/project/with_shot.h"
#include "core/steps/layers/layer_movement.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

Project with_layers(const Project& project, const LayerHome& home,
                    const std::function<void(std::vector<Layer>&)>& change)
{
    const auto edit = [&](ShotSteps& steps) {
        Layers layers = steps.get<Layers>();
        change(layers.all);
        if (layers.all.empty())
            steps.drop<Layers>();
        else if (!(layers == steps.get<Layers>()))
            steps.set(std::move(layers));
    };
    if (home.shot) {
        const auto shot = project.find_shot(*home.shot);
        return shot ? with_shot(project, *shot, [&](Shot& s) { edit(s.steps); }) : project;
    }
    Project result = project;
    edit(result.reel.steps);
    return result;
}

std::vector<Layer>::iterator place_of(std::vector<Layer>& layers, LayerId id)
{
    return std::find_if(layers.begin(), layers.end(), [&](const Layer& l) { return l.id == id; });
}

double within(double v, const Limits& limits)
{
    return std::isfinite(v) ? std::clamp(v, limits.low, limits.high) : 0;
}

/// As files may have it.
void put_right(Layer& layer)
{
    std::stable_sort(layer.keys.begin(), layer.keys.end(),
                     [](const LayerKey& a, const LayerKey& b) { return a.at.value < b.at.value; });
    layer.keys.erase(std::unique(layer.keys.begin(), layer.keys.end(),
                                 [](const LayerKey& a, const LayerKey& b) { return a.at == b.at; }),
                     layer.keys.end());
    for (LayerKey& k : layer.keys) {
        k.x = within(k.x, layer_place_limits);
        k.y = within(k.y, layer_place_limits);
        k.size = std::max(layer_size_limits.low, within(k.size, layer_size_limits));
        k.turn = within(k.turn, layer_turn_limits);
        k.opacity = within(k.opacity, {0, 1});
    }
    if (layer.begin.value < Fraction(0))
        layer.begin = {};
    if (layer.end && !(layer.begin.value < layer.end->value))
        layer.end.reset();
    layer.soft_edge = within(layer.soft_edge, {0, 0.5});
    layer.pivot_x = within(layer.pivot_x, layer_place_limits);
    layer.pivot_y = within(layer.pivot_y, layer_place_limits);
    if (layer.shadow) {
        layer.shadow->degrees = within(layer.shadow->degrees, {-360, 360});
        layer.shadow->distance = within(layer.shadow->distance, {0, 1});
        layer.shadow->softness = within(layer.shadow->softness, {0, 0.5});
        layer.shadow->strength = within(layer.shadow->strength, {0, 1});
    }
    if (layer.matte && layer.matte->layer == layer.id)
        layer.matte.reset();
}

/// In the Reel only where it is told to be.
void leave_out_of_reel(Project& project, ShotId shot)
{
    auto& out = project.reel.left_out;
    const bool told = std::any_of(project.reel.items.begin(), project.reel.items.end(),
                                  [&](const ReelItem& i) { return i.shot == shot; });
    if (!told && std::find(out.begin(), out.end(), shot) == out.end())
        out.push_back(shot);
}

}

std::span<const Layer> layers_of(const Project& project, const LayerHome& home)
{
    if (!home.shot)
        return layers_of(project.reel.steps);
    const auto shot = project.find_shot(*home.shot);
    return shot ? layers_of(project.shot(*shot).steps) : std::span<const Layer>();
}

const Layer* find_layer(const Project& project, const LayerHome& home, LayerId layer)
{
    for (const Layer& l : layers_of(project, home))
        if (l.id == layer)
            return &l;
    return nullptr;
}

WithLayer add_layer(const Project& project, const LayerHome& home, Layer layer)
{
    if (!layer.id)
        layer.id = LayerId::fresh();
    put_right(layer);
    const LayerId id = layer.id;
    return {with_layers(project, home, [&](std::vector<Layer>& all) { all.push_back(std::move(layer)); }), id};
}

WithLayer add_film_layer(const Project& project, const LayerHome& home, ShotId film)
{
    const auto shot = project.find_shot(film);
    if (!shot || home.shot == film)
        return {project};
    Layer layer;
    layer.name = project.shot(*shot).name;
    layer.shot = film;
    WithLayer with = add_layer(project, home, std::move(layer));
    leave_out_of_reel(with.project, film);
    return with;
}

WithLayer add_picture_layer(const Project& project, const LayerHome& home, Shot pictures)
{
    const Project with = add_shot(project, std::move(pictures));
    return add_film_layer(with, home, with.shots.back()->id);
}

WithLayer add_text_layer(const Project& project, const LayerHome& home, const std::string& text)
{
    TextCard card{.text = text};
    card.see_through = true;
    const std::string first = text.substr(0, text.find('\n'));
    const Project with = add_card(project, card, first.empty() ? "Text" : first, {Fraction(4)},
                                  ShotIndex(std::int64_t(project.shots.size())));
    return add_film_layer(with, home, with.shots.back()->id);
}

WithLayer add_drawing_layer(const Project& project, const LayerHome& home, const std::string& name)
{
    Layer layer;
    layer.name = name;
    return add_layer(project, home, std::move(layer));
}

Project change_layer(const Project& project, const LayerHome& home, LayerId id,
                     const std::function<void(Layer&)>& change)
{
    return with_layers(project, home, [&](std::vector<Layer>& all) {
        const auto layer = place_of(all, id);
        if (layer == all.end())
            return;
        Layer changed = *layer;
        change(changed);
        changed.id = id;
        put_right(changed);
        if (layer->locked && changed.locked) { // all but what a lock leaves free
            layer->on = changed.on;
            return;
        }
        *layer = std::move(changed);
    });
}

Project remove_layer(const Project& project, const LayerHome& home, LayerId id)
{
    return with_layers(project, home, [&](std::vector<Layer>& all) {
        std::erase_if(all, [&](const Layer& l) { return l.id == id && !l.locked; });
    });
}

Project move_layer(const Project& project, const LayerHome& home, LayerId id, int up)
{
    return with_layers(project, home, [&](std::vector<Layer>& all) {
        const auto layer = place_of(all, id);
        if (layer == all.end())
            return;
        const auto from = layer - all.begin(), last = std::ptrdiff_t(all.size()) - 1;
        const auto to = std::clamp<std::ptrdiff_t>(from + up, 0, last);
        if (to > from)
            std::rotate(all.begin() + from, all.begin() + from + 1, all.begin() + to + 1);
        else
            std::rotate(all.begin() + to, all.begin() + from, all.begin() + from + 1);
    });
}

Project change_key(const Project& project, const LayerHome& home, LayerId id, Seconds at,
                   const std::function<void(LayerKey&)>& change)
{
    return change_layer(project, home, id, [&](Layer& layer) {
        auto key = std::find_if(layer.keys.begin(), layer.keys.end(), [&](const LayerKey& k) { return k.at == at; });
        if (key == layer.keys.end()) {
            LayerKey fresh = LayerMovement(layer).at(at.value.approx());
            fresh.at = at;
            key = layer.keys.insert(layer.keys.end(), fresh);
        }
        change(*key);
        key->at = at;
    });
}

Project remove_key(const Project& project, const LayerHome& home, LayerId id, Seconds at)
{
    return change_layer(project, home, id, [&](Layer& layer) {
        std::erase_if(layer.keys, [&](const LayerKey& k) { return k.at == at; });
    });
}

Project shift_layer(const Project& project, const LayerHome& home, LayerId id, double x, double y)
{
    return change_layer(project, home, id, [&](Layer& layer) {
        if (layer.keys.empty())
            layer.keys.emplace_back();
        for (LayerKey& k : layer.keys) {
            k.x += x;
            k.y += y;
        }
    });
}

Project add_stroke(const Project& project, const LayerHome& home, LayerId id, PhotoId photo, Stroke stroke)
{
    const std::size_t numbers = std::min(stroke.points.size() / 3 * 3, most_stroke_points / 3 * 3);
    stroke.points.resize(numbers);
    if (numbers == 0)
        return project;
    for (double& p : stroke.points)
        p = within(p, layer_place_limits);
    stroke.width = within(stroke.width, {0, 2});
    return change_layer(project, home, id, [&](Layer& layer) {
        auto d = std::find_if(layer.drawings.begin(), layer.drawings.end(),
                              [&](const Drawing& one) { return one.photo == photo; });
        if (d == layer.drawings.end())
            d = layer.drawings.insert(layer.drawings.end(), Drawing{photo});
        d->strokes.push_back(std::move(stroke));
    });
}

Project remove_last_stroke(const Project& project, const LayerHome& home, LayerId id, PhotoId photo)
{
    return change_layer(project, home, id, [&](Layer& layer) {
        for (Drawing& d : layer.drawings)
            if (d.photo == photo && !d.strokes.empty())
                d.strokes.pop_back();
        std::erase_if(layer.drawings, [](const Drawing& d) { return d.strokes.empty(); });
    });
}

Project hold_drawing(const Project& project, const LayerHome& home, LayerId id, PhotoId photo, std::int64_t photos)
{
    return change_layer(project, home, id, [&](Layer& layer) {
        for (Drawing& d : layer.drawings)
            if (d.photo == photo)
                d.photos = std::clamp<std::int64_t>(photos, 1, 1'000'000);
    });
}

Project set_colour_out(const Project& project, ShotId id, const std::optional<ColourOut>& out)
{
    const auto shot = project.find_shot(id);
    if (!shot)
        return project;
    return with_shot(project, *shot, [&](Shot& s) {
        if (out)
            s.steps.set(*out);
        else
            s.steps.drop<ColourOut>();
    });
}

std::vector<std::string> layer_notes(const Project& project, const LayerHome& home)
{
    std::vector<std::string> notes;
    const auto all = layers_of(project, home);
    for (const Layer& layer : all) {
        if (!layer.on)
            continue;
        if (layer.shot && !project.find_shot(*layer.shot))
            notes.push_back("the layer \"" + layer.name + "\" shows nothing, since the shot that it showed is gone");
        else if (layer.shot && home.shot == layer.shot)
            notes.push_back("the layer \"" + layer.name + "\" shows nothing, since it would show itself");
        if (layer.matte &&
            std::none_of(all.begin(), all.end(), [&](const Layer& other) { return other.id == layer.matte->layer; }))
            notes.push_back("the layer \"" + layer.name + "\" " + (layer.matte->inverse ? "is all" : "shows nothing") +
                            ", since the layer that decides what shows of it is gone");
    }
    return notes;
}

}
