#include "core/document/light_edits.h"

#include "core/document/with_shot.h"

namespace frenlo {

ToEven to_even(const Project& project, const Shot& shot, const Lighting& lighting)
{
    ToEven e;
    e.photos = to_measure(shot);
    e.seconds = film_seconds(project, shot, held_photos(shot));
    e.wishes = {.window_s = lighting.window_s, .strength = lighting.strength, .each_colour = lighting.each_colour, .camera_steps = lighting.camera_steps};
    for (std::size_t i = 0; i < e.photos.at.size(); ++i) {
        const ShotPhoto& p = shot.photos[e.photos.at[i].at()];
        if (shot.steady)
            e.alignments.push_back(p.alignment.value_or(Alignment()));
        if (p.light && p.light->jump)
            e.wishes.steps.push_back({i, *p.light->jump});
    }
    return e;
}

Project even_shot(const Project& project, ShotIndex shot, const ToEven& measured, const EvenedShot& result, const Lighting& lighting)
{
    return with_shot(project, shot, [&](Shot& s) {
        for (ShotPhoto& p : s.photos)
            p.light.reset();
        const auto& at = measured.photos.at;
        for (std::size_t i = 0; i < at.size(); ++i)
            s.photos.at(at[i].at()).light = PhotoLight{result.evening.photos.at(i), result.after.at(i), {}};
        for (const LightStep& step : result.evening.steps)
            s.photos.at(at.at(step.photo).at()).light->jump = step.jump;
        s.lighting = lighting;
        s.lighting->flicker_before = result.flicker_before;
        s.lighting->flicker_after = result.flicker_after;
    });
}

Project light_as_shot(const Project& project, ShotIndex shot)
{
    return with_shot(project, shot, [](Shot& s) {
        s.lighting.reset();
        for (ShotPhoto& p : s.photos)
            p.light.reset();
    });
}

}
