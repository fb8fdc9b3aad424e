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

template <>
struct Words<SteadyWay>
{
    static constexpr std::array<std::string_view, 2> words{"still", "smooth"};
};
template <>
struct Words<Edges>
{
    static constexpr std::array<std::string_view, 2> words{"go-on", "mirrored"};
};
inline constexpr int most_side = 1 << 20; ///< pixels: more than any picture has

template <>
struct Fields<Steadying>
{
    static constexpr std::tuple table{
        field("way", &Steadying::way, ""),
        field("movement", &Steadying::movement, "What a photo may have moved by"),
        required("size", &Steadying::size, "Of the photos that were measured, as seen: the film's plane without a crop", {1, most_side}),
        field("smoothing", &Steadying::smoothing, "Of a smooth path"),
        field("inside_all", &Steadying::inside_all, "The crop is the largest box inside all photos; else the whole plane"),
        field("edges", &Steadying::edges, "Where a photo does not reach"),
        field("shape", &Steadying::shape, "Of the crop, as 16, 9; absent: that of the photos", {1, 10000}),
        required("crop", &Steadying::crop, "The film's frame in its plane: x, y, width, height", {-most_side, most_side}),
        field("trusted", &Steadying::trusted, "A grid over the frame, a digit a cell: tenths of the tries that agreed, X for all, . where nothing could be followed"),
    };
};

template <>
struct Fields<Lighting>
{
    static constexpr std::tuple table{
        field("window_s", &Lighting::window_s, "Changes that take longer stay, seconds; 0: as fast as the photos say, at each of them", {0, 1e6}),
        field("found_window_s", &Lighting::found_window_s, "Where window_s is 0: what takes longer than about so many seconds stayed", {0, 1e6}),
        field("strength", &Lighting::strength, "Of what is taken out", {0, 1}),
        field("each_colour", &Lighting::each_colour, "Set by hand; absent, and so on: as suits the kind of flicker"),
        field("by_tone", &Lighting::by_tone, "Darks and lights apart"),
        field("by_place", &Lighting::by_place, "Each part of the picture by itself"),
        field("camera_steps", &Lighting::camera_steps, "What the camera's settings made is taken out"),
        field("leave_out_moving", &Lighting::leave_out_moving, "What moves through the picture does not count"),
        field("kind", &Lighting::kind, "The kind of flicker, as measured"),
        field("corrected", &Lighting::corrected, "What was done: as set by hand, or as suits the kind"),
        field("before", &Lighting::before, "As measured, as shot"),
        field("after", &Lighting::after, "As measured, evened"),
    };
};

template <>
struct Fields<Part>
{
    static constexpr std::tuple table{
        required("name", &Part::name, ""),
        required("begin", &Part::begin, "Position of its first photo", {0, 2147483647}),
        required("end", &Part::end, "Position behind its last photo", {0, 2147483647}),
        field("reason", &Part::reason, "Why it starts there, for people"),
        field("kind", &Part::kind, ""),
    };
};

template <>
struct Fields<Shot>
{
    static constexpr std::tuple table{
        field("id", &Shot::id, "Who it is, however it is called"),
        required("name", &Shot::name, ""),
        field("kind", &Shot::kind, "How the shot was made, guessed from its photos"),
        field("parts", &Shot::parts, "Present: an unsorted card, whose parts are to become shots; in order and apart"),
        field("pause_s", &Shot::pause, "An unsorted card: the pause in seconds that ends a part, where the user set it; exact"),
        field("backdrop", &Shot::backdrop, "R, G, B behind transparent photos and beside photos of another shape, sRGB", {0, 255}),
        field("settled", &Shot::settled, "Findings that were looked at and left: kind/file/…"),
        field("pacing", &Shot::pacing, "How the photos become film, beside their holds"),
        field("region", &Shot::region, "What Steady looks at, of each photo"),
        field("light_region", &Shot::light_region, "Where Light measures, of the film's plane"),
        field("steady", &Shot::steady, "How the shot is steadied; absent: as shot"),
        field("lighting", &Shot::lighting, "How its light is evened; absent: as shot"),
        required("photos", &Shot::photos, "In playing order, those set aside among them"),
    };
};

template <>
struct Fields<Project>
{
    static constexpr std::tuple table{
        required("delivered_at", &Project::delivered_at, "Frames a second, exact: 24, 23.976, 12.5, 30000/1001"),
        required("shots", &Project::shots, ""),
    };
};

inline bool operator==(const Project& a, const Project& b) ///< same content, wherever it was read from
{
    return same_fields(a, b);
}

}
