#include "core/document/light_json.h"

#include "core/document/steady_json.h"

#include <nlohmann/json.hpp>

#include <cmath>
#include <stdexcept>

namespace frenlo {

using Json = nlohmann::ordered_json;

namespace {

/// Stops, seconds and shares: whatever it is, within what a photo can be.
double within(const Json& j, double low, double high, const char* what)
{
    const double v = j.get<double>();
    if (!(v >= low && v <= high))
        throw std::invalid_argument(std::string("\"") + what + "\" is out of range");
    return v;
}

constexpr double most_stops = 40;

}

Json photo_light_to_json(const PhotoLight& l)
{
    Json j{{"stops", l.change.stops}, {"target", l.change.target}, {"after", l.after}};
    const auto& g = l.change.gain;
    if (g[0] == g[1] && g[1] == g[2])
        j["gain"] = {g[0]};
    else
        j["gain"] = g;
    if (l.change.suspect)
        j["suspect"] = true;
    if (l.jump)
        j["step"] = {{"stops", l.jump->stops}, {"camera", l.jump->cause == LightJump::Cause::camera}, {"kept", l.jump->kept}};
    return j;
}

PhotoLight photo_light_from(const Json& j)
{
    PhotoLight l;
    l.change.stops = within(j.at("stops"), -most_stops, most_stops, "stops");
    l.change.target = within(j.at("target"), -most_stops, most_stops, "target");
    l.after = within(j.at("after"), -most_stops, most_stops, "after");
    const Json& gain = j.at("gain");
    if (gain.size() != 1 && gain.size() != 3)
        throw std::invalid_argument("a \"gain\" is not one number, or three");
    for (std::size_t c = 0; c < 3; ++c)
        l.change.gain[c] = within(gain.at(gain.size() == 1 ? 0 : c), -most_stops, most_stops, "gain");
    l.change.suspect = j.value("suspect", false);
    if (j.contains("step")) {
        const Json& s = j.at("step");
        l.jump = LightJump{within(s.at("stops"), -most_stops, most_stops, "step"), s.value("camera", false) ? LightJump::Cause::camera : LightJump::Cause::scene,
                           s.value("kept", true)};
    }
    return l;
}

Json lighting_to_json(const Lighting& l)
{
    Json j{{"window_s", l.window_s}, {"strength", l.strength}};
    if (l.each_colour)
        j["each_colour"] = true;
    if (l.camera_steps)
        j["camera_steps"] = true;
    if (l.region != Region())
        j["region"] = region_to_json(l.region);
    j["flicker_before"] = l.flicker_before;
    j["flicker_after"] = l.flicker_after;
    return j;
}

Lighting lighting_from(const Json& j)
{
    Lighting l;
    l.window_s = within(j.at("window_s"), 0, 1e6, "window_s");
    l.strength = within(j.at("strength"), 0, 1, "strength");
    l.each_colour = j.value("each_colour", false);
    l.camera_steps = j.value("camera_steps", false);
    if (j.contains("region"))
        l.region = region_from(j.at("region"));
    l.flicker_before = within(j.at("flicker_before"), 0, most_stops, "flicker_before");
    l.flicker_after = within(j.at("flicker_after"), 0, most_stops, "flicker_after");
    return l;
}

}
