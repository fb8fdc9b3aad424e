#pragma once
#include "core/base/ease.h"
#include "core/project/project.h"

#include <span>
#include <vector>

namespace frenlo {

/// How fast a shot goes at a photo.
struct SpeedPoint
{
    PhotoId photo{};
    double percent = 100;   ///< 50: that photo is held twice as long
    Ease ease = Ease::both; ///< of the way to the next point
    bool operator==(const SpeedPoint&) const = default;
};

/// The speed of a shot, over its photos: from point to point, before the first and after the last as there.
struct SpeedCourse
{
    std::vector<SpeedPoint> points{}; ///< those of photos that are gone say nothing
    bool keep_length = false;         ///< as long as without it: then the percents only say where it is faster
    bool operator==(const SpeedCourse&) const = default;
};

inline constexpr Limits speed_limits{1, 10'000}; ///< percent

/// Of each photo of the shot, in film or not, percent; 100 where it has no course.
std::vector<double> speeds_of(const Shot& shot);

/// Holds at these speeds, percent of each; boundaries exact to the nanosecond. keep_length: the sum is that of the
/// holds as they were, exactly.
std::vector<HeldPhoto> at_speeds(std::span<const HeldPhoto> photos, std::span<const double> percent, Rate paced_at,
                                 bool keep_length);

/// The photos in the film as they are held: held_photos() at the speeds of the shot's course.
std::vector<HeldPhoto> paced_photos(const Project& project, const Shot& shot);

template <>
struct ShotValue<SpeedCourse>
{
    static constexpr const char* key = "speed";
};
template <>
struct Fields<SpeedPoint>
{
    static constexpr FieldTable table{
        required("photo", &SpeedPoint::photo, "Where"),
        field("percent", &SpeedPoint::percent, "50: held twice as long", speed_limits),
        field("ease", &SpeedPoint::ease, "Of the way to the next point"),
    };
};
template <>
struct Fields<SpeedCourse>
{
    static constexpr FieldTable table{
        field("points", &SpeedCourse::points, "Speeds at photos, and evenly or eased from one to the next"),
        field("keep_length", &SpeedCourse::keep_length, "As long as without the course"),
    };
};

}
