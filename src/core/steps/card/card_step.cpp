#include "core/base/opencv_json.h"
#include "core/cards/card_values.h"
#include "core/project/value_codecs.h"
#include "core/steps/card/card_command.h"
#include "core/steps/step.h"

namespace frenlo {

namespace {

/// The frame, however large the drawing is that moves through it.
std::optional<cv::Size> frame_size(const Shot& shot)
{
    const TextCard* card = text_card_of(shot);
    return card ? std::optional(card->frame) : std::nullopt;
}

/// A rolling card is a frame that goes down a long drawing, evenly, from the first frame to the last.
DressFrame move_card(const Shot& shot, const Schedule& schedule, const OtherFilms&)
{
    const TextCard* card = text_card_of(shot);
    if (!card || card->move == CardMove::still || shot.photos.empty() || shot.photos.front().photo->size.empty())
        return {};
    const cv::Size drawing = shot.photos.front().photo->size;
    const double last = std::max(1.0, double(schedule.frames() - 1));
    return [last, x = double(card->frame.width) / drawing.width, y = double(card->frame.height) / drawing.height,
            rolls = card->move == CardMove::roll](FrameIndex frame, FrameDress& dress) {
        const double t = double(frame.value) / last;
        dress.view = FrameView{.box = rolls ? cv::Rect2d(0, t * (1 - y), 1, y) : cv::Rect2d(t * (1 - x), 0, x, 1),
                               .whole_frame = true};
    };
}

}

const Step& card_step()
{
    static const Step step{
        .name = "card",
        .shot_values = {step_coding<OfShot, TextCard>("The card that the shot is; its photo is drawn from it")},
        .pictures = {.film_size = frame_size, .dress = move_card},
        .add_commands = command::add_card_commands};
    return step;
}

}
