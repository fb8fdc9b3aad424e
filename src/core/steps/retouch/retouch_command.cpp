#include "core/steps/retouch/retouch_command.h"

#include "core/command/change_measured.h"
#include "core/command/parts.h"
#include "core/project/project_file.h"
#include "core/steps/retouch/retouch_operations.h"

#include <CLI/CLI.hpp>

#include <cmath>
#include <iostream>
#include <map>
#include <sstream>

namespace frenlo::command {

namespace {

struct RetouchCall
{
    std::string project, shot, photos, plate, area, state;
    std::vector<std::string> spots, lines;
    std::vector<int> remove, on, off, follow;
    std::optional<HealFrom> from;
    std::optional<double> soft;
    bool dust = false, on_photo = false;
};

Spot spot_of(const std::vector<double>& points, double radius, const RetouchCall& call, const Shot& shot)
{
    Spot spot;
    std::size_t first = 0, last = shot.photos.size() - 1;
    if (!call.photos.empty()) {
        const auto span = span_option(call.photos, std::int64_t(shot.photos.size()), "photos of this shot");
        first = std::size_t(span.first - 1);
        last = std::size_t(span.second - 1);
    }
    spot.keys = {{shot.photos[first].id, points}};
    spot.radius = radius;
    spot.from = call.from.value_or(HealFrom::around);
    spot.soft = call.soft ? *call.soft / 100 : spot.soft;
    spot.on_photo = call.on_photo;
    spot.area = named_area(shot, call.area);
    spot.state = named_state(shot, call.state);
    if (!call.photos.empty()) {
        spot.first = shot.photos[first].id;
        spot.last = shot.photos[last].id;
    }
    return spot;
}

std::vector<Spot> marked(const RetouchCall& call, const Shot& shot)
{
    std::vector<Spot> spots;
    for (const std::string& text : call.spots) {
        const auto n = numbers_option(text, "a spot is X,Y,R in shares of the film's plane");
        if (n.size() != 3 || n[2] < spot_radius_limits.low || n[2] > spot_radius_limits.high)
            throw WrongCall("a spot is X,Y,R in shares of the film's plane, R of its width, not \"" + text + '"');
        spots.push_back(spot_of({n[0], n[1]}, n[2], call, shot));
    }
    for (const std::string& text : call.lines) {
        auto n = numbers_option(text, "a line is X,Y,X,Y,…,R");
        if (n.size() < 5 || n.size() % 2 == 0 || n.back() < spot_radius_limits.low ||
            n.back() > spot_radius_limits.high)
            throw WrongCall("a line is X,Y,X,Y,…,R in shares of the film's plane, not \"" + text + '"');
        const double radius = n.back();
        n.pop_back();
        spots.push_back(spot_of(n, radius, call, shot));
    }
    return spots;
}

/// Measures on the shot as it is in the file now, and puts what was found into the file.
LoadedProject measure(const RetouchCall& call, const Context& context,
                      const std::function<Operation(const Shot&)>& operation)
{
    const LoadedProject loaded = load_project(call.project);
    const Shot& shot = loaded.project.shot(named_shot(loaded.project, call.shot));
    const Edit edit = operation(shot)(MeasuredFrom(), context.job());
    return change_project(call.project, [&](const Project& now) { return edit(now); });
}

SpotId numbered(const std::vector<Spot>& spots, int n)
{
    if (n < 1 || std::size_t(n) > spots.size())
        throw WrongCall("there is no spot " + std::to_string(n) + "; there are " + std::to_string(spots.size()));
    return spots[std::size_t(n - 1)].id;
}

LoadedProject change(const RetouchCall& call, std::vector<SpotId>& fresh)
{
    return change_project(call.project, [&](const Project& now) {
        fresh.clear();
        const ShotIndex at = named_shot(now, call.shot);
        const Shot& shot = now.shot(at);
        if (shot.photos.empty())
            throw WrongCall("the shot has no photos");
        const auto before = retouch_of(shot).spots;
        Project p = now;
        std::vector<SpotId> gone;
        for (const int n : call.remove)
            gone.push_back(numbered(before, n));
        for (const int n : call.on)
            p = change_spot(p, at, numbered(before, n), [](Spot& s) { s.on = true; });
        for (const int n : call.off)
            p = change_spot(p, at, numbered(before, n), [](Spot& s) { s.on = false; });
        p = remove_spots(p, at, gone);
        if (!call.plate.empty() && call.plate != "make") {
            const auto n = numbers_option(call.plate, "--plate takes \"make\" or the number of a photo");
            if (n.size() != 1 || n[0] != std::floor(n[0]) || n[0] < 1 || n[0] > double(shot.photos.size()))
                throw WrongCall("--plate takes \"make\" or the number of a photo, not \"" + call.plate + '"');
            p = set_plate(p, at, shot.photos[std::size_t(n[0]) - 1].id);
        }
        for (Spot& spot : marked(call, shot)) {
            WithSpot with = add_spot(p, at, std::move(spot));
            p = std::move(with.project);
            fresh.push_back(with.spot);
        }
        return p;
    });
}

int run_retouch(const RetouchCall& call, const Context& context)
{
    std::vector<SpotId> fresh;
    LoadedProject loaded = change(call, fresh);
    if (call.plate == "make") {
        const auto folder = std::filesystem::absolute(call.project).parent_path();
        loaded = measure(call, context, [&](const Shot& shot) { return make_plate(shot, folder); });
    }
    if (!fresh.empty())
        loaded = measure(call, context, [&](const Shot& shot) { return find_sources(shot, fresh); });
    for (const int n : call.follow)
        loaded = measure(call, context,
                         [&](const Shot& shot) { return follow_spot(shot, numbered(retouch_of(shot).spots, n)); });
    if (call.dust)
        loaded = measure(call, context, find_dust);
    const Shot& shot = loaded.project.shot(named_shot(loaded.project, call.shot));
    const auto notes = retouch_notes(shot);
    Json list = Json::array();
    int n = 0;
    for (const Spot& spot : retouch_of(shot).spots) {
        const auto [begin, end] = range_of(spot, shot);
        const auto& points = spot.keys.front().points;
        list.push_back({{"x", points[0]},
                        {"y", points[1]},
                        {"r", spot.radius},
                        {"begin", begin},
                        {"end", end},
                        {"from", word_of(spot.from)},
                        {"on", spot.on},
                        {"on_photo", spot.on_photo}});
        if (!context.json)
            std::cout << ++n << "  at " << points[0] << ", " << points[1] << ", radius " << spot.radius << ", photos "
                      << begin + 1 << " to " << end << ", from "
                      << (spot.from == HealFrom::plate ? "the clean plate" : "around it") << (spot.on ? "" : ", off")
                      << '\n';
    }
    if (context.json)
        print_json({{"spots", list}, {"notes", notes}});
    else if (list.empty())
        std::cout << "nothing is healed\n";
    if (!context.json)
        for (const std::string& note : notes)
            std::cerr << note << '\n';
    return loaded.problems.empty() ? done : done_with_problems;
}

}

void add_retouch_commands(CLI::App& app, Run& run)
{
    auto call = std::make_shared<RetouchCall>();
    CLI::App* c = app.add_subcommand("retouch", "Spots, wires and dust healed in every photo of a shot");
    c->add_option("project", call->project, "The project")->required();
    c->add_option("--shot", call->shot, "Of this shot");
    c->add_option("--spot", call->spots, "X,Y,R in shares of the film's plane, R of its width");
    c->add_option("--line", call->lines, "X,Y,X,Y,…,R: a wire or a rod");
    c->add_option("--photos", call->photos, "A-B: in these photos; all where nothing is said");
    c->add_option("--from", call->from, "around: from the same photo; plate: from the clean plate")
        ->transform(CLI::CheckedTransformer(
            std::map<std::string, HealFrom>{{"around", HealFrom::around}, {"plate", HealFrom::plate}}));
    c->add_option("--soft", call->soft, "How far the edge reaches, percent of R")->check(CLI::Range(0.0, 400.0));
    c->add_flag("--on-photo", call->on_photo, "Places are of the photo, not of the scene: a speck on the sensor");
    c->add_option("--plate", call->plate,
                  "make: what stays when everything that moves is gone, written beside the project; or the number of a "
                  "photo");
    c->add_option("--area", call->area, "New spots are healed only in the area of this name");
    c->add_option("--in-state", call->state, "New spots are healed only in the state of this name");
    c->add_flag("--dust", call->dust, "Finds specks that are in photo after photo, and heals them");
    c->add_option("--follow", call->follow, "Spot N goes with what lies under it");
    c->add_option("--on", call->on, "Switches spot N on");
    c->add_option("--off", call->off, "Switches spot N off");
    c->add_option("--remove", call->remove, "Takes spot N away");
    c->callback([call, &run] { run = [call](const Context& context) { return run_retouch(*call, context); }; });
}

}
