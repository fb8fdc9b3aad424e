#include "core/project/photo_places.h"

#include <algorithm>
#include <stdexcept>
#include <unordered_map>
#include <utility>

namespace frenlo {

namespace {

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

std::optional<std::int64_t> place_of(const Shot& shot, PhotoId id)
{
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (shot.photos[i].id == id)
            return std::int64_t(i);
    return std::nullopt;
}

std::pair<std::int64_t, std::int64_t> photos_from_to(const Shot& shot, const std::optional<PhotoId>& first,
                                                     const std::optional<PhotoId>& last)
{
    const auto begin = first ? place_of(shot, *first) : std::nullopt;
    const auto end = last ? place_of(shot, *last) : std::nullopt;
    return {begin.value_or(0), end ? *end + 1 : std::int64_t(shot.photos.size())};
}

std::vector<cv::Point2d> points_of(const PlaceKey& key)
{
    std::vector<cv::Point2d> points;
    for (std::size_t i = 0; i + 1 < key.points.size(); i += 2)
        points.emplace_back(key.points[i], key.points[i + 1]);
    return points;
}

std::vector<double> numbers_of(std::span<const cv::Point2d> points)
{
    std::vector<double> numbers;
    for (const cv::Point2d& p : points)
        numbers.insert(numbers.end(), {p.x, p.y});
    return numbers;
}

void check_value(const PlaceKey& key)
{
    if (key.points.size() < 2 || key.points.size() > most_place_numbers)
        throw std::invalid_argument("a mark has no place, or too many points");
}

std::vector<cv::Point2d> points_at(std::span<const PlaceKey> all, const Shot& shot, PhotoIndex photo, bool closed)
{
    if (all.empty())
        return {};
    if (all.size() == 1) // wherever its photo is by now
        return points_of(all.front());
    // From here outwards: of what follows something every photo has a key.
    std::unordered_map<PhotoId, const PlaceKey*> keys;
    for (const PlaceKey& key : all)
        if (key.points.size() >= 2)
            keys.emplace(key.photo, &key);
    const auto nearest = [&](std::int64_t step) -> std::pair<std::int64_t, const PlaceKey*> {
        for (std::int64_t i = photo.value; i >= 0 && i < std::int64_t(shot.photos.size()); i += step)
            if (const auto key = keys.find(shot.photos[std::size_t(i)].id); key != keys.end())
                return {i, key->second};
        return {-1, nullptr};
    };
    const auto [before_at, before] = nearest(-1);
    const auto [after_at, after] = nearest(1);
    if (!before && !after) // its photos are gone: where it was marked
        return points_of(all.front());
    if (!before || !after || before_at == after_at)
        return points_of(before ? *before : *after);
    auto a = points_of(*before), b = points_of(*after);
    if (a.size() != b.size() || !closed) { // of an outline that only was moved each corner goes its own way
        for (auto* way : {&a, &b})
            if (closed)
                way->push_back(way->front());
        const std::size_t count = closed ? 96 : std::max(a.size(), b.size()) == 1 ? 1 : 24;
        a = along(a, count);
        b = along(b, count);
    }
    const double share = double(photo.value - before_at) / double(after_at - before_at);
    for (std::size_t i = 0; i < a.size(); ++i)
        a[i] += (b[i] - a[i]) * share;
    return a;
}

}
