#include "cli/commands.h"
#include "core/base/text.h"
#include "core/document/project_file.h"
#include "core/document/steady_edits.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <array>
#include <iostream>
#include <sstream>

namespace frenlo::cli {

namespace {

/// "X,Y,W,H": pixels of the photos as seen; in shares of them.
cv::Rect2d box_option(const std::string& text, cv::Size size)
{
    std::array<double, 4> v{};
    std::istringstream in(text);
    char comma = ',';
    for (std::size_t i = 0; i < v.size(); ++i)
        if ((i > 0 && !(in >> comma)) || comma != ',' || !(in >> v[i]))
            throw WrongCall("\"" + text + "\" is not a region; X,Y,W,H in pixels is");
    if (v[2] < 1 || v[3] < 1 || v[0] < 0 || v[1] < 0 || v[0] + v[2] > size.width || v[1] + v[3] > size.height)
        throw WrongCall("the region " + text + " does not lie within the photos, which are " + std::to_string(size.width) + " x " +
                        std::to_string(size.height));
    return {v[0] / size.width, v[1] / size.height, v[2] / size.width, v[3] / size.height};
}

}

std::vector<cv::Rect2d> boxes_option(const std::vector<std::string>& texts, cv::Size size)
{
    std::vector<cv::Rect2d> boxes;
    boxes.reserve(texts.size());
    for (const std::string& text : texts)
        boxes.push_back(box_option(text, size));
    return boxes;
}

namespace {

struct SteadyCall
{
    std::string project, shot, way = "still", model, crop = "auto", edges = "go-on", strength, target, shape;
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
    if (!(in >> width >> colon >> height) || in >> more || colon != ':' || width < 1 || height < 1 || width > 10'000 || height > 10'000)
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

/// Of points of the reference photo to points of each measured photo. Walked: by the steps between photos, from the first;
/// nothing where the path is broken on the way.
std::vector<std::optional<Transform>> from_reference(const Shot& shot, std::size_t reference)
{
    std::vector<std::optional<Transform>> all;
    std::optional<Transform> at = Transform::eye(), there;
    bool first = true;
    for (const ShotPhoto& p : shot.photos) {
        if (!p.alignment) {
            all.emplace_back();
            continue;
        }
        if (shot.steady->way == SteadyWay::still) {
            all.emplace_back(p.alignment->from_film);
            continue;
        }
        at = first ? Transform::eye() : at && p.alignment->from_before ? std::optional(*p.alignment->from_before * *at) : std::nullopt;
        first = false;
        all.push_back(at);
    }
    if (shot.steady->way == SteadyWay::smooth && (there = all.at(reference)))
        for (auto& t : all)
            if (t)
                t = *t * there->inv() * (1 / (*t * there->inv())(2, 2));
    return all;
}

Json steady_json(const Shot& shot, PhotoIndex reference, const std::vector<Problem>& problems)
{
    Json j;
    j["way"] = shot.steady->way == SteadyWay::still ? "still" : "smooth";
    j["reference"] = json_path(shot.photos[reference.at()].photo->file);
    j["photos"] = Json::array();
    const auto matrices = from_reference(shot, reference.at());
    for (std::size_t i = 0; i < shot.photos.size(); ++i) {
        const ShotPhoto& p = shot.photos[i];
        if (!p.alignment)
            continue;
        Json photo{{"file", json_path(p.photo->file)}};
        photo["matrix"] = matrices[i] ? matrix_json(*matrices[i]) : Json(nullptr);
        photo["film_matrix"] = matrix_json(p.alignment->from_film);
        photo["residual_px"] = p.alignment->residual_px;
        photo["inliers"] = p.alignment->inliers;
        photo["left_px"] = p.alignment->left_px;
        photo["doubtful"] = !p.alignment->doubt.empty();
        if (!p.alignment->doubt.empty())
            photo["doubt"] = p.alignment->doubt;
        if (p.alignment->target)
            photo["target"] = {p.alignment->target->x, p.alignment->target->y};
        j["photos"].push_back(std::move(photo));
    }
    const cv::Rect& c = shot.steady->crop;
    j["crop"] = {c.x, c.y, c.width, c.height};
    j["lost"] = lost_to_crop(shot);
    j["problems"] = problems_json(problems);
    return j;
}

struct SteadyResult
{
    Project project;
    std::size_t reference = 0; ///< among those measured
};

SteadyResult held_still(const SteadyCall& call, const Project& project, ShotIndex shot, const ToMeasure& photos, const Job& job)
{
    StillWishes wishes;
    wishes.movement = parse_movement(call.model.empty() ? "similar" : call.model).value();
    wishes.region = project.shot(shot).region;
    if (call.reference > 0)
        wishes.reference = measured_option(call.reference, photos);
    const HeldStill held = hold_still(photos.photos, wishes, Originals(), job);
    return {hold_still(project, shot, photos, held, wishes.movement), held.reference};
}

SteadyResult smoothed(const SteadyCall& call, const Project& project, ShotIndex shot, const ToMeasure& photos, const Job& job)
{
    WalkWishes wishes;
    wishes.movement = parse_movement(call.model.empty() ? "perspective" : call.model).value();
    wishes.region = project.shot(shot).region;
    Smoothing smoothing;
    if (!call.strength.empty())
        smoothing.strength_s = length_option(call.strength, project.delivered_at).value.approx();
    if (call.limit >= 0)
        smoothing.most_lost = call.limit / 100;
    Walked walked = follow_walk(photos.photos, wishes, Originals(), job);
    if (!call.target.empty())
        follow_target(photos.photos, {measured_option(call.target_photo, photos), box_option(call.target, walked.size)}, Originals(), job, walked);
    return {smooth_walk(project, shot, photos, walked, wishes.movement, smoothing), call.reference > 0 ? measured_option(call.reference, photos) : 0};
}

std::vector<Problem> doubts_of(const Shot& shot)
{
    std::vector<Problem> problems;
    for (const ShotPhoto& p : shot.photos)
        if (p.alignment && !p.alignment->doubt.empty())
            problems.push_back({p.alignment->doubt, p.photo->file, "Look at it; it lies as its neighbours do"});
    return problems;
}

int steady_shot(const SteadyCall& call, const Context& context)
{
    const LoadedProject loaded = load_project(call.project);
    const ShotIndex index = named_shot(loaded.project, call.shot);
    if (call.off) {
        save_project(as_shot(loaded.project, index), call.project);
        return done;
    }
    Project project = loaded.project;
    const ToMeasure photos = to_measure(project.shot(index));
    if (!photos.at.empty() && (!call.region.empty() || !call.leave_out.empty())) {
        const cv::Size size = seen_size(project.shot(index).photos[photos.at.front().at()]);
        project = set_region(project, index, {boxes_option(call.region, size), boxes_option(call.leave_out, size)});
    }
    const SteadyResult result = (call.way == "still" ? held_still : smoothed)(call, project, index, photos, context.job());
    project = result.project;
    if (call.edges == "mirrored")
        project = set_edges(project, index, Edges::mirrored);
    project = set_inside_all(project, index, call.crop == "auto");
    if (!call.shape.empty())
        project = set_crop_shape(project, index, shape_option(call.shape));
    save_project(project, call.project);
    const Shot& shot = project.shot(index);
    std::vector<Problem> problems = loaded.problems;
    for (Problem& p : doubts_of(shot))
        problems.push_back(std::move(p));
    if (context.json) {
        print_json(steady_json(shot, photos.at[result.reference], problems));
    } else {
        const cv::Rect& c = shot.steady->crop;
        std::cout << shot.name << ": " << photos.at.size() << " photos "
                  << (shot.steady->way == SteadyWay::still
                          ? "held still on " + shown_path(photos.photos[result.reference].photo->file.filename())
                          : std::string("on a smooth path"))
                  << "; the film's frame is " << c.width << " x " << c.height << " at " << c.x << ", " << c.y << '\n';
        print_problems(problems);
    }
    return problems.empty() ? done : done_with_problems;
}

}

void add_steady(CLI::App& app, Run& run)
{
    auto call = std::make_shared<SteadyCall>();
    CLI::App* steady = app.add_subcommand("steady", "Hold the photos of a shot still, or smooth a walked shot; prints how each lies");
    steady->add_option("project", call->project, "The project")->required();
    steady->add_option("--shot", call->shot, "The shot's name")->required();
    steady->add_option("--way", call->way, "still: all photos on a reference photo; smooth: along the camera's smoothed path")
        ->check(CLI::IsMember({"still", "smooth"}))
        ->capture_default_str();
    steady->add_option("--model", call->model,
                       "What the photos may have moved by, each including those before it; similar for still, perspective for smooth where not given")
        ->check(CLI::IsMember({"shift", "turn", "similar", "perspective"}));
    steady->add_option("--reference", call->reference, "The photo that stays where it is; the sharpest of the most typical when not given")
        ->check(CLI::PositiveNumber);
    steady->add_option("--region", call->region, "Look at this part only: X,Y,W,H in pixels; may be given several times")->allow_extra_args(false);
    steady->add_option("--leave-out", call->leave_out, "Do not look at this part: X,Y,W,H in pixels; may be given several times")->allow_extra_args(false);
    steady->add_option("--strength", call->strength, "smooth: movements that take less time are taken out: 1s, 24f; 1s when not given");
    steady->add_option("--limit", call->limit, "smooth: the share of the picture that may be lost, in percent; 12 when not given")->check(CLI::Range(0.0, 90.0));
    steady->add_option("--target", call->target, "smooth: keep this part where it is in the picture: X,Y,W,H in pixels of --target-photo");
    steady->add_option("--target-photo", call->target_photo, "The photo that the target is given in")->check(CLI::PositiveNumber)->capture_default_str();
    steady->add_option("--crop", call->crop, "auto: the largest box inside all photos; none: the whole frame")
        ->check(CLI::IsMember({"auto", "none"}))
        ->capture_default_str();
    steady->add_option("--shape", call->shape, "The crop's shape: 16:9, 4:5; photo for that of the photos");
    steady->add_option("--edges", call->edges, "With --crop none, where a photo does not reach: its edge goes on, or is mirrored")
        ->check(CLI::IsMember({"go-on", "mirrored"}))
        ->capture_default_str();
    steady->add_flag("--off", call->off, "As shot again");
    steady->callback([call, &run] { run = [call](const Context& c) { return steady_shot(*call, c); }; });
}

}
