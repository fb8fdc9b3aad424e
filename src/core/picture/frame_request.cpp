#include "core/picture/frame_request.h"

namespace frenlo {

PhotoPtr FrameRequest::photo() const
{
    if (parts.empty())
        return nullptr;
    if (const auto* placed = std::get_if<PlacedPhoto>(&parts.front().what))
        return placed->photo;
    const auto& frame = std::get<std::shared_ptr<const FrameRequest>>(parts.front().what);
    return frame ? frame->photo() : nullptr;
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
