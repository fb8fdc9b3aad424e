#pragma once
#include "core/base/opencv_values.h"
#include "core/base/transform.h"

#include <opencv2/core/types.hpp>

namespace frenlo {

/// What is seen where the film's frame reaches beyond the photo.
enum class Beyond
{
    backdrop, ///< the shot's backdrop, or black
    blurred   ///< the photo itself, enlarged and out of focus
};

/// Of the frame that a shot has undressed (the photo, or what steadying leaves of it) that which a frame of the film
/// shows. It is part of the placement: composed with all the rest into one resample.
struct FrameView
{
    cv::Rect2d box{0, 0, 1, 1}; ///< shares of the undressed frame's sides; may reach beyond it
    double turn = 0;            ///< degrees that the box is turned clockwise about its middle
    double straighten = 0;      ///< degrees that the undressed frame is turned clockwise about its middle before
    double uprights = 0;        ///< how much what leans together towards its top is drawn apart there: lines upright in
                                ///< the result are so much closer at its top than in its middle
    bool whole_frame = false;   ///< the box fills the film's frame; else it keeps its shape, with bars
    Beyond beyond = Beyond::backdrop;
    bool operator==(const FrameView&) const = default;
};

/// Of points of the box to points of the undressed frame, pixels of that at full size, coordinates of pixel corners:
/// (0, 0) is the upper left corner of either.
Transform out_of_box(const FrameView& view, cv::Size2d undressed);

/// Of points of the undressed frame made level and upright to points of it as it was, the same coordinates. The middle
/// stays, as large as it was.
Transform out_of_upright(double straighten, double uprights, cv::Size2d undressed);

/// The box's sides, pixels of the undressed frame.
cv::Size2d box_size(const FrameView& view, cv::Size2d undressed);

template <>
struct Words<Beyond>
{
    static constexpr std::array<std::string_view, 2> words{"backdrop", "blurred"};
};
template <>
struct Fields<FrameView>
{
    static constexpr FieldTable table{
        field("box", &FrameView::box, ""),
        field("turn", &FrameView::turn, ""),
        field("straighten", &FrameView::straighten, ""),
        field("uprights", &FrameView::uprights, ""),
        field("whole_frame", &FrameView::whole_frame, ""),
        field("beyond", &FrameView::beyond, ""),
    };
};

}
