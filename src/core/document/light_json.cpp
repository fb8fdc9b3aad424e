#include "core/document/light_json.h"

#include "core/document/json_values.h"

#include <array>
#include <stdexcept>
#include <string>

namespace frenlo {

using Json = nlohmann::ordered_json;

namespace {

constexpr double most_stops = 40;

std::vector<double> stops_from(const Json& j, std::size_t count, const char* what)
{
    if (j.size() != count)
        throw std::invalid_argument(std::string("\"") + what + "\" has not " + std::to_string(count) + " values");
    std::vector<double> values;
    for (const Json& v : j)
        values.push_back(number_in(v, -most_stops, most_stops, what));
    return values;
}

constexpr std::array remedies{"undecided", "evened", "as_shot", "mixed"};

Json figures_to_json(const FlickerFigures& f)
{
    return {{"shared", f.shared}, {"by_colour", f.by_colour}, {"by_tone", f.by_tone}, {"by_place", f.by_place}};
}

FlickerFigures figures_from(const Json& j)
{
    return {number_in(j.at("shared"), 0, most_stops, "shared"), number_in(j.at("by_colour"), 0, most_stops, "by_colour"), number_in(j.at("by_tone"), 0, most_stops, "by_tone"),
            number_in(j.at("by_place"), 0, most_stops, "by_place")};
}

using Switch = std::pair<const char*, std::optional<bool> Lighting::*>;
constexpr std::array switches{Switch{"each_colour", &Lighting::each_colour}, Switch{"by_tone", &Lighting::by_tone}, Switch{"by_place", &Lighting::by_place},
                              Switch{"camera_steps", &Lighting::camera_steps}};
constexpr std::array correction_names{"each_colour", "by_tone", "by_place", "camera_steps"};
using Done = std::pair<const char*, bool Corrected::*>;
constexpr std::array corrections{Done{correction_names[0], &Corrected::each_colour}, Done{correction_names[1], &Corrected::by_tone}, Done{correction_names[2], &Corrected::by_place},
                                 Done{correction_names[3], &Corrected::camera_steps}};
constexpr std::array tones_names{"all", "highlights", "shadows", "apart"};

Json kind_to_json(const FlickerKind& k)
{
    Json j{{"size", k.size}};
    if (k.period > 0)
        j["period"] = k.period;
    if (k.settings > 0)
        j["settings"] = k.settings;
    if (k.tones != FlickerKind::Tones::all)
        j["tones"] = tones_names.at(std::size_t(k.tones));
    for (const auto& [name, flag] : {std::pair("by_colour", k.by_colour), std::pair("by_place", k.by_place)})
        if (flag)
            j[name] = true;
    return j;
}

FlickerKind kind_from(const Json& j)
{
    FlickerKind k;
    k.size = number_in(j.at("size"), 0, most_stops, "size");
    if (j.contains("period"))
        k.period = number_in(j.at("period"), 0, 1e6, "period");
    k.settings = whole_or(j, "settings", 0, 0, 1000000000);
    k.tones = FlickerKind::Tones(one_of(tones_names, j.value("tones", std::string(tones_names[0])), "tones"));
    k.by_colour = j.value("by_colour", false);
    k.by_place = j.value("by_place", false);
    return k;
}

}

Json photo_light_to_json(const PhotoLight& l)
{
    Json j{{"stops", l.change.stops}, {"target", l.change.target}, {"after", l.after}};
    const auto& [g, by_tone, by_place] = l.change.correction;
    if (g[0] == g[1] && g[1] == g[2])
        j["gain"] = {g[0]};
    else
        j["gain"] = g;
    if (!by_tone.empty())
        j["by_tone"] = by_tone;
    if (!by_place.empty())
        j["by_place"] = by_place;
    if (l.change.steps != 0)
        j["steps"] = l.change.steps;
    if (l.change.suspect)
        j["suspect"] = true;
    if (l.remedy != LightRemedy::undecided)
        j["remedy"] = remedies.at(std::size_t(l.remedy));
    if (l.jump)
        j["step"] = {{"stops", l.jump->stops}, {"camera", l.jump->cause == LightJump::Cause::camera}, {"kept", l.jump->kept}};
    return j;
}

PhotoLight photo_light_from(const Json& j)
{
    PhotoLight l;
    l.change.stops = number_in(j.at("stops"), -most_stops, most_stops, "stops");
    l.change.target = number_in(j.at("target"), -most_stops, most_stops, "target");
    l.after = number_in(j.at("after"), -most_stops, most_stops, "after");
    const Json& gain = j.at("gain");
    if (gain.size() != 1 && gain.size() != 3)
        throw std::invalid_argument("a \"gain\" is not one number, or three");
    for (std::size_t c = 0; c < 3; ++c)
        l.change.correction.gain[c] = number_in(gain.at(gain.size() == 1 ? 0 : c), -most_stops, most_stops, "gain");
    if (j.contains("by_tone"))
        l.change.correction.by_tone = stops_from(j.at("by_tone"), tone_knots.size(), "by_tone");
    if (j.contains("by_place"))
        l.change.correction.by_place = stops_from(j.at("by_place"), std::size_t(place_columns) * place_rows, "by_place");
    if (j.contains("steps"))
        l.change.steps = number_in(j.at("steps"), -most_stops, most_stops, "steps");
    l.change.suspect = j.value("suspect", false);
    if (j.contains("remedy"))
        l.remedy = LightRemedy(one_of(remedies, j.at("remedy").get<std::string>(), "a remedy"));
    if (j.contains("step")) {
        const Json& s = j.at("step");
        l.jump = LightJump{number_in(s.at("stops"), -most_stops, most_stops, "step"), s.value("camera", false) ? LightJump::Cause::camera : LightJump::Cause::scene,
                           s.value("kept", true)};
    }
    return l;
}

Json lighting_to_json(const Lighting& l)
{
    Json j{{"window_s", l.window_s}, {"strength", l.strength}};
    if (l.found_window_s > 0)
        j["found_window_s"] = l.found_window_s;
    for (const auto& [name, wish] : switches)
        if (l.*wish)
            j[name] = *(l.*wish);
    for (const auto& [name, done] : corrections)
        if (l.corrected.*done)
            j["corrected"].push_back(name);
    if (l.kind != FlickerKind())
        j["kind"] = kind_to_json(l.kind);
    if (!l.leave_out_moving)
        j["leave_out_moving"] = false;
    j["before"] = figures_to_json(l.before);
    j["after"] = figures_to_json(l.after);
    return j;
}

Lighting lighting_from(const Json& j)
{
    Lighting l;
    l.window_s = number_in(j.at("window_s"), 0, 1e6, "window_s");
    if (j.contains("found_window_s"))
        l.found_window_s = number_in(j.at("found_window_s"), 0, 1e6, "found_window_s");
    l.strength = number_in(j.at("strength"), 0, 1, "strength");
    for (const auto& [name, wish] : switches)
        if (j.contains(name))
            l.*wish = j.at(name).get<bool>();
    if (j.contains("kind"))
        l.kind = kind_from(j.at("kind"));
    // The first versions had no choice of their own: what was set is what was done.
    const bool chosen = j.contains("kind");
    for (std::size_t i = 0; i < corrections.size(); ++i)
        l.corrected.*corrections[i].second = !chosen && (l.*switches[i].second).value_or(false);
    if (j.contains("corrected"))
        for (const Json& name : j.at("corrected"))
            l.corrected.*corrections[one_of(correction_names, name.get<std::string>(), "a correction")].second = true;
    l.leave_out_moving = j.value("leave_out_moving", true);
    if (j.contains("flicker_before")) { // written by the first versions
        l.before.shared = number_in(j.at("flicker_before"), 0, most_stops, "flicker_before");
        l.after.shared = number_in(j.at("flicker_after"), 0, most_stops, "flicker_after");
    } else {
        l.before = figures_from(j.at("before"));
        l.after = figures_from(j.at("after"));
    }
    return l;
}

}
