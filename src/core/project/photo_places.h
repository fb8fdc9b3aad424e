#pragma once
// Something marked by points in one photo of a shot or several, which moves evenly between them.
#include "core/base/fields.h"
#include "core/project/project.h"

#include <opencv2/core/types.hpp>

#include <optional>
#include <span>
#include <vector>

namespace frenlo {

/// Where a mark lies at one photo.
struct PlaceKey
{
    PhotoId photo{};
    std::vector<double> points{}; ///< x, y of each: a point, a way, the corners of an outline
    bool operator==(const PlaceKey&) const = default;
};

inline constexpr Limits place_limits{-10, 11};
inline constexpr std::size_t most_place_numbers = 20'000;

/// The place of a photo in the shot; none where it is gone.
std::optional<std::int64_t> place_of(const Shot& shot, PhotoId id);

/// The photos [begin, end) from first to last; none: the outermost.
std::pair<std::int64_t, std::int64_t> photos_from_to(const Shot& shot, const std::optional<PhotoId>& first,
                                                     const std::optional<PhotoId>& last);

/// The points of a key.
std::vector<cv::Point2d> points_of(const PlaceKey& key);
std::vector<double> numbers_of(std::span<const cv::Point2d> points);

/// Where the mark lies at this photo: on its key, or evenly between the nearest ones before and after. closed: the
/// points go round something, so that the last one is followed by the first. Empty where there is no key.
std::vector<cv::Point2d> points_at(std::span<const PlaceKey> keys, const Shot& shot, PhotoIndex photo, bool closed);

/// What a file may not say: a mark without a place.
void check_value(const PlaceKey& key);
template <>
struct Fields<PlaceKey>
{
    static constexpr FieldTable table{
        required("photo", &PlaceKey::photo, ""),
        required("points", &PlaceKey::points, "x, y of each, shares of the film's plane or of the photo", place_limits),
    };
};

}
