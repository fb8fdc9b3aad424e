#include "core/steps/tone/seen_before_tone.h"

#include "core/picture/step_pictures.h"
#include "core/picture/turned.h"
#include "core/steps/tone/tone_stage.h"

#include <algorithm>

namespace frenlo {

StageValues stages_before_tone(const Shot& shot, PhotoIndex photo)
{
    return stages_of(shot, photo, stage_order::tone);
}

FrameRequest request_before_tone(const SeenPhoto& photo, const StageValues& stages, cv::Size size)
{
    return {.size = size,
            .parts = {{1, PlacedPhoto{.photo = photo.photo,
                                      .turns = photo.turns,
                                      .damage = photo.damage,
                                      .lens = photo.lens,
                                      .stages = stages,
                                      .fit = Fit::fill}}}};
}

Result<Canvas> small_before_tone(const SeenPhoto& photo, const StageValues& stages, int side, const PhotoSource& source)
{
    const cv::Size whole = turned(photo.photo->size, photo.turns);
    const cv::Size size = fitted(whole, {std::min(side, whole.width), std::min(side, whole.height)});
    return render_canvas(request_before_tone(photo, stages, size), source);
}

Canvas toned(const Canvas& whole, const Tone& tone)
{
    Canvas result = whole.clone();
    StagePhoto photo = part_of_plane(whole.size());
    photo.overview = [whole] { return whole; };
    const RowStage stage = row_stage(tone, photo);
    for (int y = 0; y < result.rows; ++y)
        stage(y, 0, result.cols, result.ptr<float>(y));
    return result;
}

}
