#pragma once
#include "core/base/strong.h"
#include "core/project/backdrop.h"
#include "core/project/photo_list.h"
#include "core/project/reel.h"
#include "core/project/shot_id.h"
#include "core/project/step_values.h"
#include "core/time/pacing.h"

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

/// Photos in order that make one piece of film. With parts it is an unsorted card: only what lies in parts is film.
struct Shot
{
    ShotId id{}; ///< given where it comes into a project
    std::string name;
    PhotoList photos;
    ShotKind kind = ShotKind::unknown;
    std::vector<Part> parts{};           ///< in order, apart, none empty
    std::optional<Seconds> pause{};      ///< the pause that ends a part, where the user set it
    std::optional<Backdrop> backdrop{};  ///< none: what is transparent stays so where the format can, else it is black
    std::vector<std::string> resolved{}; ///< keys of findings that the user has looked at and left (remedies.h)
    Pacing pacing{};
    ShotSteps steps{}; ///< what each step decided
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
    Reel reel{};

    [[nodiscard]] const Shot& shot(ShotIndex i) const { return *shots.at(i.at()); }
    [[nodiscard]] std::optional<ShotIndex> find_shot(std::string_view name) const;
    [[nodiscard]] std::optional<ShotIndex> find_shot(ShotId id) const;
};

/// The shot's film: which photo is in which frame. It is what is exported; set-aside photos and those outside the kept
/// range are in none.
Schedule schedule_of(const Project& project, const Shot& shot);

/// The film and, before and after it, what the kept range leaves out: what the Sheet shows and the player can play.
struct DisplayTimeline
{
    Schedule schedule;
    FrameIndex kept_begin; ///< the film is frames [kept_begin, kept_end) of the page
    FrameIndex kept_end;
    std::int64_t passes = 1; ///< how often the film goes through its photos
    std::int64_t photos = 0; ///< different photos in the film
    Schedule film;           ///< what is kept, by itself
};
DisplayTimeline display_timeline(const Project& project, const Shot& shot);

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
struct Fields<Part>
{
    static constexpr FieldTable table{
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
    static constexpr FieldTable table{
        field("id", &Shot::id, "Who it is, however it is called"),
        required("name", &Shot::name, ""),
        field("kind", &Shot::kind, "How the shot was made, guessed from its photos"),
        field("parts", &Shot::parts, "Present: an unsorted card, whose parts are to become shots; in order and apart"),
        field("pause_s", &Shot::pause,
              "An unsorted card: the pause in seconds that ends a part, where the user set it; exact"),
        field("backdrop", &Shot::backdrop,
              "R, G, B behind transparent photos and beside photos of another shape, sRGB; absent: none, or black",
              {0, 255}),
        field("settled", &Shot::resolved, "Findings that were looked at and left: kind/file/…"),
        field("pacing", &Shot::pacing, "How the photos become film, beside their holds"),
        field("steps", &Shot::steps, "What each step decided, by its key"),
        required("photos", &Shot::photos, "In playing order, those set aside among them"),
    };
};

template <>
struct Fields<Project>
{
    static constexpr FieldTable table{
        required("delivered_at", &Project::delivered_at, "Frames a second, exact: 24, 23.976, 12.5, 30000/1001"),
        required("shots", &Project::shots, ""),
        field("reel", &Project::reel, "Shots one after another, and the sound under them"),
    };
};

inline bool operator==(const Project& a, const Project& b) ///< same content, wherever it was read from
{
    return same_fields(a, b);
}

}
