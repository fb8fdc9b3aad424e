#pragma once
#include "core/base/id.h"
#include "core/base/strong.h"
#include "core/document/photo_list.h"
#include "core/steady/smooth_path.h"
#include "core/steady/trust_map.h"
#include "core/timing/pacing.h"

#include <array>
#include <cstdint>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace frenlo {

/// A piece of an unsorted card that is to become a shot: photos [begin, end).
struct Part
{
    std::string name;
    PhotoIndex begin;
    PhotoIndex end;
    std::string reason; ///< why it starts there, for people: "after a marker card"
    ShotKind kind = ShotKind::unknown;
    bool operator==(const Part&) const = default;
};

/// What lies behind transparent photos and beside photos of another shape: R, G, B, sRGB-encoded.
using Backdrop = std::array<std::uint8_t, 3>;

enum class SteadyWay {
    still, ///< all photos lie on the reference photo
    smooth, ///< the camera goes along a smoothed path
};

/// Where a photo does not reach and the frame is not cropped.
enum class Edges {
    go_on, ///< its outermost pixels go on
    mirrored,
};

/// How a shot is steadied. The photos' alignments are theirs.
struct Steadying
{
    SteadyWay way = SteadyWay::still;
    Movement movement = Movement::similar;
    cv::Size size; ///< of the photos that were measured, as seen: the film's plane without a crop
    Smoothing smoothing{}; ///< of a smooth path
    bool inside_all = true; ///< cropped to what all photos show; else the whole plane, edges go on
    Edges edges = Edges::go_on;
    cv::Size shape{}; ///< of the crop, width to height, as 16 x 9; empty: that of the photos
    cv::Rect crop{}; ///< the film's frame in its plane, whole pixels; follows the photos (with_shot.h)
    TrustMap trusted{}; ///< what was trusted when it was measured
    bool operator==(const Steadying&) const = default;
};

/// How a shot's light is evened. The photos' changes are theirs.
struct Lighting
{
    double window_s = 0; ///< changes that take longer stay; 0: as the photos say
    double found_window_s = 0; ///< what they said, where it was measured so
    double strength = 1;
    std::optional<bool> each_colour{}; ///< set by hand; else as the photos say, and so on
    std::optional<bool> by_tone{};
    std::optional<bool> by_place{};
    std::optional<bool> camera_steps{};
    bool leave_out_moving = true; ///< what moves through the picture does not count
    FlickerKind kind{}; ///< as measured
    Corrected corrected{}; ///< what was done: as set by hand, or as suits the kind
    FlickerFigures before{}; ///< as measured
    FlickerFigures after{};
    bool operator==(const Lighting&) const = default;
};

using ShotId = Id<struct ShotIdTag>;

/// Photos in order that make one piece of film. With parts it is an unsorted card: only what lies in parts is film.
struct Shot
{
    ShotId id{}; ///< given where it comes into a project
    std::string name;
    PhotoList photos;
    ShotKind kind = ShotKind::unknown;
    std::vector<Part> parts{}; ///< in order, apart, none empty
    std::optional<Seconds> pause{}; ///< the pause that ends a part, where the user set it
    Backdrop backdrop{0, 0, 0};
    std::vector<std::string> settled{}; ///< keys of findings that the user has looked at and left (remedies.h)
    Pacing pacing{};
    Region region{}; ///< what Steady looks at, of each photo
    Region light_region{}; ///< where Light measures, of the film's plane
    std::optional<Steadying> steady{}; ///< none: as shot
    std::optional<Lighting> lighting{}; ///< none: as shot
    bool operator==(const Shot&) const = default;
};

using ShotPtr = std::shared_ptr<const Shot>;

/// An identity of its own for the shot, and for each photo that has none.
void give_ids(Shot& shot);

/// All that a photographer has made, as a value. Shots that an edit does not touch are shared with the project before
/// it, so keeping every step costs little, and what changed is found by comparing pointers.
struct Project
{
    Rate delivered_at{24};
    std::vector<ShotPtr> shots;

    [[nodiscard]] const Shot& shot(ShotIndex i) const { return *shots.at(i.at()); }
    [[nodiscard]] std::optional<ShotIndex> find_shot(std::string_view name) const;
    [[nodiscard]] std::optional<ShotIndex> find_shot(ShotId id) const;
    /// Same content; shared shots are not looked into.
    bool operator==(const Project&) const;
};

/// The shot's film: which photo is in which frame. It is what is exported; set-aside photos and those outside the kept
/// range are in none.
Schedule schedule_of(const Project& project, const Shot& shot);

/// The film and, before and after it, what the kept range leaves out: what the Sheet shows and the player can play.
struct Page
{
    Schedule schedule;
    FrameIndex kept_begin; ///< the film is frames [kept_begin, kept_end) of the page
    FrameIndex kept_end;
    std::int64_t passes = 1; ///< how often the film goes through its photos
    std::int64_t photos = 0; ///< different photos in the film
};
Page page_of(const Project& project, const Shot& shot);

/// The rate that holds in frames are counted in.
Rate pacing_rate(const Project& project, const Shot& shot);

/// The photos in the film and their holds, in the shot's order, before range, order and repeats.
std::vector<HeldPhoto> held_photos(const Shot& shot);

/// Which photos can be in the film, one a photo: not set aside, and in a part where there are parts.
std::vector<bool> in_film(const Shot& shot);

/// When each of these photos begins in the film, seconds, each held once: the clock of a walked shot.
std::vector<double> film_seconds(const Project& project, const Shot& shot, std::span<const HeldPhoto> photos);

/// How many photos are in the film.
std::int64_t photos_in_film(const Shot& shot);

/// The position of the part that this photo is in.
std::optional<std::size_t> part_of(const Shot& shot, PhotoIndex photo);

}
