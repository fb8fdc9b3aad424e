#include "core/steps/steady/smooth_path.h"

#include "core/base/local_fit.h"
#include "core/base/median.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo {

namespace {

constexpr int cubic = 3;

/// Where the corners of photo i are in the photos around it.
struct Around
{
    std::vector<double> seconds; ///< ascending
    std::vector<std::array<cv::Point2d, 4>> corners;
};

std::array<cv::Point2d, 4> moved_corners(const Transform& t, cv::Size size)
{
    auto corners = corners_of(size);
    for (cv::Point2d& c : corners)
        c = moved(t, c);
    return corners;
}

/// Those from one time to another; photo i is between them.
Around around(std::span<const PathStep> steps, std::size_t i, double from, double to, cv::Size size)
{
    Around a;
    Transform t = Transform::eye();
    for (std::size_t j = i; j > 0 && steps[j].from_before && steps[j - 1].seconds > from; --j) {
        t = steps[j].from_before->inv() * t;
        a.seconds.push_back(steps[j - 1].seconds);
        a.corners.push_back(moved_corners(t, size));
    }
    std::reverse(a.seconds.begin(), a.seconds.end());
    std::reverse(a.corners.begin(), a.corners.end());
    a.seconds.push_back(steps[i].seconds);
    a.corners.push_back(corners_of(size));
    t = Transform::eye();
    for (std::size_t j = i + 1; j < steps.size() && steps[j].from_before && steps[j].seconds < to; ++j) {
        t = *steps[j].from_before * t;
        a.seconds.push_back(steps[j].seconds);
        a.corners.push_back(moved_corners(t, size));
    }
    return a;
}

/// Where the corners of photo i would be had the camera gone smoothly.
std::array<cv::Point2d, 4> smooth_corners(std::span<const PathStep> steps, std::size_t i, double reach, cv::Size size)
{
    // Towards an end of its piece the path is the polynomial of where there are still photos on both sides (as
    // Savitzky, Golay 1964 do): one of its own would follow the last photos' jitter.
    const double now = steps[i].seconds;
    double first = now, last = now;
    for (std::size_t j = i; j > 0 && steps[j].from_before && first > now - 2 * reach; --j)
        first = steps[j - 1].seconds;
    for (std::size_t j = i + 1; j < steps.size() && steps[j].from_before && last < now + 2 * reach; ++j)
        last = steps[j].seconds;
    const double room = std::min(reach / 2, (last - first) / 2), middle = std::clamp(now, first + room, last - room);
    const Around a = around(steps, i, std::min(now, middle - reach), std::max(now, middle + reach), size);
    const auto weights = local_weights(a.seconds, {middle, now}, reach, cubic);
    std::array<cv::Point2d, 4> smooth{};
    for (std::size_t j = 0; j < weights.size(); ++j)
        for (std::size_t c = 0; c < 4; ++c)
            smooth[c] += weights[j] * a.corners[j][c];
    return smooth;
}

Transform fitted(const std::array<cv::Point2d, 4>& to, Movement movement, cv::Size size)
{
    std::vector<PointPair> pairs;
    const auto from = corners_of(size);
    for (std::size_t c = 0; c < 4; ++c)
        pairs.push_back({from[c], to[c]});
    return fit(movement, pairs).value_or(Transform::eye());
}

/// The targets are brought to one place: the middle of where they would be.
void keep_targets(std::span<const PathStep> steps, std::vector<Transform>& into_film)
{
    std::vector<double> x, y;
    for (std::size_t i = 0; i < steps.size(); ++i)
        if (steps[i].target) {
            const cv::Point2d p = moved(into_film[i], *steps[i].target);
            x.push_back(p.x);
            y.push_back(p.y);
        }
    if (x.empty())
        return;
    const cv::Point2d goal(upper_median(x), upper_median(y));
    std::vector<std::optional<cv::Point2d>> by(steps.size());
    for (std::size_t i = 0; i < steps.size(); ++i)
        if (steps[i].target)
            by[i] = goal - moved(into_film[i], *steps[i].target);
    // Where it was not seen: on the way between where it was, else as at the nearest.
    for (std::size_t i = 0, last = steps.size(); i < steps.size(); ++i) {
        if (!by[i])
            continue;
        for (std::size_t k = last == steps.size() ? 0 : last + 1; k < i; ++k) {
            const double share = last == steps.size() ? 1
                                                      : (steps[k].seconds - steps[last].seconds) /
                                                            (steps[i].seconds - steps[last].seconds);
            by[k] = (last == steps.size() ? cv::Point2d() : (1 - share) * *by[last]) + share * *by[i];
        }
        last = i;
    }
    std::optional<cv::Point2d> now;
    for (std::size_t i = 0; i < steps.size(); ++i) {
        now = by[i] ? by[i] : now;
        into_film[i] = Transform(1, 0, now->x, 0, 1, now->y, 0, 0, 1) * into_film[i];
    }
}

/// How far the photo may go towards its place in the film so that it still covers the box, 0 to 1.
double most_share(const Transform& into_film, double box_side, Movement movement, cv::Size size)
{
    const cv::Point2d middle((size.width - 1) / 2.0, (size.height - 1) / 2.0);
    const auto covers = [&](double share) {
        const Transform back = partly(into_film, share, movement, size).inv();
        for (const double sx : {-0.5, 0.5})
            for (const double sy : {-0.5, 0.5}) {
                const cv::Point2d p =
                    moved(back, middle + cv::Point2d(sx * box_side * size.width, sy * box_side * size.height));
                if (p.x < -0.5 || p.y < -0.5 || p.x > size.width - 0.5 || p.y > size.height - 0.5)
                    return false;
            }
        return true;
    };
    if (covers(1))
        return 1;
    double low = 0, high = 1;
    constexpr int halvings = 12;
    for (int i = 0; i < halvings; ++i)
        (covers((low + high) / 2) ? low : high) = (low + high) / 2;
    return low;
}

/// Nowhere above what it was, and without corners: the least around, averaged over as much.
std::vector<double> eased(std::span<const PathStep> steps, const std::vector<double>& shares, double reach)
{
    const auto over = [&](const std::vector<double>& values, const auto& take) {
        std::vector<double> result;
        for (std::size_t i = 0; i < steps.size(); ++i) {
            std::size_t begin = i, end = i + 1;
            while (begin > 0 && steps[begin].from_before && steps[i].seconds - steps[begin - 1].seconds <= reach)
                --begin;
            while (end < steps.size() && steps[end].from_before && steps[end].seconds - steps[i].seconds <= reach)
                ++end;
            result.push_back(take(i, begin, end, values));
        }
        return result;
    };
    const auto least = over(shares, [](std::size_t, std::size_t begin, std::size_t end, const auto& v) {
        return *std::min_element(v.begin() + std::ptrdiff_t(begin), v.begin() + std::ptrdiff_t(end));
    });
    return over(least, [&](std::size_t i, std::size_t begin, std::size_t end, const auto& v) {
        double sum = 0, weights = 0;
        for (std::size_t k = begin; k < end; ++k) {
            const double d = reach > 0 ? (steps[k].seconds - steps[i].seconds) / (reach * 1.001) : 0,
                         w = (1 - d * d) * (1 - d * d);
            sum += w * v[k];
            weights += w;
        }
        return sum / weights;
    });
}

}

std::vector<Transform> smooth_path(std::span<const PathStep> steps, const Smoothing& smoothing, Movement movement,
                                   cv::Size size)
{
    std::vector<Transform> into_film;
    for (std::size_t i = 0; i < steps.size(); ++i)
        into_film.push_back(fitted(smooth_corners(steps, i, smoothing.strength_s, size), movement, size));
    keep_targets(steps, into_film);
    const double box_side = std::sqrt(1 - std::clamp(smoothing.most_lost, 0.0, 0.9));
    std::vector<double> shares;
    for (const Transform& t : into_film)
        shares.push_back(most_share(t, box_side, movement, size));
    const auto share = eased(steps, shares, smoothing.strength_s / 2);
    std::vector<Transform> from_film;
    for (std::size_t i = 0; i < steps.size(); ++i)
        from_film.push_back((share[i] >= 1 ? into_film[i] : partly(into_film[i], share[i], movement, size)).inv());
    for (Transform& t : from_film)
        t = t * (1 / t(2, 2));
    return from_film;
}

std::vector<double> jitter_px(std::span<const PathStep> steps, std::span<const Transform> from_film, double strength_s,
                              cv::Size size)
{
    std::vector<PathStep> seen(steps.begin(), steps.end());
    if (!from_film.empty())
        for (std::size_t i = 1; i < seen.size(); ++i)
            if (seen[i].from_before)
                seen[i].from_before = from_film[i].inv() * *seen[i].from_before * from_film[i - 1];
    std::vector<double> jitter;
    for (std::size_t i = 0; i < seen.size(); ++i) {
        const auto smooth = smooth_corners(seen, i, strength_s, size);
        const auto own = corners_of(size);
        double sum = 0;
        for (std::size_t c = 0; c < 4; ++c)
            sum += (smooth[c] - own[c]).dot(smooth[c] - own[c]);
        jitter.push_back(std::sqrt(sum / 4));
    }
    return jitter;
}

}
