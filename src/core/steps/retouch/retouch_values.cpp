#include "core/steps/retouch/retouch_values.h"

#include <algorithm>
#include <cmath>

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
    struct Placed
    {
        std::int64_t at;
        const SpotKey* key;
    };
    std::optional<Placed> before, after;
    for (const SpotKey& key : spot.keys) {
        const auto at = place_of(shot, key.photo);
        if (!at || key.points.size() < 2)
            continue;
        if (*at <= photo.value && (!before || *at > before->at))
            before = {*at, &key};
        if (*at >= photo.value && (!after || *at < after->at))
            after = {*at, &key};
    }
    if (!before && !after) // its photos are gone: where it was marked
        return spot.keys.empty() ? std::vector<cv::Point2d>() : points_of(spot.keys.front());
    if (!before || !after || before->at == after->at)
        return points_of(*(before ? before : after)->key);
    constexpr std::size_t count = 24;
    const auto a = points_of(*before->key), b = points_of(*after->key);
    const std::size_t points = std::max(a.size(), b.size()) == 1 ? 1 : count;
    const auto from = along(a, points), to = along(b, points);
    const double share = double(photo.value - before->at) / double(after->at - before->at);
    std::vector<cv::Point2d> between;
    for (std::size_t i = 0; i < points; ++i)
        between.push_back(from[i] + (to[i] - from[i]) * share);
    return between;
}

}
