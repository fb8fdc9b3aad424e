#pragma once
// What the step keeps in the project.
#include "core/picture/placement.h"
#include "core/project/project.h"
#include "core/steps/steady/alignment.h"
#include "core/steps/steady/smooth_path.h"
#include "core/steps/steady/trust_map.h"

namespace frenlo {

enum class SteadyWay
{
    still,  ///< all photos lie on the reference photo
    smooth, ///< the camera goes along a smoothed path
};

/// How a shot is steadied. The photos' alignments are theirs.
struct Steadying
{
    SteadyWay way = SteadyWay::still;
    Movement movement = Movement::similar;
    cv::Size size;          ///< of the photos that were measured, as seen: the film's plane without a crop
    Smoothing smoothing{};  ///< of a smooth path
    bool inside_all = true; ///< cropped to what all photos show; else the whole plane, edges go on
    Edges edges = Edges::go_on;
    cv::Size shape{};   ///< of the crop, width to height, as 16 x 9; empty: that of the photos
    cv::Rect crop{};    ///< the film's frame in its plane, whole pixels; follows the photos (steady_step.cpp)
    TrustMap trusted{}; ///< what was trusted when it was measured
    bool operator==(const Steadying&) const = default;
};

/// What is looked at, of each photo.
struct SteadyRegion : Region
{
};

template <>
struct PhotoValue<Alignment>
{
    static constexpr const char* key = "alignment";
};
template <>
struct ShotValue<Steadying>
{
    static constexpr const char* key = "steady";
};
template <>
struct ShotValue<SteadyRegion>
{
    static constexpr const char* key = "region";
};

/// Null where it was not measured.
inline const Alignment* alignment_of(const ShotPhoto& photo)
{
    return photo.steps.find<Alignment>();
}
/// Null for a shot that is as shot.
inline const Steadying* steadying_of(const Shot& shot)
{
    return shot.steps.find<Steadying>();
}
/// Everything where nothing was said; stays until the shot is changed.
inline const SteadyRegion& steady_region(const Shot& shot)
{
    static const SteadyRegion everywhere;
    const SteadyRegion* region = shot.steps.find<SteadyRegion>();
    return region ? *region : everywhere;
}

template <>
struct Words<SteadyWay>
{
    static constexpr std::array<std::string_view, 2> words{"still", "smooth"};
};
inline constexpr int most_side = 1 << 20; ///< pixels: more than any picture has

template <>
struct Fields<Steadying>
{
    static constexpr FieldTable table{
        field("way", &Steadying::way, ""),
        field("movement", &Steadying::movement, "What a photo may have moved by"),
        required("size", &Steadying::size, "Of the photos that were measured, as seen: the film's plane without a crop",
                 {1, most_side}),
        field("smoothing", &Steadying::smoothing, "Of a smooth path"),
        field("inside_all", &Steadying::inside_all,
              "The crop is the largest box inside all photos; else the whole plane"),
        field("edges", &Steadying::edges, "Where a photo does not reach"),
        field("shape", &Steadying::shape, "Of the crop, as 16, 9; absent: that of the photos", {1, 10000}),
        required("crop", &Steadying::crop, "The film's frame in its plane: x, y, width, height",
                 {-most_side, most_side}),
        field("trusted", &Steadying::trusted,
              "A grid over the frame, a digit a cell: tenths of the tries that agreed, X for all, . where nothing "
              "could be followed"),
    };
};
template <>
struct Fields<SteadyRegion> : Fields<Region>
{
};

}
