#include "core/steps/retouch/areas_command.h"

#include "core/command/change_measured.h"
#include "core/command/parts.h"
#include "core/project/project_file.h"
#include "core/steps/retouch/area_edits.h"
#include "core/steps/retouch/retouch_operations.h"

#include <CLI/CLI.hpp>

#include <charconv>
#include <iostream>

namespace frenlo::command {

namespace {

struct AreasCall
{
    std::string project, shot, photos, shows = "photo", state;
    std::vector<std::string> add, remove, on, off, add_states, switches, remove_states;
    std::optional<double> brush, soft;
    std::string once_more;
    bool outside = false, things = false;
};

PhotoIndex numbered_photo(const Shot& shot, std::string_view text)
{
    std::int64_t n = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), n);
    if (error != std::errc() || end != text.data() + text.size() || n < 1 || std::size_t(n) > shot.photos.size())
        throw WrongCall("the shot has photos 1 to " + std::to_string(shot.photos.size()) + ", not " +
                        std::string(text));
    return PhotoIndex(n - 1);
}

/// What stands before and behind the last colon but for those in the name.
std::pair<std::string, std::string> at_colon(const std::string& text, const char* what)
{
    const std::size_t colon = text.rfind(':');
    if (colon == std::string::npos || colon == 0)
        throw WrongCall(std::string(what) + ", not \"" + text + '"');
    return {text.substr(0, colon), text.substr(colon + 1)};
}

Area area_of(const std::string& text, const AreasCall& call, const Shot& shot)
{
    const auto [name, places] = at_colon(text, "an area is NAME:X,Y,X,Y,X,Y,… or NAME:all");
    Area area;
    area.name = name;
    PhotoId first = shot.photos[0].id;
    if (!call.photos.empty()) {
        const auto span = span_option(call.photos, std::int64_t(shot.photos.size()), "photos of this shot");
        area.first = first = shot.photos[std::size_t(span.first - 1)].id;
        area.last = shot.photos[std::size_t(span.second - 1)].id;
    }
    area.brush = call.brush.value_or(0);
    if (places != "all") {
        const auto n = numbers_option(places, "an area is NAME:X,Y,X,Y,X,Y,… in shares of the film's plane");
        if (n.size() % 2 != 0 || n.size() < (area.brush > 0 ? 2U : 6U))
            throw WrongCall("an outline has at least three corners, X and Y of each, not \"" + places + '"');
        area.keys = {{first, n}};
    }
    area.soft = call.soft ? *call.soft / 100 : area.soft;
    area.outside = call.outside;
    area.state = named_state(shot, call.state);
    if (call.shows == "plate") {
        area.shows = AreaShows::plate;
    } else if (call.shows != "photo") {
        area.shows = AreaShows::other;
        area.other = shot.photos[numbered_photo(shot, call.shows).at()].id;
    }
    return area;
}

Project changed(const AreasCall& call, const Project& now)
{
    const ShotIndex at = named_shot(now, call.shot);
    if (now.shot(at).photos.empty())
        throw WrongCall("the shot has no photos");
    Project p = now;
    for (const std::string& name : call.add_states)
        p = add_state(p, at, name).first;
    for (const std::string& text : call.add)
        p = add_area(p, at, area_of(text, call, p.shot(at))).first;
    const auto switched = [&](const std::vector<std::string>& names, bool on) {
        for (const std::string& name : names)
            p = change_area(p, at, *named_area(p.shot(at), name), [&](Area& a) { a.on = on; });
    };
    switched(call.on, true);
    switched(call.off, false);
    for (const std::string& text : call.switches) {
        const auto [photo, name] = at_colon(text, "--switch takes PHOTO:NAME, or PHOTO: for none");
        p = switch_state(p, at, numbered_photo(p.shot(at), photo), named_state(p.shot(at), name));
    }
    if (!call.once_more.empty()) {
        std::vector<PhotoIndex> all;
        const auto shown = in_film(p.shot(at));
        for (std::size_t i = 0; i < shown.size(); ++i)
            if (shown[i])
                all.emplace_back(std::int64_t(i));
        p = once_more(p, at, all, *named_state(p.shot(at), call.once_more));
    }
    for (const std::string& name : call.remove)
        p = remove_area(p, at, *named_area(p.shot(at), name));
    for (const std::string& name : call.remove_states)
        p = remove_state(p, at, *named_state(p.shot(at), name));
    return p;
}

Json areas_json(const Shot& shot)
{
    Json list = Json::array(), states = Json::array(), photos = Json::array();
    for (const Area& area : shot.steps.get<Areas>().all) {
        const auto [begin, end] = photos_from_to(shot, area.first, area.last);
        Json one{{"name", area.name},
                 {"begin", begin},
                 {"end", end},
                 {"shows", word_of(area.shows)},
                 {"outside", area.outside},
                 {"soft", area.soft},
                 {"on", area.on},
                 {"points", area.keys.empty() ? std::vector<double>() : area.keys.front().points}};
        if (const auto other = area.other ? place_of(shot, *area.other) : std::nullopt)
            one["photo"] = *other + 1;
        if (const State* state = area.state ? find_state(shot, *area.state) : nullptr)
            one["state"] = state->name;
        list.push_back(std::move(one));
    }
    for (const State& state : shot.steps.get<States>().all)
        states.push_back(state.name);
    for (std::size_t i = 0; i < shot.photos.size(); ++i) {
        const auto state = state_at(shot, PhotoIndex(std::int64_t(i)));
        photos.push_back(state ? Json(find_state(shot, *state)->name) : Json());
    }
    return {{"areas", list}, {"states", states}, {"photos", photos}, {"notes", area_notes(shot)}};
}

int run_areas(const AreasCall& call, const Context& context)
{
    LoadedProject loaded = change_project(call.project, [&](const Project& now) { return changed(call, now); });
    if (call.things) {
        const Shot& shot = loaded.project.shot(named_shot(loaded.project, call.shot));
        const Edit edit = find_things(shot)(MeasuredFrom(), context.job());
        loaded = change_measured(call.project, shot, [&](const Project& now, ShotIndex) { return edit(now); });
    }
    const Shot& shot = loaded.project.shot(named_shot(loaded.project, call.shot));
    if (context.json) {
        print_json(areas_json(shot));
        return loaded.problems.empty() ? done : done_with_problems;
    }
    for (const Area& area : shot.steps.get<Areas>().all)
        std::cout << area.name << ": " << photos_text(area, shot) << ", shows "
                  << (area.shows == AreaShows::photo   ? "the photo"
                      : area.shows == AreaShows::plate ? "the clean plate"
                                                       : "another photo")
                  << (area.outside ? ", outside of its outline" : "") << (area.on ? "" : ", off") << '\n';
    for (const State& state : shot.steps.get<States>().all)
        std::cout << "state " << state.name << '\n';
    for (const std::string& note : area_notes(shot))
        std::cerr << note << '\n';
    return loaded.problems.empty() ? done : done_with_problems;
}

}

void add_areas_command(CLI::App& app, Run& run)
{
    auto call = std::make_shared<AreasCall>();
    CLI::App* c = app.add_subcommand("areas", "Parts of the picture in which tone or retouching holds, or that show "
                                              "another photo; finished versions of the same photos");
    c->add_option("project", call->project, "The project")->required();
    c->add_option("--shot", call->shot, "Of this shot");
    c->add_option("--add", call->add, "NAME:X,Y,X,Y,X,Y,…, an outline in shares of the film's plane; NAME:all");
    c->add_option("--brush", call->brush, "The places are the way of a brush of this radius, share of the width")
        ->check(CLI::Range(0.0005, 1.0));
    c->add_option("--soft", call->soft, "How far its edge reaches, percent of the width")->check(CLI::Range(0.0, 50.0));
    c->add_flag("--outside", call->outside, "It is all but what is inside");
    c->add_option("--shows", call->shows, "photo: itself; plate: the clean plate; or the number of a photo");
    c->add_option("--photos", call->photos, "A-B: in these photos; all where nothing is said");
    c->add_option("--in-state", call->state, "Only in this state");
    c->add_flag("--find-things", call->things,
                "Finds what appears from photo to photo before the clean plate: each thing is an area from its photo "
                "on, all else comes from the plate");
    c->add_option("--on", call->on, "Switches the area of this name on");
    c->add_option("--off", call->off, "Switches it off");
    c->add_option("--remove", call->remove, "Takes the area of this name away");
    c->add_option("--add-state", call->add_states,
                  "A finished version of the photos: its tone is set by tone --in-state");
    c->add_option("--switch", call->switches, "PHOTO:NAME: from that photo on they are in this state; PHOTO: for none");
    c->add_option("--once-more", call->once_more, "All photos of the film once more behind it, in this state");
    c->add_option("--remove-state", call->remove_states, "Takes the state of this name away");
    c->callback([call, &run] { run = [call](const Context& context) { return run_areas(*call, context); }; });
}

}
