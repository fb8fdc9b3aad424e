#include "core/picture/frame_request.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace frenlo {

const PlacedPhoto* FrameRequest::lone_photo() const
{
    const bool alone = parts.size() == 1 && !parts.front().edge;
    return alone ? std::get_if<PlacedPhoto>(&parts.front().what) : nullptr;
}

PhotoPtr FrameRequest::photo() const
{
    PhotoPtr found;
    double most = -1;
    for (const FramePart& part : parts) {
        if (part.weight <= most)
            continue;
        PhotoPtr here;
        if (const auto* placed = std::get_if<PlacedPhoto>(&part.what))
            here = placed->photo;
        else if (const auto* frame = std::get_if<std::shared_ptr<const FrameRequest>>(&part.what); frame && *frame)
            here = (*frame)->photo();
        if (here) {
            found = std::move(here);
            most = part.weight;
        }
    }
    return found;
}

double SoftEdge::share(cv::Point pixel, cv::Size frame) const
{
    const double turn = degrees * std::numbers::pi / 180, x = std::cos(turn), y = std::sin(turn);
    // Along the way of the edge, from the corner that it leaves first to the one that it reaches last.
    const double half = (std::abs(x) * frame.width + std::abs(y) * frame.height) / 2;
    const double along =
        ((pixel.x + 0.5 - frame.width / 2.0) * x + (pixel.y + 0.5 - frame.height / 2.0) * y) / (2 * half) + 0.5;
    const double soft = std::max(softness, 1 / (2 * half)); // at least a pixel, or it would be a staircase
    const double edge = at * (1 + soft) - soft / 2;         // at the ends all of it has gone by
    const double behind = std::clamp((edge - along) / soft + 0.5, 0.0, 1.0);
    return before ? 1 - behind : behind;
}

bool operator==(const PlacedPhoto& a, const PlacedPhoto& b)
{
    return all_fields(a) && same_fields(a, b);
}
bool operator==(const FramePart& a, const FramePart& b)
{
    return all_fields(a) && same_fields(a, b);
}
bool operator==(const FrameRequest& a, const FrameRequest& b)
{
    return all_fields(a) && same_fields(a, b);
}

}
