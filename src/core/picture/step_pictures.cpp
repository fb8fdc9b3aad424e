#include "core/picture/step_pictures.h"

#include "core/picture/placing.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

std::optional<Placement> placement_of(const Shot& shot, const ShotPhoto& photo)
{
    for (const StepPictures& step : step_pictures())
        if (step.placement)
            if (auto placement = step.placement(shot, photo))
                return placement;
    return std::nullopt;
}

std::vector<std::string> other_shapes(const Shot& shot)
{
    std::vector<std::string> shapes;
    for (const StepPictures& step : step_pictures())
        if (step.other_shapes)
            for (std::string& shape : step.other_shapes(shot))
                shapes.push_back(std::move(shape));
    return shapes;
}

Project in_shape(const Project& project, const std::string& shape, cv::Size frames)
{
    Project p = project;
    if (shape.empty() && frames.empty())
        return p;
    for (ShotPtr& shot : p.shots)
        for (const StepPictures& step : step_pictures()) {
            if (!step.take_shape)
                continue;
            const auto wanted =
                !shape.empty() ? std::optional(shape) : step.shape_like(*shot, double(frames.width) / frames.height);
            if (!wanted)
                continue;
            auto other = std::make_shared<Shot>(*shot);
            step.take_shape(*other, *wanted);
            shot = std::move(other);
        }
    return p;
}

StageValues stages_of(const Shot& shot, PhotoIndex photo, int before)
{
    StageValues stages;
    for (const StepPictures& step : step_pictures())
        if (step.stages && step.stage_order < before)
            step.stages(shot, photo, stages);
    return stages;
}

bool operator==(const LayerOfFilm& a, const LayerOfFilm& b)
{
    return a.frame == b.frame && a.on_scene == b.on_scene && a.drawing == b.drawing && a.layer == b.layer &&
           same_value(a.matte_by, b.matte_by);
}

namespace {

/// The layer's picture as large as it is seen: a drawing exactly, a photo by halves, so that little is decoded and one
/// resample is left.
void fit_picture(LaidOver& layer, bool drawing)
{
    const cv::Size own = layer.picture->size;
    if (own.empty() || !layer.picture->layers.empty()) // its own layers lie on it at that size
        return;
    const double scale = std::max(std::hypot(layer.to_frame(0, 0), layer.to_frame(1, 0)),
                                  std::hypot(layer.to_frame(0, 1), layer.to_frame(1, 1)));
    constexpr double least = 1.0 / 4096, most_side = 8192;
    double by = std::clamp(scale, least, most_side / std::max(own.width, own.height));
    if (!drawing)
        by = std::min(1.0, std::exp2(std::ceil(std::log2(by))));
    const cv::Size size(std::max(1, int(std::lround(own.width * by))), std::max(1, int(std::lround(own.height * by))));
    if (size == own)
        return;
    FrameRequest made = *layer.picture;
    made.size = size;
    layer.picture = std::make_shared<const FrameRequest>(std::move(made));
    layer.to_frame = layer.to_frame *
                     Transform{double(own.width) / size.width, 0, 0, 0, double(own.height) / size.height, 0, 0, 0, 1};
}

LaidOver in_frame(const LayerOfFilm& layer, const FrameDress& dress, cv::Size frame, Fit fit)
{
    LaidOver laid = layer.layer;
    const Fit own_fit = dress.view && dress.view->whole_frame ? Fit::fill : fit;
    if (layer.on_scene && dress.view) {
        const cv::Size2d box = box_size(*dress.view, layer.frame);
        laid.to_frame =
            into_frame(placing(box, frame, own_fit), box) * out_of_box(*dress.view, layer.frame).inv() * laid.to_frame;
    } else {
        laid.to_frame = into_frame(placing(layer.frame, frame, own_fit), layer.frame) * laid.to_frame;
    }
    fit_picture(laid, layer.drawing);
    if (laid.matte && layer.matte_by)
        laid.matte->by = std::make_shared<const LaidOver>(in_frame(*layer.matte_by, dress, frame, fit));
    return laid;
}

bool can_be_transparent(const PlacedPhoto& photo)
{
    return photo.photo->alpha || make_transparent(photo.stages);
}

}

namespace {

/// Lets the frame's photos be seen in its view, also of frames that move on to others. The backdrop that is to come
/// behind all, where something lies between.
std::optional<Backdrop> see_through(const FrameDress& dress, bool behind, FrameRequest& request)
{
    std::optional<Backdrop> backdrop;
    for (FramePart& part : request.parts)
        if (auto* photo = std::get_if<PlacedPhoto>(&part.what)) {
            photo->view = dress.view;
            if (behind && photo->backdrop && can_be_transparent(*photo)) // what lies behind comes between
                backdrop = std::exchange(photo->backdrop, std::nullopt);
        } else if (auto* frame = std::get_if<std::shared_ptr<const FrameRequest>>(&part.what);
                   frame && request.shutter > 0) {
            FrameRequest seen = **frame;
            if (const auto inner = see_through(dress, behind, seen))
                backdrop = inner;
            *frame = std::make_shared<const FrameRequest>(std::move(seen));
        }
    return backdrop;
}

}

void wear(const FrameDress& dress, FrameRequest& request, Fit fit)
{
    request.finish = dress.finish;
    for (const LayerOfFilm& layer : dress.layers)
        request.layers.push_back(in_frame(layer, dress, request.size, fit));
    const bool behind = std::any_of(dress.layers.begin(), dress.layers.end(),
                                    [](const LayerOfFilm& layer) { return layer.layer.behind; });
    if (const auto backdrop = see_through(dress, behind, request))
        request.backdrop = backdrop;
}

std::vector<FrameRange> split_by_dress(std::span<const FrameRange> runs,
                                       const std::function<FrameDress(FrameIndex)>& dress)
{
    std::vector<FrameRange> all;
    FrameDress before;
    for (const FrameRange& run : runs) {
        all.push_back(run);
        for (FrameIndex f = run.begin; f < run.end; ++f) { // a photo that is held may be seen otherwise each time
            FrameDress now = dress(f);
            if (f > run.begin && !(now == before)) {
                all.back().end = f;
                all.push_back({f, run.end});
            }
            before = std::move(now);
        }
    }
    return all;
}

namespace {

DressFrame all_of(std::vector<DressFrame> all)
{
    if (all.empty())
        return {};
    return [all = std::move(all)](FrameIndex frame, FrameDress& dress) {
        for (const DressFrame& one : all)
            one(frame, dress);
    };
}

}

DressFrame dress_of(const Shot& shot, const Schedule& schedule, const OtherFilms& others)
{
    std::vector<DressFrame> all;
    for (const StepPictures& step : step_pictures())
        if (step.dress)
            if (auto one = step.dress(shot, schedule, others))
                all.push_back(std::move(one));
    return all_of(std::move(all));
}

DressFrame dress_of(const Reel& reel, cv::Size frame, Rate rate, const OtherFilms& others)
{
    std::vector<DressFrame> all;
    for (const StepPictures& step : step_pictures())
        if (step.dress_reel)
            if (auto one = step.dress_reel(reel, frame, rate, others))
                all.push_back(std::move(one));
    return all_of(std::move(all));
}

std::vector<Transform> film_transforms(const Shot& shot, std::span<const PhotoIndex> photos)
{
    std::vector<Transform> transforms;
    bool placed = false;
    for (const PhotoIndex p : photos) {
        const auto placement = placement_of(shot, shot.photos[p.at()]);
        placed = placed || placement;
        transforms.push_back(placement ? placement->from_film : Transform::eye());
    }
    return placed ? transforms : std::vector<Transform>();
}

std::vector<Share> standing_in(const Shot& shot, PhotoIndex photo)
{
    for (const StepPictures& step : step_pictures())
        if (step.standing_in)
            if (auto others = step.standing_in(shot, photo); !others.empty())
                return others;
    return {{photo, 1}};
}

}
