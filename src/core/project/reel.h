#pragma once
// The Reel: shots and cards one after another, and the sound under them, as values. All times are of the clock, so that
// another delivery rate leaves them where they are.
#include "core/base/opencv_values.h"
#include "core/project/backdrop.h"
#include "core/project/shot_id.h"
#include "core/project/shot_photo.h"
#include "core/project/sounds.h"
#include "core/project/step_values.h"

#include <optional>
#include <string>
#include <vector>

namespace frenlo {

/// How a film goes over into the next.
enum class JoinKind
{
    cut,
    dissolve, ///< one fades into the other, in linear light
    dip,      ///< into a colour and out of it
    wipe      ///< a soft edge goes across
};

enum class JoinPlace
{
    centred, ///< half of it before the cut, half behind
    before,
    after
};

struct Join
{
    JoinKind kind = JoinKind::cut;
    Seconds length{Fraction(1, 2)};
    JoinPlace place = JoinPlace::centred;
    Backdrop colour{0, 0, 0}; ///< of a dip
    double degrees = 0;       ///< of a wipe: where the edge goes to, 0 to the right, 90 down
    double softness = 20;     ///< of its edge, percent of its way
    bool operator==(const Join&) const = default;
};

using ReelItemId = Id<struct ReelItemIdTag>;

/// A shot in the Reel; a shot may be there several times.
struct ReelItem
{
    ReelItemId id{};
    ShotId shot{};
    std::optional<PhotoId> first{}; ///< its own kept range here; none: the shot's
    std::optional<PhotoId> last{};
    Fraction speed{1}; ///< above 0
    /// How long it is here: cut short, or its last photo held; none: as long as its film is.
    std::optional<Seconds> lasts{};
    Join join{}; ///< into the next one
    bool operator==(const ReelItem&) const = default;
};

inline constexpr int most_reel_speed = 100; ///< times as fast, and as slow

struct ReelMarker
{
    Seconds at;
    std::string text; ///< the chapter that begins there
    bool operator==(const ReelMarker&) const = default;
};

/// How shots of another shape meet the Reel's frame.
enum class ReelFit
{
    inside,
    fill
};

struct Reel
{
    /// In order. Shots that are in none, and were not left out, follow at the end (reel_items()).
    std::vector<ReelItem> items{};
    std::vector<ShotId> left_out{};  ///< that are to be in no item
    std::optional<cv::Size> frame{}; ///< none: as the first film's
    ReelFit fit = ReelFit::inside;
    std::vector<ReelMarker> markers{}; ///< in order of time
    Soundtrack sound{};
    ShotSteps steps{}; ///< what steps decided of it as a whole
    bool operator==(const Reel&) const = default;
};

template <>
struct Words<JoinKind>
{
    static constexpr std::array<std::string_view, 4> words{"cut", "dissolve", "dip", "wipe"};
};
template <>
struct Words<JoinPlace>
{
    static constexpr std::array<std::string_view, 3> words{"centred", "before", "after"};
};
template <>
struct Words<ReelFit>
{
    static constexpr std::array<std::string_view, 2> words{"inside", "fill"};
};
template <>
struct Fields<Join>
{
    static constexpr FieldTable table{
        field("kind", &Join::kind, ""),
        field("length_s", &Join::length, "Seconds, exact"),
        field("place", &Join::place, "Against the cut"),
        field("colour", &Join::colour, "Of a dip: R, G, B, sRGB", {0, 255}),
        field("degrees", &Join::degrees, "Of a wipe: 0 to the right, 90 down", {-360, 360}),
        field("softness", &Join::softness, "Of a wipe's edge, percent of its way", {0, 100}),
    };
};
template <>
struct Fields<ReelItem>
{
    static constexpr FieldTable table{
        field("id", &ReelItem::id, "Who it is, wherever it is moved to"),
        required("shot", &ReelItem::shot, "Whose film it is"),
        field("first", &ReelItem::first, "The first photo that is kept here; absent: the shot's"),
        field("last", &ReelItem::last, "And the last"),
        field("speed", &ReelItem::speed, "Times as fast, exact, above 0"),
        field("lasts_s", &ReelItem::lasts, "Cut short, or the last photo held; absent: as long as its film"),
        field("join", &ReelItem::join, "Into the next one"),
    };
};
template <>
struct Fields<ReelMarker>
{
    static constexpr FieldTable table{
        required("at_s", &ReelMarker::at, "Seconds, exact"),
        required("text", &ReelMarker::text, "The chapter that begins there"),
    };
};
template <>
struct Fields<Reel>
{
    static constexpr FieldTable table{
        field("items", &Reel::items, "In order; shots in none follow at the end, unless they are left out"),
        field("left_out", &Reel::left_out, "Shots that are in no item"),
        field("frame", &Reel::frame, "Pixels; absent: as the first film's", {2, 16'384}),
        field("fit", &Reel::fit, "How shots of another shape meet the frame"),
        field("markers", &Reel::markers, "In order of time"),
        field("sound", &Reel::sound, "What is heard"),
        field("steps", &Reel::steps, "What each step decided of it as a whole, by its key"),
    };
};

}
