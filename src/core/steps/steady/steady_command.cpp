#include "core/steps/steady/steady_command.h"

#include "core/base/text.h"
#include "core/command/change_measured.h"
#include "core/command/options.h"
#include "core/project/project_file.h"
#include "core/steps/steady/operations.h"

#include <CLI/CLI.hpp>
#include <opencv2/core.hpp>

#include <algorithm>
#include <array>
#include <functional>
#include <iostream>
#include <sstream>

namespace frenlo::command {

namespace {

struct SteadyCall
{
    std::string project, shot, way, model, crop, edges, strength, target, shape;
    std::vector<std::string> region, leave_out;
    int reference = 0, target_photo = 1;
    double limit = -1;
    bool off = false;
};

/// "16:9"; empty for "photo".
cv::Size shape_option(const std::string& text)
{
    if (text == "photo")
        return {};
    int width = 0, height = 0;
    char colon = 0, more = 0;
    std::istringstream in(text);
    if (!(in >> width >> colon >> height) || in >> more || colon != ':' || width < 1 || height < 1 || width > 10'000 ||
        height > 10'000)
        throw WrongCall("\"" + text + "\" is not a shape; 16:9, 4:5 and photo are");
    return {width, height};
}

/// "3" of the shot's photos: its place among those that are measured.
std::size_t measured_option(int number, const ToMeasure& photos)
{
    const auto at = std::find(photos.at.begin(), photos.at.end(), PhotoIndex(number - 1));
    if (at == photos.at.end())
        throw WrongCall("photo " + std::to_string(number) + " is not in the film of this shot");
    return std::size_t(at - photos.at.begin());
}

Json matrix_json(const Transform& t)
{
    Json rows = Json::array();
    for (int r = 0; r < 3; ++r)
        rows.push_back({t(r, 0), t(r, 1), t(r, 2)});
    return rows;
}

/// Of points of the reference photo to points of each measured photo. Walked: by the steps between photos, from the
/// first; nothing where the path is broken on the way.
std::vector<std::optional<Transform>> from_reference(const Shot& shot, std::size_t reference)
{
    std::vector<std::optional<Transform>> all;
    std::optional<Transform> at = Transform::eye(), there;
    bool first = true;
    for (const ShotPhoto& p : shot.photos) {
        if (!alignment_of(p)) {
            all.emplace_back();
            continue;
        }
        if (steadying_of(shot)->way == SteadyWay::still) {
            all.emplace_back(alignment_of(p)->from_film);
            continue;
        }
        at = first                                ? Transform::eye()
             : at && alignment_of(p)->from_before ? std::optional(*alignment_of(p)->from_before * *at)
                                                  : std::nullopt;
        first = false;
        all.push_back(at);
    }
    if (steadying_of(shot)->way == SteadyWay::smooth && (there = all.at(reference)))
        for (auto& t : all)
            if (t)
                t = *t * there->inv() * (1 / (*t * there->inv())(2, 2));
    return all;
}

Json steady_json(const Shot& shot, PhotoIndex reference, const std::vector<Problem>& problems)
{
    Json j;
    j["way"] = steadying_of(shot)->way == SteadyWay::still ? "still" : "smooth";
    j["reference"] = json_path(shot.photos[reference.at()].photo->file);
    j["photos"] = Json::array();
    const auto matrices = from_reference(shot, reference.at());
    for (std::size_t i = 0; i < shot.photos.size(); ++i) {
        const ShotPhoto& p = shot.photos[i];
        if (!alignment_of(p))
            continue;
        Json photo{{"file", json_path(p.photo->file)}};
        photo["matrix"] = matrices[i] ? matrix_json(*matrices[i]) : Json(nullptr);
        photo["film_matrix"] = matrix_json(alignment_of(p)->from_film);
        photo["residual_px"] = alignment_of(p)->residual_px;
        photo["inliers"] = alignment_of(p)->inliers;
        photo["left_px"] = alignment_of(p)->left_px;
        photo["doubtful"] = !alignment_of(p)->doubt.empty();
        if (!alignment_of(p)->doubt.empty())
            photo["doubt"] = alignment_of(p)->doubt;
        if (alignment_of(p)->target)
            photo["target"] = {alignment_of(p)->target->x, alignment_of(p)->target->y};
        j["photos"].push_back(std::move(photo));
    }
    const cv::Rect& c = steadying_of(shot)->crop;
    j["crop"] = {c.x, c.y, c.width, c.height};
    j["lost"] = lost_to_crop(shot);
    j["problems"] = problems_json(problems);
    return j;
}

/// What the call does not say stays as it is, where the shot is steadied in the same way.
Movement movement_of(const SteadyCall& call, const Shot& shot, SteadyWay way)
{
    if (!call.model.empty())
        return parse_movement(call.model).value();
    if (steadying_of(shot) && steadying_of(shot)->way == way)
        return steadying_of(shot)->movement;
    return parse_movement(way == SteadyWay::still ? "similar" : "perspective").value();
}

std::vector<Problem> doubts_of(const Shot& shot)
{
    std::vector<Problem> problems;
    for (const ShotPhoto& p : shot.photos)
        if (alignment_of(p) && !alignment_of(p)->doubt.empty())
            problems.push_back({alignment_of(p)->doubt, p.photo->file, "Look at it; it lies as its neighbours do"});
    return problems;
}

/// What is to be measured: what the call does not say stays as it is.
SteadyPlan plan_of(const SteadyCall& call, const Shot& shot, Rate delivered_at, const ToMeasure& photos)
{
    SteadyPlan plan;
    const Steadying* steady = steadying_of(shot);
    const bool still = call.way.empty() ? !steady || steady->way == SteadyWay::still : call.way == "still";
    plan.way = still ? SteadyWay::still : SteadyWay::smooth;
    plan.movement = movement_of(call, shot, plan.way);
    if (call.reference > 0)
        plan.reference = photos.at[measured_option(call.reference, photos)];
    if (!still) {
        Smoothing smoothing = steady ? steady->smoothing : Smoothing();
        if (!call.strength.empty())
            smoothing.strength_s = length_option(call.strength, delivered_at).value.approx();
        if (call.limit >= 0)
            smoothing.most_lost = call.limit / 100;
        plan.smoothing = smoothing;
    }
    Region region = steady_region(shot);
    if (!photos.at.empty()) {
        const cv::Size size = seen_size(shot.photos[photos.at.front().at()]);
        if (!call.region.empty())
            region.look_at = boxes_option(call.region, size);
        if (!call.leave_out.empty())
            region.leave_out = boxes_option(call.leave_out, size);
    }
    plan.region = region;
    return plan;
}

std::optional<FollowedTarget> target_of(const SteadyCall& call, const Shot& shot, const ToMeasure& photos)
{
    if (call.target.empty())
        return std::nullopt;
    const PhotoIndex photo = photos.at[measured_option(call.target_photo, photos)];
    return FollowedTarget{photo, box_option(call.target, seen_size(shot.photos[photo.at()]))};
}

int steady_shot(const SteadyCall& call, const Context& context)
{
    if (call.off) {
        change_project(call.project, [&](const Project& p) { return as_shot(p, named_shot(p, call.shot)); });
        return done;
    }
    const Project as_it_was = load_project(call.project).project;
    const Shot& before = as_it_was.shot(named_shot(as_it_was, call.shot));
    const ToMeasure photos = to_measure(before);
    const SteadyPlan plan = plan_of(call, before, as_it_was.delivered_at, photos);
    const cv::Size shape = call.shape.empty() ? cv::Size() : shape_option(call.shape);
    const Edit edit = measure_steady(before, plan, target_of(call, before, photos))(MeasuredFrom(), context.job());
    // Measuring takes its time: what others changed meanwhile stays.
    const LoadedProject loaded = change_measured(call.project, before, [&](const Project& now, ShotIndex index) {
        if (!to_measure(now.shot(index)).same_photos(photos))
            throw changed_meanwhile(call.project);
        Project p = edit(now);
        if (!call.edges.empty())
            p = set_edges(p, index, call.edges == "mirrored" ? Edges::mirrored : Edges::go_on);
        if (!call.crop.empty())
            p = set_inside_all(p, index, call.crop == "auto");
        return call.shape.empty() ? p : set_crop_shape(p, index, shape);
    });
    const Shot& shot = loaded.project.shot(same_shot(loaded.project, before));
    const PhotoIndex reference = reference_photo(shot).value_or(plan.reference.value_or(photos.at.front()));
    std::vector<Problem> problems = loaded.problems;
    for (Problem& p : doubts_of(shot))
        problems.push_back(std::move(p));
    if (context.json) {
        print_json(steady_json(shot, reference, problems));
    } else {
        const cv::Rect& c = steadying_of(shot)->crop;
        std::cout << shot.name << ": " << photos.at.size() << " photos "
                  << (steadying_of(shot)->way == SteadyWay::still
                          ? "held still on " + shown_name(*shot.photos[reference.at()].photo)
                          : std::string("on a smooth path"))
                  << "; the film's frame is " << c.width << " x " << c.height << " at " << c.x << ", " << c.y << '\n';
        print_problems(problems);
    }
    return problems.empty() ? done : done_with_problems;
}

}

void add_steady_commands(CLI::App& app, Run& run)
{
    auto call = std::make_shared<SteadyCall>();
    CLI::App* steady =
        app.add_subcommand("steady", "Hold the photos of a shot still, or smooth a walked shot; prints how each lies");
    steady->add_option("project", call->project, "The project")->required();
    steady->add_option("--shot", call->shot, "The shot's name")->required();
    steady
        ->add_option("--way", call->way,
                     "still: all photos on a reference photo; smooth: along the camera's smoothed path; as before, or "
                     "still, where not given")
        ->check(CLI::IsMember({"still", "smooth"}));
    steady
        ->add_option("--model", call->model,
                     "What the photos may have moved by, each including those before it; similar for still, "
                     "perspective for smooth where not given")
        ->check(CLI::IsMember({"shift", "turn", "similar", "perspective"}));
    steady
        ->add_option("--reference", call->reference,
                     "The photo that stays where it is; the sharpest of the most typical when not given")
        ->check(CLI::PositiveNumber);
    steady
        ->add_option("--region", call->region,
                     "Look at this part only: X,Y,W,H in pixels; may be given several times; all for no such part; as "
                     "before where not given")
        ->allow_extra_args(false);
    steady
        ->add_option("--leave-out", call->leave_out,
                     "Do not look at this part: X,Y,W,H in pixels; may be given several times; all for no such part; "
                     "as before where not given")
        ->allow_extra_args(false);
    steady->add_option("--strength", call->strength,
                       "smooth: movements that take less time are taken out: 1s, 24f; 1s when not given");
    steady
        ->add_option("--limit", call->limit,
                     "smooth: the share of the picture that may be lost, in percent; 12 when not given")
        ->check(CLI::Range(0.0, 90.0));
    steady->add_option("--target", call->target,
                       "smooth: keep this part where it is in the picture: X,Y,W,H in pixels of --target-photo");
    steady->add_option("--target-photo", call->target_photo, "The photo that the target is given in")
        ->check(CLI::PositiveNumber)
        ->capture_default_str();
    steady
        ->add_option(
            "--crop", call->crop,
            "auto: the largest box inside all photos; none: the whole frame; as before, or auto, where not given")
        ->check(CLI::IsMember({"auto", "none"}));
    steady->add_option("--shape", call->shape, "The crop's shape: 16:9, 4:5; photo for that of the photos");
    steady
        ->add_option("--edges", call->edges,
                     "With --crop none, where a photo does not reach: its edge goes on, or is mirrored")
        ->check(CLI::IsMember({"go-on", "mirrored"}));
    steady->add_flag("--off", call->off, "As shot again");
    steady->callback([call, &run] { run = [call](const Context& c) { return steady_shot(*call, c); }; });
}

}
