#pragma once
// What is kept of photos that were taken here, and of the shot that they are taken for, as values.
#include "core/base/ease.h"
#include "core/base/fields.h"
#include "core/base/opencv_values.h"
#include "core/project/project.h"

#include <filesystem>
#include <vector>

namespace frenlo {

/// What changed between two photos of one set, both seen as the first one lies. Lengths in pixels of the photo.
struct SetMovement
{
    double changed = 0;   ///< share of the picture that is another, 0 to 1
    cv::Point2d camera{}; ///< how far everything has moved: the camera did
    double subject = 0;   ///< how far what moved has moved, mostly
    double light = 0;     ///< stops that it is brighter
    bool operator==(const SetMovement&) const = default;
};

/// A photo that Frenlo took.
struct TakenHere
{
    std::int64_t averaged = 1;          ///< so many pictures, against noise
    double noise_gain = 1;              ///< measured: how many times less noise it has than one of them
    bool trial = false;                 ///< it is not to be in the film
    double stops = 0;                   ///< of a bracket: brighter than its middle by so much
    std::optional<SetMovement> moved{}; ///< since the photo before it
    bool operator==(const TakenHere&) const = default;
};

/// A path over the picture with a mark for each photo: where something should be on it.
struct MarkPath
{
    std::vector<cv::Point2d> points; ///< it goes through them, shares of the picture; at least two
    std::int64_t first = 0;          ///< the photo at which it begins, from 0
    std::int64_t steps = 12;         ///< photos from there to its end
    Ease ease = Ease::both;
    bool operator==(const MarkPath&) const = default;
};

struct PathMarks
{
    std::vector<MarkPath> paths;
    bool operator==(const PathMarks&) const = default;
};

/// A film or picture that the photos of a shot follow: it is seen with the live picture.
struct FollowedFilm
{
    std::filesystem::path file;
    bool operator==(const FollowedFilm&) const = default;
};
/// It is collected and moved with the project (typed_values.h).
inline std::filesystem::path& file_of(FollowedFilm& film)
{
    return film.file;
}
inline const std::filesystem::path& file_of(const FollowedFilm& film)
{
    return film.file;
}

inline constexpr std::int64_t most_averaged = 64, most_path_steps = 100'000;
inline constexpr std::size_t most_path_points = 200, most_paths = 50;

template <>
struct PhotoValue<TakenHere>
{
    static constexpr const char* key = "taken";
};
template <>
struct ShotValue<PathMarks>
{
    static constexpr const char* key = "path-marks";
};

template <>
struct ShotValue<FollowedFilm>
{
    static constexpr const char* key = "followed-film";
};

template <>
struct Fields<SetMovement>
{
    static constexpr FieldTable table{
        field("changed", &SetMovement::changed, "Share of the picture that is another", {0, 1}),
        field("camera_px", &SetMovement::camera, "How far everything moved: x, y", {-1e6, 1e6}),
        field("subject_px", &SetMovement::subject, "How far what moved has moved", {0, 1e6}),
        field("light_stops", &SetMovement::light, "Brighter than the one before", {-30, 30}),
    };
};
template <>
struct Fields<TakenHere>
{
    static constexpr FieldTable table{
        field("averaged", &TakenHere::averaged, "Pictures that it is the mean of", {1, double(most_averaged)}),
        field("noise_gain", &TakenHere::noise_gain, "Measured: times less noise than one of them", {0, 1e3}),
        field("trial", &TakenHere::trial, "Not to be in the film"),
        field("stops", &TakenHere::stops, "Of a bracket: brighter than its middle", {-30, 30}),
        field("moved", &TakenHere::moved, "Since the photo before it"),
    };
};
template <>
struct Fields<MarkPath>
{
    static constexpr FieldTable table{
        required("points", &MarkPath::points, "It goes through them, shares of the picture", {-2, 3}),
        field("first", &MarkPath::first, "Position of the photo at which it begins", {0, 1e8}),
        field("steps", &MarkPath::steps, "Photos from there to its end", {1, double(most_path_steps)}),
        field("ease", &MarkPath::ease, "How it begins and ends"),
    };
};
template <>
struct Fields<PathMarks>
{
    static constexpr FieldTable table{
        field("paths", &PathMarks::paths, "Where something should be on each photo"),
    };
};
template <>
struct Fields<FollowedFilm>
{
    static constexpr FieldTable table{required("file", &FollowedFilm::file, "Relative to the project")};
};

}
