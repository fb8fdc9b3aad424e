#include "core/picture/frame_view.h"

#include <cmath>
#include <numbers>

namespace frenlo {

namespace {

/// Clockwise as seen, y going down.
Transform turned_about(double degrees, cv::Point2d middle)
{
    if (degrees == 0)
        return Transform::eye();
    const double a = degrees * std::numbers::pi / 180, c = std::cos(a), s = std::sin(a);
    return {c, -s, middle.x - c * middle.x + s * middle.y, s, c, middle.y - s * middle.x - c * middle.y, 0, 0, 1};
}

}

cv::Size2d box_size(const FrameView& view, cv::Size2d undressed)
{
    return {view.box.width * undressed.width, view.box.height * undressed.height};
}

Transform out_of_upright(double straighten, double uprights, cv::Size2d undressed)
{
    const cv::Point2d middle(undressed.width / 2, undressed.height / 2);
    const Transform turned = turned_about(-straighten, middle);
    if (uprights == 0)
        return turned;
    const Transform to_middle{1, 0, -middle.x, 0, 1, -middle.y, 0, 0, 1}, back{1, 0, middle.x, 0, 1, middle.y, 0, 0, 1};
    return turned * back * Transform{1, 0, 0, 0, 1, 0, 0, -uprights / middle.y, 1} * to_middle;
}

Transform out_of_box(const FrameView& view, cv::Size2d undressed)
{
    const cv::Size2d box = box_size(view, undressed);
    const cv::Point2d corner(view.box.x * undressed.width, view.box.y * undressed.height);
    const Transform moved{1, 0, corner.x, 0, 1, corner.y, 0, 0, 1};
    return out_of_upright(view.straighten, view.uprights, undressed) * moved *
           turned_about(view.turn, cv::Point2d(box.width / 2, box.height / 2));
}

}
