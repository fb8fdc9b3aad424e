#include "demo/overlays.h"

#include "core/cards/card_edits.h"
#include "core/project/edits.h"
#include "core/steps/layers/layer_edits.h"

#include <algorithm>
#include <cmath>

namespace frenlo::demo {

namespace {

/// Two wings from the middle of the bird; flap: -1 below, 1 above.
Stroke gull(double x, double y, double size, double flap)
{
    Stroke s{.colour = {52, 58, 66}, .width = 0.006};
    constexpr int points = 9;
    for (int i = -points; i <= points; ++i) {
        const double along = double(i) / points, out = std::abs(along);
        const double bow = std::sin(out * 3.1) * 0.5 + out * out * flap * 0.7;
        s.points.insert(s.points.end(), {x + along * size, y - bow * size * 0.8, 1 - 0.7 * out});
    }
    return s;
}

Project with_gulls(Project project, ShotIndex ferry)
{
    const LayerHome home{project.shot(ferry).id};
    WithLayer with = add_drawing_layer(project, home, "Gulls");
    project = change_layer(with.project, home, with.layer, [](Layer& l) { l.on_scene = true; });
    const auto count = project.shot(ferry).photos.size();
    for (std::size_t i = 0; i < count; i += 2) { // on twos
        const double t = double(i) / double(count);
        const PhotoId photo = project.shot(ferry).photos[i].id;
        const double flap = std::sin(double(i) * 0.9), other = std::sin(double(i) * 0.9 + 1.8);
        project = add_stroke(project, home, with.layer, photo,
                             gull(0.95 - 0.75 * t, 0.2 + 0.04 * std::sin(t * 9), 0.035, flap));
        project = add_stroke(project, home, with.layer, photo,
                             gull(1.06 - 0.75 * t, 0.27 + 0.03 * std::sin(t * 11 + 1), 0.026, other));
        project = hold_drawing(project, home, with.layer, photo, 2);
    }
    return project;
}

Project with_title(Project project)
{
    WithLayer with = add_text_layer(project, {}, "The harbour in May");
    project = std::move(with.project);
    const ShotIndex card(std::int64_t(project.shots.size()) - 1);
    project = rename_shot(project, card, "Title");
    project = change_card(project, card, [](TextCard& c) {
        c.size = 9;
        c.bold = true;
        c.place = 50;
        c.align = CardAlign::left;
        c.colour = {255, 252, 240};
    });
    return change_layer(project, {}, with.layer, [](Layer& l) {
        l.name = "Title";
        l.begin = {Fraction(1, 2)};
        l.end = Seconds{Fraction(4)};
        l.keys = {{.at = {Fraction(1, 2)}, .x = 0.38, .y = 0.8, .opacity = 0, .ease = Ease::out},
                  {.at = {Fraction(3, 2)}, .x = 0.5, .y = 0.8},
                  {.at = {Fraction(7, 2)}, .x = 0.5, .y = 0.8, .ease = Ease::in},
                  {.at = {Fraction(4)}, .x = 0.5, .y = 0.8, .opacity = 0}};
        l.shadow = LayerShadow{.distance = 0.006, .softness = 0.006, .strength = 0.7};
    });
}

}

Project with_overlays(Project project, ShotIndex ferry)
{
    return with_title(with_gulls(std::move(project), ferry));
}

}
