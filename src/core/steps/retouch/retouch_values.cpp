#include "core/steps/retouch/retouch_values.h"

#include <algorithm>
#include <cmath>
#include <stdexcept>
#include <unordered_map>
#include <utility>

namespace frenlo {

namespace {

std::optional<std::int64_t> place_of(const Shot& shot, PhotoId id)
{
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (shot.photos[i].id == id)
            return std::int64_t(i);
    return std::nullopt;
}

std::vector<cv::Point2d> points_of(const SpotKey& key)
{
    std::vector<cv::Point2d> points;
    for (std::size_t i = 0; i + 1 < key.points.size(); i += 2)
        points.emplace_back(key.points[i], key.points[i + 1]);
    return points;
}

/// So many points along the same way, evenly.
std::vector<cv::Point2d> along(const std::vector<cv::Point2d>& way, std::size_t count)
{
    std::vector<double> until{0};
    for (std::size_t i = 1; i < way.size(); ++i)
        until.push_back(until.back() + cv::norm(way[i] - way[i - 1]));
    std::vector<cv::Point2d> even;
    std::size_t piece = 0;
    for (std::size_t i = 0; i < count; ++i) {
        const double at = count > 1 ? until.back() * double(i) / double(count - 1) : 0;
        while (piece + 2 < way.size() && until[piece + 1] < at)
            ++piece;
        if (way.size() == 1 || until[piece + 1] <= until[piece]) {
            even.push_back(way[piece]);
            continue;
        }
        const double share = std::clamp((at - until[piece]) / (until[piece + 1] - until[piece]), 0.0, 1.0);
        even.push_back(way[piece] + (way[piece + 1] - way[piece]) * share);
    }
    return even;
}

}

void check_value(const SpotKey& key)
{
    if (key.points.size() < 2 || key.points.size() > most_spot_points)
        throw std::invalid_argument("a spot has no place, or too many points");
}

void check_value(const Spot& spot)
{
    if (spot.keys.empty())
        throw std::invalid_argument("a spot has no place");
}

std::optional<PhotoIndex> plate_of(const Shot& shot)
{
    const auto* retouch = shot.steps.find<Retouch>();
    const auto place = retouch && retouch->plate ? place_of(shot, *retouch->plate) : std::nullopt;
    return place ? std::optional(PhotoIndex(*place)) : std::nullopt;
}

std::pair<std::int64_t, std::int64_t> range_of(const Spot& spot, const Shot& shot)
{
    const auto first = spot.first ? place_of(shot, *spot.first) : std::nullopt;
    const auto last = spot.last ? place_of(shot, *spot.last) : std::nullopt;
    return {first.value_or(0), last ? *last + 1 : std::int64_t(shot.photos.size())};
}

std::vector<cv::Point2d> points_at(const Spot& spot, const Shot& shot, PhotoIndex photo)
{
    const auto [begin, end] = range_of(spot, shot);
    if (!spot.on || photo.value < begin || photo.value >= end)
        return {};
    if (spot.keys.size() == 1) // wherever its photo is by now
        return points_of(spot.keys.front());
    // From here outwards: of a spot that follows something every photo has a key.
    std::unordered_map<PhotoId, const SpotKey*> keys;
    for (const SpotKey& key : spot.keys)
        if (key.points.size() >= 2)
            keys.emplace(key.photo, &key);
    const auto nearest = [&](std::int64_t step) -> std::pair<std::int64_t, const SpotKey*> {
        for (std::int64_t i = photo.value; i >= 0 && i < std::int64_t(shot.photos.size()); i += step)
            if (const auto key = keys.find(shot.photos[std::size_t(i)].id); key != keys.end())
                return {i, key->second};
        return {-1, nullptr};
    };
    const auto [before_at, before] = nearest(-1);
    const auto [after_at, after] = nearest(1);
    if (!before && !after) // its photos are gone: where it was marked
        return spot.keys.empty() ? std::vector<cv::Point2d>() : points_of(spot.keys.front());
    if (!before || !after || before_at == after_at)
        return points_of(before ? *before : *after);
    constexpr std::size_t count = 24;
    const auto a = points_of(*before), b = points_of(*after);
    const std::size_t points = std::max(a.size(), b.size()) == 1 ? 1 : count;
    const auto from = along(a, points), to = along(b, points);
    const double share = double(photo.value - before_at) / double(after_at - before_at);
    std::vector<cv::Point2d> between;
    for (std::size_t i = 0; i < points; ++i)
        between.push_back(from[i] + (to[i] - from[i]) * share);
    return between;
}

}
