#include "core/base/opencv_json.h"
#include "core/project/value_codecs.h"
#include "core/steps/frame/frame_command.h"
#include "core/steps/frame/frame_edits.h"
#include "core/steps/frame/framing.h"
#include "core/steps/step.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

std::vector<std::string> shapes(const Shot& shot)
{
    std::vector<std::string> texts;
    for (const FilmShape& shape : shapes_beside(shot))
        texts.push_back(shape_text(shape));
    return texts;
}

void take_shape(Shot& shot, const std::string& text)
{
    if (const auto shape = parse_shape(text))
        if (const auto others = shapes_beside(shot); std::find(others.begin(), others.end(), *shape) != others.end())
            dress_for(shot, *shape);
}

std::optional<std::string> shape_like(const Shot& shot, double ratio)
{
    constexpr double same = 0.005; // 1080 x 1350 and 4:5, and what a line cut off makes of them
    const auto like = [&](const FilmShape& shape) { return std::abs(shape.value() / ratio - 1) < same; };
    if (like(framing_of(shot).shape))
        return std::nullopt;
    for (const FilmShape& shape : shapes_beside(shot))
        if (like(shape))
            return shape_text(shape);
    return std::nullopt;
}

}

const Step& frame_step()
{
    static const Step step{
        .name = "frame",
        .photo_values = {step_coding<OfPhoto, DriftView>("A view that the film drifts through, set at this photo")},
        .shot_values = {step_coding<OfShot, Framing>("How its frame is dressed; absent: as shot"),
                        step_coding<OfShot, OtherDresses>("How it is dressed for other shapes")},
        .pictures = {.dressed_size = dressed_size,
                     .dress = dress_frames,
                     .other_shapes = shapes,
                     .take_shape = take_shape,
                     .shape_like = shape_like},
        .add_commands = command::add_frame_commands};
    return step;
}

}
