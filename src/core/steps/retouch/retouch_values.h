#pragma once
// What is healed in the photos of a shot: spots, supports, dust, as values.
#include "core/base/fields.h"
#include "core/base/id.h"
#include "core/base/opencv_values.h"
#include "core/picture/areas.h"
#include "core/project/photo_places.h"
#include "core/project/project.h"

#include <optional>
#include <string>
#include <vector>

namespace frenlo {

using SpotId = Id<struct SpotIdTag>;

enum class HealFrom
{
    around, ///< from the same photo, from where it looks alike
    plate   ///< from the clean plate
};

/// Something that should not be in the photos, marked by a brush: a spot, a wire, a hand. Places are shares of the
/// film's plane, so that they follow the alignment; of a speck on the sensor, of the photo.
struct Spot
{
    SpotId id{};
    std::vector<PlaceKey> keys{}; ///< one: it stays there; more: between their photos it moves from one to the next
    double radius = 0.01;         ///< of the brush, share of the width
    double soft = 0.4;            ///< how far its edge reaches beyond, share of the radius
    bool on_photo = false;        ///< a speck on the sensor
    HealFrom from = HealFrom::around;
    cv::Point2d offset{};           ///< around: where the picture is taken from, share of the width and of the height
    std::optional<PhotoId> first{}; ///< of the photos that it is in; none: from the first
    std::optional<PhotoId> last{};  ///< none: to the last
    bool on = true;
    std::optional<AreaId> area{};   ///< it is healed only where the area is; none: everywhere
    std::optional<StateId> state{}; ///< it is healed only in this state; none: in all
    bool operator==(const Spot&) const = default;
};

struct Retouch
{
    std::vector<Spot> spots{};
    std::optional<PhotoId> plate{}; ///< the clean plate: a photo of the shot
    bool operator==(const Retouch&) const = default;
};

/// That a photo of the shot was made by Frenlo as its clean plate: it lies on the film's plane as it is.
struct MadePlate
{
    std::int64_t photos = 0; ///< that it was made of
    bool operator==(const MadePlate&) const = default;
};

inline constexpr Limits spot_radius_limits{0.0002, 1};

template <>
struct ShotValue<Retouch>
{
    static constexpr const char* key = "retouch";
};
template <>
struct PhotoValue<MadePlate>
{
    static constexpr const char* key = "made_plate";
};
inline Retouch retouch_of(const Shot& shot)
{
    return shot.steps.get<Retouch>();
}
/// The place of the clean plate among the photos; none where there is none, or where it is gone.
std::optional<PhotoIndex> plate_of(const Shot& shot);
/// Where the mark is at this photo; empty where it is not there.
std::vector<cv::Point2d> points_at(const Spot& spot, const Shot& shot, PhotoIndex photo);
/// The photos [begin, end) of the shot that it is in.
std::pair<std::int64_t, std::int64_t> range_of(const Spot& spot, const Shot& shot);

template <>
struct Words<HealFrom>
{
    static constexpr std::array<std::string_view, 2> words{"around", "plate"};
};
template <>
struct Fields<Spot>
{
    static constexpr FieldTable table{
        required("id", &Spot::id, "Who it is"),
        required("keys", &Spot::keys, "Where it is at which photo; between them it moves"),
        field("radius", &Spot::radius, "Share of the width", spot_radius_limits),
        field("soft", &Spot::soft, "How far its edge reaches, share of the radius", {0, 4}),
        field("on_photo", &Spot::on_photo, "A speck on the sensor: places are shares of the photo"),
        field("from", &Spot::from, "What takes its place"),
        field("offset", &Spot::offset, "Where that is taken from, share of the width and of the height", {-20, 20}),
        field("first", &Spot::first, "Of the photos that it is in; absent: the first"),
        field("last", &Spot::last, "Absent: the last"),
        field("on", &Spot::on, ""),
        field("area", &Spot::area, "Only where that area is; absent: everywhere"),
        field("state", &Spot::state, "Only in that state; absent: in all"),
    };
};
/// What a file may not say: a spot without a place.
void check_value(const Spot& spot);
template <>
struct Fields<Retouch>
{
    static constexpr FieldTable table{
        field("spots", &Retouch::spots, ""),
        field("plate", &Retouch::plate, "The clean plate, a photo of the shot"),
    };
};
template <>
struct Fields<MadePlate>
{
    static constexpr FieldTable table{field("photos", &MadePlate::photos, "That it was made of", {0, 1e9})};
};

}
