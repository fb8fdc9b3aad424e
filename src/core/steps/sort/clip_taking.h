#pragma once
#include "core/project/project.h"
#include "core/source/inspect.h"

#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace frenlo {

/// Which pictures of a clip become photos.
enum class TakeWay
{
    all,
    every,    ///< the first of each so many
    interval, ///< one in so many seconds of the clip
    speed     ///< as many as make it so many times as fast at its own rate
};

struct ClipTaking
{
    TakeWay way = TakeWay::all;
    std::int64_t every = 10;
    Seconds interval{Fraction(1)};
    Fraction speed{20};
    bool average = false; ///< those that are left out are averaged into the one before them, as a long shutter would
    bool operator==(const ClipTaking&) const = default;
};

inline constexpr std::int64_t most_taken_apart = 1'000'000; ///< one in so many pictures
inline constexpr std::int64_t fastest_clip = 1'000;         ///< times

/// "all", "every:10", "interval:2s", "speed:20", with "+average" behind it. Nothing for anything else.
std::optional<ClipTaking> parse_taking(std::string_view text);
std::string taking_text(const ClipTaking& taking);

/// All pictures where they are not too many to be handled one by one, else every so many.
ClipTaking usual_taking(const PictureTimes& times);

/// What is taken, in order, none twice; the first picture always.
std::vector<PickedPicture> picked(const PictureTimes& times, const ClipTaking& taking);

/// A file of several pictures, as it was found.
struct FoundClip
{
    PhotoPtr file; ///< its first picture
    std::shared_ptr<const PictureTimes> times;
};

/// Its pictures as a shot with the file's own timing: paced at its rate, or each held as long as the file says.
Shot clip_shot(const FoundClip& clip, const ClipTaking& taking);

/// What a shot of a clip was taken by; kept with the shot.
struct ShotClip
{
    ClipTaking taking;
    bool operator==(const ShotClip&) const = default;
};
/// The file that all of a shot's photos are pictures of; null where there is none.
PhotoPtr clip_of(const Shot& shot);

/// The same clip, taken in another way: photos that stay keep what was made of them. Throws Failure where the shot is
/// no clip's.
Project take_anew(const Project& project, ShotIndex shot, const FoundClip& clip, const ClipTaking& taking);

template <>
struct ShotValue<ShotClip>
{
    static constexpr const char* key = "clip";
};
template <>
struct Words<TakeWay>
{
    static constexpr std::array<std::string_view, 4> words{"all", "every", "interval", "speed"};
};
template <>
struct Fields<ClipTaking>
{
    static constexpr FieldTable table{
        field("way", &ClipTaking::way, "Which pictures of the clip became photos"),
        field("every", &ClipTaking::every, "The first of so many", {1, double(most_taken_apart)}),
        field("interval_s", &ClipTaking::interval, "One in so many seconds of the clip, exact"),
        field("speed", &ClipTaking::speed, "As many as make it so many times as fast"),
        field("average", &ClipTaking::average, "Those left out are averaged into the one before them"),
    };
};
template <>
struct Fields<ShotClip>
{
    static constexpr FieldTable table{required("taking", &ShotClip::taking, "")};
};

}
