#pragma once
#include "core/base/fields.h"
#include "core/time/schedule.h"

#include <optional>
#include <span>
#include <variant>
#include <vector>

namespace frenlo {

/// How many photos, where it is not a position.
struct PhotoCount
{
    std::int64_t count = 0;
    auto operator<=>(const PhotoCount&) const = default;
};

/// The part of a shot that is exported. Positions are of the shot's photos, whether they are in the film or not.
struct KeptRange
{
    PhotoIndex begin;
    /// Up to a photo (one past the last), or a length that stays the same while the range is slid: so many photos of
    /// the film, or an exact time, which may end inside the last photo's hold.
    std::variant<PhotoIndex, PhotoCount, Seconds> extent;
    bool operator==(const KeptRange&) const = default;
};

/// After the last photo, the way back to the first.
enum class Return
{
    none,
    once,     ///< the turning photos once: A B C B, which loops evenly
    to_first, ///< the same, and the film ends on the photo it began with: A B C B A
    twice,    ///< the turning photos twice: A B C C B A
};

inline constexpr int most_times = 1'000, most_joint = 1'000;

/// How the photos of a shot become film, beside their holds. In this order: every Nth photo is kept, the range is taken
/// out of these, played backwards or not, back again or not, and repeated; the ends are held longer at last.
struct Pacing
{
    /// The rate that holds in frames were thought in. None: as delivered, so that a change of the delivery rate keeps
    /// the frames of each photo and changes the length.
    std::optional<Rate> paced_at{};
    Between between = Between::repeat;
    int keep_every = 1; ///< of the photos in the film the first of each so many; at least 1
    std::optional<KeptRange> kept{};
    bool backwards = false;
    Return there_and_back = Return::none;
    int times = 1;                     ///< 1 to most_times
    std::optional<Seconds> at_least{}; ///< as many more times as it takes to last this long
    double shutter = 0; ///< each picture is blurred by its movement to the next, for this share of the way there: an
                        ///< opening of 180 degrees is a half; 0: as sharp as the photos are
    int joint = 0;      ///< so many of its last frames become what lies before its first photo, so that it goes round
                        ///< without a seam; not with a way back
    std::optional<Hold> first_hold{}; ///< of the film's first photo, once, whatever its own hold is
    std::optional<Hold> last_hold{};  ///< of the film's last photo
    bool operator==(const Pacing&) const = default;
};

/// The photos of a shot in playing order. What lies before and after the kept range is no film; it is there to be shown
/// beside it, played backwards where the film is.
struct Arrangement
{
    std::vector<HeldPhoto> before;
    std::vector<HeldPhoto> film;
    std::vector<HeldPhoto> after;
    std::int64_t passes = 1; ///< how often the film goes through its photos
};

/// photos: those in the film, in the shot's order. Photos with a hold of 0 are not shown and are left out. However
/// often the film is to be repeated, it stays below two million photos. A cut through a hold is exact to the
/// nanosecond. Photos that are played backwards are, within each of the three.
Arrangement arranged(std::span<const HeldPhoto> photos, const Pacing& pacing, Rate delivered_at);

/// The exact length of these holds; throws std::overflow_error where it does not fit.
Seconds total_of(std::span<const HeldPhoto> photos, Rate paced_at);

inline std::size_t hash_value(const PhotoCount& c)
{
    return std::size_t(c.count);
}
inline std::size_t hash_value(const KeptRange& k)
{
    return mixed_hash(hash_of(k.begin), hash_of(k.extent));
}

template <>
struct Words<Between>
{
    static constexpr std::array<std::string_view, 3> words{"repeat", "mix", "motion"};
};
template <>
struct Words<Return>
{
    static constexpr std::array<std::string_view, 4> words{"none", "once", "to-first", "twice"};
};
template <>
struct Fields<Pacing>
{
    static constexpr FieldTable table{
        field("paced_at", &Pacing::paced_at, "The rate that holds in frames were thought in; absent: as delivered"),
        field("between", &Pacing::between, "What a frame shows that begins in one photo and ends in another"),
        field("keep_every", &Pacing::keep_every, "Of the photos in the film the first of each so many", {1, 1e6}),
        field("kept", &Pacing::kept,
              "The range that is exported: up to a photo, so many photos, or a length in seconds"),
        field("backwards", &Pacing::backwards, ""),
        field("there_and_back", &Pacing::there_and_back, "The way back after the last photo"),
        field("times", &Pacing::times, "How often", {1, most_times}),
        field("at_least_s", &Pacing::at_least, "As many more times as it takes to last so many seconds, exact"),
        field("shutter", &Pacing::shutter, "Blurred by its movement to the next picture for this share of the way",
              {0, 1}),
        field("joint", &Pacing::joint, "So many last frames become what lies before the first photo", {0, most_joint}),
        field("first_hold", &Pacing::first_hold, "Of the film's first photo"),
        field("last_hold", &Pacing::last_hold, "Of the film's last photo"),
    };
};

}
