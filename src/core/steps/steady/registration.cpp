#include "core/steps/steady/registration.h"

#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>

#include <algorithm>
#include <cmath>
#include <optional>
#include <random>

namespace frenlo {

namespace {

constexpr int window = 15; ///< of the flow, pixels
constexpr int levels = 3;
constexpr int cells_across = 52;
constexpr int least_points = 12;

/// (v - local mean) / local deviation: what is left is structure. Deviations below the noise count as noise, so that
/// plain areas stay plain.
cv::Mat evened(const cv::Mat& pixels)
{
    cv::Mat grey;
    cv::cvtColor(pixels, grey, pixels.channels() == 4 ? cv::COLOR_BGRA2GRAY : cv::COLOR_BGR2GRAY);
    grey.convertTo(grey, CV_32F, grey.depth() == CV_16U ? 1 / 257.0 : 1.0);
    cv::GaussianBlur(grey, grey, {}, 0.8);
    const int around = std::max(9, grey.cols / 40 * 2 + 1);
    cv::Mat mean, square;
    cv::boxFilter(grey, mean, CV_32F, {around, around});
    cv::boxFilter(grey.mul(grey), square, CV_32F, {around, around});
    cv::Mat out(grey.size(), CV_8U);
    constexpr float noise = 3, contrast = 45, middle = 128; // of 255
    for (int y = 0; y < grey.rows; ++y) {
        const auto *v = grey.ptr<float>(y), *m = mean.ptr<float>(y), *s = square.ptr<float>(y);
        auto* o = out.ptr<std::uint8_t>(y);
        for (int x = 0; x < grey.cols; ++x) {
            const float deviation = std::sqrt(std::max(0.0F, s[x] - m[x] * m[x]));
            o[x] = cv::saturate_cast<std::uint8_t>(middle + contrast * (v[x] - m[x]) / (deviation + noise));
        }
    }
    return out;
}

bool allowed(const Region& region, cv::Point2f p, cv::Size size)
{
    const cv::Point2d share((p.x + 0.5) / size.width, (p.y + 0.5) / size.height);
    const auto in = [&](const cv::Rect2d& r) { return r.contains(share); };
    if (std::any_of(region.leave_out.begin(), region.leave_out.end(), in))
        return false;
    return region.look_at.empty() || std::any_of(region.look_at.begin(), region.look_at.end(), in);
}

/// The best point of each cell, where it is good enough to be followed in both directions.
std::vector<cv::Point2f> points_to_follow(const cv::Mat& picture, const Region& region, int cell)
{
    cv::Mat strength;
    cv::cornerMinEigenVal(picture, strength, 7, 3);
    const int edge = window / 2 + 2;
    constexpr float least = 1.5e-3F; // of evened pictures: a corner that stands out of what noise makes
    std::vector<cv::Point2f> points;
    for (int top = edge; top + cell / 2 < picture.rows - edge; top += cell)
        for (int left = edge; left + cell / 2 < picture.cols - edge; left += cell) {
            const cv::Rect area(left, top, std::min(cell, picture.cols - edge - left),
                                std::min(cell, picture.rows - edge - top));
            double best = 0;
            cv::Point at;
            cv::minMaxLoc(strength(area), nullptr, &best, nullptr, &at);
            const cv::Point2f p(float(at.x + left), float(at.y + top));
            if (best >= least && allowed(region, p, picture.size()))
                points.push_back(p);
        }
    return points;
}

std::vector<PointPair> followed(const Prepared& from, const Prepared& to, const Transform& guess)
{
    std::vector<cv::Point2f> at;
    at.reserve(from.points.size());
    for (const cv::Point2f& p : from.points) {
        const cv::Point2d q = moved(guess, p);
        at.emplace_back(float(q.x), float(q.y));
    }
    std::vector<std::uint8_t> found;
    std::vector<float> error;
    const cv::TermCriteria until(cv::TermCriteria::COUNT | cv::TermCriteria::EPS, 20, 0.01);
    cv::calcOpticalFlowPyrLK(from.pyramid, to.pyramid, from.points, at, found, error, {window, window}, levels, until,
                             cv::OPTFLOW_USE_INITIAL_FLOW, 1e-3);
    std::vector<PointPair> pairs;
    const cv::Rect2f frame(0, 0, float(to.size.width), float(to.size.height));
    constexpr float unlike = 40; // mean difference of evened pictures, of 255: another thing is there now
    for (std::size_t i = 0; i < at.size(); ++i)
        if (found[i] && error[i] < unlike && frame.contains(at[i]))
            pairs.push_back({from.points[i], at[i]});
    return pairs;
}

int agreeing(const Transform& t, const std::vector<PointPair>& pairs, double within)
{
    return int(std::count_if(pairs.begin(), pairs.end(), [&](const PointPair& p) {
        const cv::Point2d d = moved(t, p.from) - p.to;
        return d.dot(d) <= within * within;
    }));
}

/// The movement that most pairs share. Two pairs make a similarity; a photo that only shifts is one, too.
std::optional<Transform> largest_consensus(const std::vector<PointPair>& pairs, Movement movement, double within,
                                           double least_apart)
{
    if (int(pairs.size()) < least_points)
        return std::nullopt;
    const Movement simple = std::min(movement, Movement::similar);
    std::mt19937 random(1); // the same photos give the same result
    std::uniform_int_distribution<std::size_t> any(0, pairs.size() - 1);
    constexpr int tries = 400; // a third of right pairs is found with certainty but for 1e-20
    std::optional<Transform> best;
    int most = 0;
    for (int i = 0; i < tries; ++i) {
        const std::array two{pairs[any(random)], pairs[any(random)]};
        const cv::Point2d apart = two[0].from - two[1].from;
        if (simple != Movement::shift && apart.dot(apart) < least_apart * least_apart)
            continue;
        const auto t = fit(simple, std::span(two).first(simple == Movement::shift ? 1 : 2));
        if (!t || std::abs(std::hypot((*t)(0, 0), (*t)(1, 0)) - 1) > 0.3)
            continue;
        if (const int n = agreeing(*t, pairs, within); n > most) {
            most = n;
            best = t;
        }
    }
    return best;
}

struct Fitted
{
    Transform transform;
    double residual_px;
    std::vector<const PointPair*> trusted;
};

/// Weighted least squares; pairs that miss by much more than the usual lose their weight (Geman-McClure).
std::optional<Fitted> refined(std::vector<PointPair> pairs, Movement movement, Transform start, double scale)
{
    constexpr int rounds = 12;
    Transform t = start;
    for (int round = 0; round < rounds; ++round) {
        const Movement now = round < 3 ? std::min(movement, Movement::similar) : movement;
        std::vector<double> misses;
        for (PointPair& p : pairs) {
            const cv::Point2d d = moved(t, p.from) - p.to;
            const double miss2 = d.dot(d), s2 = scale * scale;
            p.weight = s2 * s2 / ((s2 + miss2) * (s2 + miss2));
            if (miss2 < 9 * s2)
                misses.push_back(std::sqrt(miss2));
        }
        const auto next = fit(now, pairs);
        if (!next || misses.size() < std::size_t(least_points))
            return std::nullopt;
        t = *next;
        std::nth_element(misses.begin(), misses.begin() + std::ptrdiff_t(misses.size() / 2), misses.end());
        scale = std::clamp(2 * misses[misses.size() / 2], 0.1, scale); // narrows as it settles
    }
    return Fitted{t, scale, {}};
}

/// How many of the points are still in the frame.
std::ptrdiff_t inside(const Prepared& from, const Transform& t)
{
    const cv::Rect2d frame(0, 0, from.size.width, from.size.height);
    return std::count_if(from.points.begin(), from.points.end(),
                         [&](const cv::Point2f& p) { return frame.contains(moved(t, p)); });
}

/// least_apart: of the two points that a first movement is made of, px.
Link link_from(const Prepared& from, const std::vector<PointPair>& pairs, Movement movement, double within,
               double least_apart = 60)
{
    Link link;
    const auto start = largest_consensus(pairs, movement, within, least_apart);
    if (!start)
        return link;
    const auto fitted = refined(pairs, movement, *start, within);
    if (!fitted)
        return link;
    link.transform = fitted->transform;
    const double trust = std::max(0.35, 2.5 * fitted->residual_px); // px
    double sum = 0;
    for (const PointPair& p : pairs) {
        const cv::Point2d d = moved(link.transform, p.from) - p.to;
        if (d.dot(d) > trust * trust)
            continue;
        sum += d.dot(d);
        link.trusted.emplace_back(float(p.from.x), float(p.from.y));
    }
    link.points = int(link.trusted.size());
    const std::ptrdiff_t followable = inside(from, link.transform);
    link.inliers = followable > 0 ? double(link.points) / double(followable) : 0;
    link.residual_px = link.points > 0 ? std::sqrt(sum / link.points) : 0;
    return link;
}

/// Where the second photo lies when it moved far: small parts of the first are looked for all around, at a sixth of the
/// size, and each part has one voice.
std::optional<Transform> looked_for_far(const Prepared& from, const Prepared& to, Movement movement)
{
    constexpr int small = 200;
    const double factor = double(small) / from.size.width;
    cv::Mat a, b;
    cv::resize(from.evened, a, {small, std::max(8, int(std::lround(from.size.height * factor)))}, 0, 0, cv::INTER_AREA);
    cv::resize(to.evened, b, a.size(), 0, 0, cv::INTER_AREA);
    const int part = 32, step = 24, reach = small * 24 / 100;
    std::vector<PointPair> pairs;
    for (int y = 0; y + part <= a.rows; y += step)
        for (int x = 0; x + part <= a.cols; x += step) {
            const cv::Mat piece = a(cv::Rect(x, y, part, part));
            cv::Scalar mean, deviation;
            cv::meanStdDev(piece, mean, deviation);
            if (deviation[0] < 8)
                continue;
            const cv::Rect around =
                cv::Rect(x - reach, y - reach, part + 2 * reach, part + 2 * reach) & cv::Rect({0, 0}, b.size());
            cv::Mat likeness;
            cv::matchTemplate(b(around), piece, likeness, cv::TM_CCOEFF_NORMED);
            double best = 0;
            cv::Point at;
            cv::minMaxLoc(likeness, nullptr, &best, nullptr, &at);
            constexpr double alike = 0.5;
            if (best < alike)
                continue;
            const double half = (part - 1) / 2.0;
            pairs.push_back({{x + half, y + half}, {around.x + at.x + half, around.y + at.y + half}});
        }
    if (pairs.size() < 4)
        return std::nullopt;
    // Neighbouring parts must agree: the shift that most of them share, then what it takes beside it.
    const PointPair* best = nullptr;
    int most = 0;
    const auto near_to = [&](const PointPair& p, const PointPair& q) {
        const cv::Point2d d = (p.to - p.from) - (q.to - q.from);
        return d.dot(d) <= 4 * 4;
    };
    for (const PointPair& p : pairs)
        if (const int n =
                int(std::count_if(pairs.begin(), pairs.end(), [&](const PointPair& q) { return near_to(p, q); }));
            n > most) {
            most = n;
            best = &p;
        }
    if (most < 4)
        return std::nullopt;
    std::vector<PointPair> together;
    std::copy_if(pairs.begin(), pairs.end(), std::back_inserter(together),
                 [&](const PointPair& q) { return near_to(*best, q); });
    const auto t = fit(std::min(movement, Movement::similar), together);
    return t ? std::optional(at_scale(*t, 1 / factor)) : std::nullopt;
}

}

bool Prepared::blank() const
{
    return int(points.size()) < least_points;
}

Prepared prepare(const cv::Mat& pixels, const Region& region)
{
    Prepared p;
    p.size = pixels.size();
    p.evened = evened(pixels);
    p.points = points_to_follow(p.evened, region, std::max(8, p.evened.cols / cells_across));
    cv::buildOpticalFlowPyramid(p.evened, p.pyramid, {window, window}, levels, false);
    p.evened = p.pyramid.front(); // the same pixels, with a border around them
    return p;
}

Link register_photos(const Prepared& from, const Prepared& to, Movement movement, const Transform* guess)
{
    if (from.blank() || to.blank() || from.size != to.size)
        return {};
    const Transform start = guess ? *guess : Transform::eye();
    constexpr double coarse = 3, fine = 1.2; // px
    Link link = link_from(from, followed(from, to, start), movement, coarse);
    constexpr double well = 0.3;
    if (!link.holds() || link.inliers < well)
        if (const auto far = looked_for_far(from, to, movement)) {
            Link other = link_from(from, followed(from, to, *far), movement, coarse);
            if (other.points > link.points)
                link = std::move(other);
        }
    if (link.points < least_points)
        return link;
    // Once more from there: points that were lost on the way are found, and all start near their place.
    if (corner_distance(link.transform, start, from.size) > 1) {
        Link again = link_from(from, followed(from, to, link.transform), movement, fine);
        if (again.points >= link.points * 9 / 10)
            link = std::move(again);
    }
    return link;
}

std::vector<cv::Point2f> points_within(const Prepared& photo, const cv::Rect2d& box)
{
    constexpr double across = 12; // some 100 points
    const int cell = std::max(5, int(std::min(box.width * photo.size.width, box.height * photo.size.height) / across));
    return points_to_follow(photo.evened, {.look_at = {box}, .leave_out = {}}, cell);
}

Link register_target(const Prepared& target, const Prepared& photo, const Transform& guess)
{
    if (target.blank() || target.size != photo.size || photo.evened.empty())
        return {};
    constexpr double within = 2; // px
    return link_from(target, followed(target, photo, guess), Movement::similar, within, 12);
}

}
