#include "core/steps/retouch/area_edits.h"

#include "core/base/text.h"
#include "core/project/with_shot.h"
#include "core/steps/retouch/retouch_values.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace frenlo {

namespace {

double within(double v, const Limits& limits)
{
    return std::isfinite(v) ? std::clamp(v, limits.low, limits.high) : limits.low;
}

void put_right(Area& area)
{
    for (PlaceKey& key : area.keys) {
        key.points.resize(std::min(key.points.size() / 2 * 2, most_place_numbers));
        for (double& p : key.points)
            p = within(p, place_limits);
    }
    const std::size_t least = area.brush > 0 ? 2 : 6; // numbers: a point of a brush, three corners of an outline
    std::erase_if(area.keys, [&](const PlaceKey& key) { return key.points.size() < least; });
    area.brush = within(area.brush, area_brush_limits);
    area.soft = within(area.soft, area_soft_limits);
    if (area.shows != AreaShows::other)
        area.other.reset();
}

/// The name, or with a number behind it where one of these has it.
template <class T>
std::string own_name(const std::vector<T>& all, std::string name, const char* word)
{
    const auto taken = [&](const std::string& n) {
        return std::any_of(all.begin(), all.end(), [&](const T& one) { return one.name == n; });
    };
    if (!name.empty() && !taken(name))
        return name;
    const std::string base = name.empty() ? word : name;
    for (int n = name.empty() ? 1 : 2;; ++n)
        if (std::string numbered = base + ' ' + std::to_string(n); !taken(numbered))
            return numbered;
}

template <class Value, class Change>
Project with_value(const Project& project, ShotIndex shot, const Change& change)
{
    return with_shot(project, shot, [&](Shot& s) {
        auto value = s.steps.get<Value>();
        change(value, s);
        if (value == Value())
            s.steps.drop<Value>();
        else if (!(value == s.steps.get<Value>()))
            s.steps.set(std::move(value));
    });
}

/// Without what says nothing new: a switch to the state that is there already.
void tidy(States& states, const Shot& shot)
{
    std::vector<std::pair<std::int64_t, StateSwitch>> placed;
    for (const StateSwitch& s : states.switches)
        if (const auto at = place_of(shot, s.photo))
            placed.emplace_back(*at, s);
    std::stable_sort(placed.begin(), placed.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    states.switches.clear();
    std::optional<StateId> now;
    for (const auto& [at, s] : placed)
        if (s.state != now) {
            states.switches.push_back(s);
            now = s.state;
        }
}

}

std::pair<Project, AreaId> add_area(const Project& project, ShotIndex shot, Area area)
{
    if (!area.id)
        area.id = AreaId::fresh();
    put_right(area);
    const AreaId id = area.id;
    return {with_value<Areas>(project, shot,
                              [&](Areas& areas, const Shot&) {
                                  area.name = own_name(areas.all, area.name, "Area");
                                  areas.all.push_back(std::move(area));
                              }),
            id};
}

Project change_area(const Project& project, ShotIndex shot, AreaId id, const std::function<void(Area&)>& change)
{
    return with_value<Areas>(project, shot, [&](Areas& areas, const Shot&) {
        for (Area& area : areas.all) {
            if (area.id != id)
                continue;
            const std::string name = area.name;
            const bool everywhere = area.keys.empty();
            const auto keys = area.keys;
            change(area);
            area.id = id;
            put_right(area);
            if (area.keys.empty() && !everywhere) // an outline without room is no wish for all of the picture
                area.keys = keys;
            if (area.name.empty())
                area.name = name;
            if (area.name != name) {
                std::string wanted = std::exchange(area.name, {});
                area.name = own_name(areas.all, std::move(wanted), "Area");
            }
        }
    });
}

Project remove_area(const Project& project, ShotIndex shot, AreaId id)
{
    return with_value<Areas>(project, shot, [&](Areas& areas, const Shot&) {
        std::erase_if(areas.all, [&](const Area& area) { return area.id == id; });
    });
}

Project place_area(const Project& project, ShotIndex shot, AreaId id, PhotoId photo,
                   std::span<const cv::Point2d> points, bool moves)
{
    return change_area(project, shot, id, [&](Area& area) {
        const PlaceKey key{photo, numbers_of(points)};
        if (!moves) {
            area.keys = {key};
            return;
        }
        const auto at =
            std::find_if(area.keys.begin(), area.keys.end(), [&](const PlaceKey& k) { return k.photo == photo; });
        if (at == area.keys.end())
            area.keys.push_back(key);
        else
            *at = key;
    });
}

std::pair<Project, StateId> add_state(const Project& project, ShotIndex shot, const std::string& name)
{
    State state{StateId::fresh(), name};
    const StateId id = state.id;
    return {with_value<States>(project, shot,
                               [&](States& states, const Shot&) {
                                   state.name = own_name(states.all, state.name, "State");
                                   states.all.push_back(std::move(state));
                               }),
            id};
}

Project rename_state(const Project& project, ShotIndex shot, StateId id, const std::string& name)
{
    return with_value<States>(project, shot, [&](States& states, const Shot&) {
        for (State& state : states.all)
            if (state.id == id && !name.empty() && state.name != name) {
                state.name.clear();
                state.name = own_name(states.all, name, "State");
            }
    });
}

Project remove_state(const Project& project, ShotIndex shot, StateId id)
{
    return with_value<States>(project, shot, [&](States& states, const Shot& s) {
        std::erase_if(states.all, [&](const State& state) { return state.id == id; });
        std::erase_if(states.switches, [&](const StateSwitch& at) { return at.state == id; });
        tidy(states, s);
    });
}

Project switch_state(const Project& project, ShotIndex shot, PhotoIndex photo, std::optional<StateId> state)
{
    return with_value<States>(project, shot, [&](States& states, const Shot& s) {
        const PhotoId at = s.photos[photo.at()].id;
        std::erase_if(states.switches, [&](const StateSwitch& one) { return one.photo == at; });
        states.switches.push_back({at, state});
        tidy(states, s);
    });
}

Project once_more(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, StateId state)
{
    if (photos.empty())
        return project;
    std::int64_t first = 0;
    const Project longer = with_shot(project, shot, [&](Shot& s) {
        first = std::int64_t(s.photos.size());
        PhotoList all = s.photos;
        for (const PhotoIndex photo : photos) {
            ShotPhoto again = s.photos[photo.at()];
            again.id = PhotoId::fresh();
            again.remarks.clear(); // said once
            all.push_back(std::move(again));
        }
        s.photos = std::move(all);
    });
    return switch_state(longer, shot, PhotoIndex(first), state);
}

std::vector<std::string> area_notes(const Shot& shot)
{
    std::vector<std::string> notes;
    const auto* areas = shot.steps.find<Areas>();
    if (!areas)
        return notes;
    std::int64_t without_plate = 0, without_photo = 0;
    for (const Area& area : areas->all) {
        without_plate += std::int64_t(area.on && area.shows == AreaShows::plate && !plate_of(shot));
        without_photo +=
            std::int64_t(area.on && area.shows == AreaShows::other && !(area.other && place_of(shot, *area.other)));
    }
    if (without_plate > 0)
        notes.push_back(counted(without_plate, "area is", "areas are") +
                        " to show the clean plate, and there is none: make one, or choose a photo");
    if (without_photo > 0)
        notes.push_back(counted(without_photo, "area shows", "areas show") +
                        " a photo that is no longer in the shot: choose another one, or take the area away");
    return notes;
}

std::string photos_text(const Area& area, const Shot& shot)
{
    if (!area.first && !area.last)
        return "all photos";
    const auto [begin, end] = photos_from_to(shot, area.first, area.last);
    if (end - begin == 1)
        return "photo " + std::to_string(end);
    if (!area.last)
        return "from photo " + std::to_string(begin + 1) + " on";
    return "photos " + std::to_string(begin + 1) + " to " + std::to_string(end);
}

}
