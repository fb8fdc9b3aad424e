#pragma once
// Parts of the picture in which something holds, and finished versions of the same photos, as values of a shot.
#include "core/base/fields.h"
#include "core/base/id.h"
#include "core/base/transform.h"
#include "core/project/photo_places.h"

#include <opencv2/core/mat.hpp>

#include <optional>
#include <string>
#include <vector>

namespace frenlo {

using AreaId = Id<struct AreaIdTag>;
using StateId = Id<struct StateIdTag>;

/// One of several finished versions of a shot's photos: by day, by lamplight. What is set for none of them holds in
/// all.
struct State
{
    StateId id{};
    std::string name;
    bool operator==(const State&) const = default;
};

/// From this photo on.
struct StateSwitch
{
    PhotoId photo{};
    std::optional<StateId> state{}; ///< none: as it is without any
    bool operator==(const StateSwitch&) const = default;
};

struct States
{
    std::vector<State> all{};
    std::vector<StateSwitch> switches{}; ///< in any order; before the first there is none
    bool operator==(const States&) const = default;
};

/// What an area shows.
enum class AreaShows
{
    photo, ///< the photo itself: the area limits what else is set for it
    plate, ///< the clean plate
    other  ///< another photo of the shot
};

/// A part of the picture, by an outline or a brush, held to the scene: its places are shares of the film's plane.
struct Area
{
    AreaId id{};
    std::string name;
    std::vector<PlaceKey> keys{}; ///< its outline, or the way of its brush; none: all of the picture
    double brush = 0;             ///< radius of the brush, share of the width; 0: the points are an outline
    double soft = 0.01;           ///< how far its edge reaches to both sides, share of the width
    bool outside = false;         ///< it is all but what is inside
    AreaShows shows = AreaShows::photo;
    std::optional<PhotoId> other{}; ///< the photo that it shows
    std::optional<PhotoId> first{}; ///< of the photos that it is in; none: from the first
    std::optional<PhotoId> last{};  ///< none: to the last
    std::optional<StateId> state{}; ///< it is there only in this state; none: in all
    bool on = true;
    bool operator==(const Area&) const = default;
};

struct Areas
{
    std::vector<Area> all{}; ///< what a later one shows lies over what an earlier one does
    bool operator==(const Areas&) const = default;
};

inline constexpr Limits area_soft_limits{0, 0.5}, area_brush_limits{0, 1};

template <>
struct ShotValue<Areas>
{
    static constexpr const char* key = "areas";
};
template <>
struct ShotValue<States>
{
    static constexpr const char* key = "states";
};

/// Null where there is none of this identity.
const Area* find_area(const Shot& shot, AreaId id);
const State* find_state(const Shot& shot, StateId id);
/// The state that this photo is in.
std::optional<StateId> state_at(const Shot& shot, PhotoIndex photo);
/// Whether what holds in this state (none: in all) holds at this photo.
bool in_state(const std::optional<StateId>& state, const Shot& shot, PhotoIndex photo);

/// Where an area is in one photo, as a value.
struct AreaMask
{
    std::vector<cv::Point2d> points{}; ///< shares of the film's plane; none: everywhere
    double brush = 0;                  ///< as Area
    double soft = 0;
    bool outside = false;
    bool operator==(const AreaMask&) const = default;
};
/// Nothing where it is not in this photo, or switched off.
std::optional<AreaMask> mask_at(const Area& area, const Shot& shot, PhotoIndex photo);

/// The pixels that its edge reaches, in a picture of this size. to_plane: of pixels, centres on integers, to shares of
/// the plane.
cv::Rect mask_box(const AreaMask& mask, const Transform& to_plane, cv::Size size);
/// How far each pixel of this box is in it, 0 to 1: half at its outline.
cv::Mat1f mask_shares(const AreaMask& mask, const Transform& to_plane, const cv::Rect& box);

template <>
struct Words<AreaShows>
{
    static constexpr std::array<std::string_view, 3> words{"photo", "plate", "other"};
};
template <>
struct Fields<State>
{
    static constexpr FieldTable table{
        required("id", &State::id, "Who it is"),
        required("name", &State::name, ""),
    };
};
template <>
struct Fields<StateSwitch>
{
    static constexpr FieldTable table{
        required("photo", &StateSwitch::photo, "From that one on"),
        field("state", &StateSwitch::state, "Absent: as without any"),
    };
};
template <>
struct Fields<States>
{
    static constexpr FieldTable table{
        field("all", &States::all, ""),
        field("switches", &States::switches, ""),
    };
};
template <>
struct Fields<Area>
{
    static constexpr FieldTable table{
        required("id", &Area::id, "Who it is"),
        required("name", &Area::name, ""),
        field("keys", &Area::keys, "Where it is at which photo; absent: all of the picture"),
        field("brush", &Area::brush, "Radius of its brush, share of the width; 0: an outline", area_brush_limits),
        field("soft", &Area::soft, "How far its edge reaches to both sides, share of the width", area_soft_limits),
        field("outside", &Area::outside, "All but what is inside"),
        field("shows", &Area::shows, ""),
        field("other", &Area::other, "The photo that it shows"),
        field("first", &Area::first, "Of the photos that it is in; absent: the first"),
        field("last", &Area::last, "Absent: the last"),
        field("state", &Area::state, "Only in that state; absent: in all"),
        field("on", &Area::on, ""),
    };
};
template <>
struct Fields<Areas>
{
    static constexpr FieldTable table{field("all", &Areas::all, "The lowest first")};
};
template <>
struct Fields<AreaMask>
{
    static constexpr FieldTable table{
        field("points", &AreaMask::points, ""),
        field("brush", &AreaMask::brush, ""),
        field("soft", &AreaMask::soft, ""),
        field("outside", &AreaMask::outside, ""),
    };
};

}
