#pragma once
#include "core/base/opencv_values.h"
#include "core/picture/canvas.h"
#include "core/picture/frame_stages.h"
#include "core/picture/frame_view.h"
#include "core/picture/laid_over.h"
#include "core/picture/placement.h"
#include "core/picture/stages.h"
#include "core/project/project.h"
#include "core/source/lens.h"
#include "core/source/photo_source.h"

#include <optional>
#include <variant>
#include <vector>

namespace frenlo {

/// How a photo meets a frame of another shape.
enum class Fit
{
    inside, ///< the whole photo, bars of the backdrop beside it
    fill    ///< the whole frame, what does not fit is cut evenly at both sides
};

/// One photo on its way into a frame.
struct PlacedPhoto
{
    PhotoPtr photo;
    int turns = 0; ///< quarters clockwise, 0 to 3
    Damage damage = Damage::refuse;
    Lens lens{};                          ///< what it did is taken out, before all else
    StageValues stages{};                 ///< what steps do to it (stages.h)
    std::optional<Placement> placement{}; ///< where the shot is steadied; in place of the whole photo
    std::optional<FrameView> view{};      ///< what of that is seen; none: all of it
    Fit fit = Fit::inside;
    std::optional<Backdrop> backdrop{}; ///< behind and beside it; none: what is transparent stays so, bars are black
};

struct FrameRequest;

/// Nothing but a colour.
struct PlainColour
{
    Backdrop colour{};
};

/// A straight edge on its way across a frame: behind it a part is seen, before it not.
struct SoftEdge
{
    double degrees = 0;  ///< where it goes to: 0 to the right, 90 down
    double at = 0;       ///< of its way, 0 to 1: nothing is behind it, all of the frame is
    double softness = 0; ///< how wide the edge is, as a share of its way
    bool before = false; ///< the other way round
    bool operator==(const SoftEdge&) const = default;

    /// How much is seen at the middle of this pixel, 0 to 1.
    [[nodiscard]] double share(cv::Point pixel, cv::Size frame) const;
};

/// A photo, a frame of another film or a colour, and its share of the frame.
struct FramePart
{
    double weight = 1;
    std::variant<PlacedPhoto, std::shared_ptr<const FrameRequest>, PlainColour> what;
    std::optional<SoftEdge> edge{}; ///< where it is seen; none: everywhere
};

/// Everything that a frame depends on, as a value: equal requests give equal pictures, so it is the key of caches.
struct FrameRequest
{
    cv::Size size; ///< of the picture to make, pixels
    Depth depth = Depth::eight;
    bool alpha = false;             ///< keep what is transparent; else it is black
    bool dither = true;             ///< where arithmetic made smooth light; not where colours are reduced afterwards
    FrameStages finish{};           ///< what is done to the whole frame (frame_stages.h)
    std::vector<LaidOver> layers{}; ///< over and behind it, the lowest first; in their place among what is done to it
    std::optional<Backdrop> backdrop{}; ///< behind all of it and its layers
    std::vector<FramePart> parts{};     ///< averaged in linear light; at least one, the weights sum to 1
    bool motion = false; ///< of two parts: an in-between (in_between.h), so far on the way as the second weighs
    double shutter = 0;  ///< of two parts: the first one, moving on to the second for this share of the way
                         ///< (long_shutter.h)

    /// The photo that has most of it; null where there is none.
    [[nodiscard]] PhotoPtr photo() const;
    /// Where it is all that the frame is made of; else null.
    [[nodiscard]] const PlacedPhoto* lone_photo() const;
    /// Something is done to it as a whole.
    [[nodiscard]] bool is_finished() const { return !finish.entries().empty() || !layers.empty() || backdrop; }
};

template <>
struct Fields<PlacedPhoto>
{
    static constexpr FieldTable table{
        field("photo", &PlacedPhoto::photo, ""),       field("turns", &PlacedPhoto::turns, ""),
        field("damage", &PlacedPhoto::damage, ""),     field("lens", &PlacedPhoto::lens, ""),
        field("stages", &PlacedPhoto::stages, ""),     field("placement", &PlacedPhoto::placement, ""),
        field("view", &PlacedPhoto::view, ""),         field("fit", &PlacedPhoto::fit, ""),
        field("backdrop", &PlacedPhoto::backdrop, ""),
    };
};
template <>
struct Fields<PlainColour>
{
    static constexpr FieldTable table{field("colour", &PlainColour::colour, "")};
};
template <>
struct Fields<SoftEdge>
{
    static constexpr FieldTable table{
        field("degrees", &SoftEdge::degrees, ""),
        field("at", &SoftEdge::at, ""),
        field("softness", &SoftEdge::softness, ""),
        field("before", &SoftEdge::before, ""),
    };
};
template <>
struct Fields<FramePart>
{
    static constexpr FieldTable table{
        field("weight", &FramePart::weight, ""),
        field("what", &FramePart::what, ""),
        field("edge", &FramePart::edge, ""),
    };
};
template <>
struct Fields<FrameRequest>
{
    static constexpr FieldTable table{
        field("size", &FrameRequest::size, ""),         field("depth", &FrameRequest::depth, ""),
        field("alpha", &FrameRequest::alpha, ""),       field("dither", &FrameRequest::dither, ""),
        field("finish", &FrameRequest::finish, ""),     field("layers", &FrameRequest::layers, ""),
        field("backdrop", &FrameRequest::backdrop, ""), field("parts", &FrameRequest::parts, ""),
        field("motion", &FrameRequest::motion, ""),     field("shutter", &FrameRequest::shutter, ""),
    };
};
bool operator==(const PlacedPhoto& a, const PlacedPhoto& b);
inline bool operator==(const PlainColour& a, const PlainColour& b)
{
    return a.colour == b.colour;
}
bool operator==(const FramePart& a, const FramePart& b);
bool operator==(const FrameRequest& a, const FrameRequest& b);

}
