#include "core/picture/areas.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <cmath>
#include <unordered_map>

namespace frenlo {

namespace {

/// By its identity.
template <class T, class Key>
const T* found(const std::vector<T>& all, Key id)
{
    const auto at = std::find_if(all.begin(), all.end(), [&](const T& one) { return one.id == id; });
    return at == all.end() ? nullptr : &*at;
}

/// In pixels of a picture.
struct InPixels
{
    std::vector<cv::Point2d> points;
    double brush = 0, soft = 0.5;
};

InPixels in_pixels(const AreaMask& mask, const Transform& to_plane)
{
    InPixels p;
    const Transform back = to_plane.inv();
    for (const cv::Point2d& point : mask.points) {
        const cv::Point2d at = moved(back, point);
        constexpr double most = 1e6; // what lies farther away is in no photo
        p.points.emplace_back(std::clamp(at.x, -most, most), std::clamp(at.y, -most, most));
    }
    if (p.points.empty())
        return p;
    const cv::Point2d first = mask.points.front();
    const double width = cv::norm(moved(back, first + cv::Point2d(0.01, 0)) - moved(back, first)) * 100;
    p.brush = std::min(mask.brush * width, 1e4);
    p.soft = std::clamp(mask.soft * width, 0.5, 1e4); // a pixel's own edge
    return p;
}

/// How far each pixel of the box is from a way of straight pieces, exact to parts of a pixel; farther than reach is as
/// far as that.
cv::Mat1f distances(const std::vector<cv::Point2d>& way, bool closed, double reach, const cv::Rect& box)
{
    cv::Mat1f away(box.size(), float(reach));
    for (std::size_t i = 0; i < way.size(); ++i) {
        if (i > 0 && i + 1 == way.size() && !closed)
            break;
        const cv::Point2d a = way[i], along = way[(i + 1) % way.size()] - a, b = a + along;
        const double length2 = along.dot(along);
        const int top = std::max(box.y, int(std::floor(std::min(a.y, b.y) - reach)));
        const int bottom = std::min(box.br().y - 1, int(std::ceil(std::max(a.y, b.y) + reach)));
        const int left = std::max(box.x, int(std::floor(std::min(a.x, b.x) - reach)));
        const int right = std::min(box.br().x - 1, int(std::ceil(std::max(a.x, b.x) + reach)));
        for (int y = top; y <= bottom; ++y) {
            float* row = away.ptr<float>(y - box.y);
            for (int x = left; x <= right; ++x) {
                const cv::Point2d from(x - a.x, y - a.y);
                const double t = length2 > 0 ? std::clamp(from.dot(along) / length2, 0.0, 1.0) : 0;
                float& least = row[x - box.x];
                least = std::min(least, float(cv::norm(from - along * t)));
            }
        }
    }
    return away;
}

/// Below 0 outside of an outline, by how often it is crossed from the left (even-odd rule).
void sign(cv::Mat1f& away, const std::vector<cv::Point2d>& outline, const cv::Rect& box)
{
    std::vector<double> crossings;
    for (int y = 0; y < box.height; ++y) {
        const double at = box.y + y;
        crossings.clear();
        for (std::size_t i = 0; i < outline.size(); ++i) {
            const cv::Point2d a = outline[i], b = outline[(i + 1) % outline.size()];
            if ((a.y <= at) != (b.y <= at))
                crossings.push_back(a.x + (at - a.y) / (b.y - a.y) * (b.x - a.x));
        }
        std::sort(crossings.begin(), crossings.end());
        float* row = away.ptr<float>(y);
        std::size_t passed = 0;
        for (int x = 0; x < box.width; ++x) {
            while (passed < crossings.size() && crossings[passed] <= box.x + x)
                ++passed;
            if (passed % 2 == 0)
                row[x] = -row[x];
        }
    }
}

}

const Area* find_area(const Shot& shot, AreaId id)
{
    const auto* areas = shot.steps.find<Areas>();
    return areas ? found(areas->all, id) : nullptr;
}

const State* find_state(const Shot& shot, StateId id)
{
    const auto* states = shot.steps.find<States>();
    return states ? found(states->all, id) : nullptr;
}

std::optional<StateId> state_at(const Shot& shot, PhotoIndex photo)
{
    const auto* states = shot.steps.find<States>();
    if (!states || states->switches.empty())
        return std::nullopt;
    // From here back to the nearest photo at which one begins.
    std::unordered_map<PhotoId, std::optional<StateId>> begins;
    for (const StateSwitch& s : states->switches)
        begins[s.photo] = s.state;
    for (std::int64_t i = photo.value; i >= 0; --i)
        if (const auto at = begins.find(shot.photos[std::size_t(i)].id); at != begins.end())
            return at->second && found(states->all, *at->second) ? at->second : std::nullopt;
    return std::nullopt;
}

bool in_state(const std::optional<StateId>& state, const Shot& shot, PhotoIndex photo)
{
    return !state || state_at(shot, photo) == state;
}

std::optional<AreaMask> mask_at(const Area& area, const Shot& shot, PhotoIndex photo)
{
    const auto [begin, end] = photos_from_to(shot, area.first, area.last);
    if (!area.on || photo.value < begin || photo.value >= end || !in_state(area.state, shot, photo))
        return std::nullopt;
    return AreaMask{points_at(area.keys, shot, photo, area.brush <= 0), area.brush, area.soft, area.outside};
}

cv::Rect mask_box(const AreaMask& mask, const Transform& to_plane, cv::Size size)
{
    const cv::Rect whole({0, 0}, size);
    if (mask.points.empty() || mask.outside)
        return whole;
    const InPixels p = in_pixels(mask, to_plane);
    cv::Rect2d all(p.points.front(), cv::Size2d(1e-9, 1e-9));
    for (const cv::Point2d& at : p.points)
        all |= cv::Rect2d(at, cv::Size2d(1e-9, 1e-9));
    const double around = p.brush + p.soft + 2;
    return cv::Rect(cv::Point(int(std::floor(all.x - around)), int(std::floor(all.y - around))),
                    cv::Point(int(std::ceil(all.br().x + around)) + 1, int(std::ceil(all.br().y + around)) + 1)) &
           whole;
}

cv::Mat1f mask_shares(const AreaMask& mask, const Transform& to_plane, const cv::Rect& box)
{
    if (mask.points.empty())
        return cv::Mat1f(box.size(), mask.outside ? 0.0F : 1.0F);
    const InPixels p = in_pixels(mask, to_plane);
    const auto soft = float(p.soft);
    cv::Mat1f shares = distances(p.points, p.brush <= 0, p.brush + p.soft + 1, box);
    if (p.brush <= 0)
        sign(shares, p.points, box);
    else
        shares = float(p.brush) - shares;
    for (float& share : shares) {
        const float u = std::clamp((share + soft) / (2 * soft), 0.0F, 1.0F), inside = u * u * (3 - 2 * u);
        share = mask.outside ? 1 - inside : inside;
    }
    return shares;
}

}
