#include "core/picture/picture.h"
#include "core/steps/retouch/healing.h"
#include "core/steps/retouch/kriging.h"
#include "core/steps/retouch/plane_picture.h"
#include "core/steps/retouch/retouch_operations.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <limits>

namespace frenlo {

namespace {

constexpr std::size_t most_sources = 4; ///< photos that are compared
constexpr double working_radius = 12;   ///< of a mark, pixels, where it is larger
constexpr double reach = 18;            ///< how far is looked, radii; at least so many of a small mark's surround

/// The part of the plane, or of the photo, that is looked at, and its size there.
struct Window
{
    cv::Rect2d part; ///< shares
    cv::Size size;
    double scale = 1; ///< pixels of it for one share of the width
    double down = 1;  ///< for one share of the height
    [[nodiscard]] cv::Point2d pixel(cv::Point2d share) const
    {
        return {(share.x - part.x) * scale - 0.5, (share.y - part.y) * down - 0.5};
    }
};

std::optional<Window> window_of(const std::vector<cv::Point2d>& points, double radius, cv::Size plane)
{
    if (points.empty() || plane.empty())
        return std::nullopt;
    Window w;
    const double pixels = radius * plane.width;
    w.scale = plane.width * std::min(1.0, working_radius / std::max(1.0, pixels));
    w.down = w.scale * plane.height / plane.width;
    const double around = std::max(radius * reach, 40.0 / w.scale), high = around * plane.width / plane.height;
    cv::Rect2d all(points.front(), cv::Size2d(0, 0));
    for (const cv::Point2d& p : points)
        all |= cv::Rect2d(p, cv::Size2d(1e-9, 1e-9));
    all = cv::Rect2d(all.x - around, all.y - high, all.width + 2 * around, all.height + 2 * high) &
          cv::Rect2d(0, 0, 1, 1);
    if (all.empty())
        return std::nullopt;
    constexpr double most_side = 900; // of a long wire: less sharp, in time
    const double too_large = std::max({1.0, all.width * w.scale / most_side, all.height * w.down / most_side});
    w.scale /= too_large;
    w.down /= too_large;
    w.size = {std::max(8, int(std::lround(all.width * w.scale))), std::max(8, int(std::lround(all.height * w.down)))};
    w.scale = w.size.width / all.width;
    w.down = w.size.height / all.height;
    w.part = all;
    return w;
}

cv::Mat three(const cv::Mat1f& plane)
{
    cv::Mat planes;
    cv::merge(std::vector<cv::Mat>(3, plane), planes);
    return planes;
}

/// The picture with what is marked in the box as its surround lets expect.
cv::Mat continued(const cv::Mat& picture, const cv::Mat1f& marked, const cv::Mat1f& shares, const cv::Rect& box,
                  double radius)
{
    const int around = int(std::ceil(3 * radius));
    const cv::Rect wide = cv::Rect(box.x - around, box.y - around, box.width + 2 * around, box.height + 2 * around) &
                          cv::Rect({0, 0}, picture.size());
    cv::Mat result;
    cv::cvtColor(picture, result, cv::COLOR_BGR2BGRA);
    Texture texture{.picture = result(wide).clone(), .known = {}, .corner = box.tl() - wide.tl()};
    cv::compare(marked(wide), 0, texture.known, cv::CMP_LE);
    cv::Mat1b known;
    cv::compare(shares, 0, known, cv::CMP_LE);
    Canvas part = result(box);
    krige(part, known, texture, radius);
    cv::cvtColor(result, result, cv::COLOR_BGRA2BGR);
    return result;
}

/// Of each pixel: what a blur takes away, squared.
cv::Mat1f fineness(const cv::Mat& picture)
{
    cv::Mat1f grey, low;
    cv::cvtColor(picture, grey, cv::COLOR_BGR2GRAY);
    cv::GaussianBlur(grey, low, {}, 2);
    grey -= low;
    cv::multiply(grey, grey, grey);
    return grey;
}

/// Where a mark's surround is met again: squared differences at each place of it in the window, infinite where it must
/// not be taken from. Rows and columns: of the upper left corner of the mark's box.
cv::Mat1f differences(const cv::Mat& window, const cv::Mat1f& marked, const cv::Mat1f& shares, const cv::Rect& box,
                      double radius)
{
    cv::Mat picture, found;
    window.convertTo(picture, CV_32F, 1 / 255.0);
    // What touches the mark counts most: there the source must go on as the picture does. Squared by matchTemplate.
    cv::Mat1f weight;
    cv::distanceTransform(shares <= 0, weight, cv::DIST_L2, 5);
    const double fall = std::max(1.0, radius / 6) * 2;
    for (float& w : weight)
        w = w > 0 ? float(std::exp(-(double(w) - 1) / fall)) : 0;
    cv::matchTemplate(picture, picture(box), found, cv::TM_SQDIFF, three(weight));
    cv::Mat1f overlap; // of what is marked and of where it is taken from
    cv::Mat1f inside;
    cv::Mat(shares > 0).convertTo(inside, CV_32F, 1 / 255.0);
    cv::matchTemplate(marked, inside, overlap, cv::TM_CCORR);
    cv::Mat1f result = found;
    // Inside, coarsely, as its surround lets expect.
    cv::Mat guessed, far;
    const cv::Mat filled = continued(picture, marked, shares, box, radius);
    cv::GaussianBlur(filled, guessed, {}, std::max(0.8, radius / 3));
    cv::matchTemplate(guessed, guessed(box), far, cv::TM_SQDIFF, three(inside));
    result += far * (cv::sum(weight)[0] / std::max(1.0, cv::sum(inside)[0]));
    // As fine as its surround: alone by differences, what is smooth is always near.
    const cv::Mat1f fine = fineness(filled); // what is marked would reach into its surround
    cv::Mat1f finenesses;
    cv::matchTemplate(fine, inside, finenesses, cv::TM_CCORR);
    finenesses *= 1 / std::max(1.0, cv::sum(inside)[0]);
    constexpr double none = 1e-5; // of white, squared: less cannot be seen
    const double around = fine(box).dot(weight) / std::max(1e-6, cv::sum(weight)[0]);
    for (int y = 0; y < result.rows; ++y)
        for (int x = 0; x < result.cols; ++x)
            if (overlap(y, x) > 0.5F || !std::isfinite(result(y, x)))
                result(y, x) = std::numeric_limits<float>::infinity();
            else
                result(y, x) *= float(1 + 0.5 * std::abs(std::log((finenesses(y, x) + none) / (around + none))));
    return result;
}

std::optional<cv::Point2d> best_offset(const Shot& shot, const Spot& spot, const Retouch& all,
                                       const PhotoSource& source, const Job& job)
{
    cv::Mat1f sum;
    Window window;
    cv::Rect box;
    const Ground ground = spot.on_photo ? Ground::photo : Ground::plane;
    const auto is_there = [&](PhotoIndex photo) { return !points_at(spot, shot, photo).empty(); };
    for (const PhotoIndex photo : some_photos(shot, most_sources, is_there)) {
        job.check();
        const auto points = points_at(spot, shot, photo);
        const auto w = window_of(points, spot.radius, ground_size(shot, photo, ground));
        if (!w || (!sum.empty() && w->size != window.size))
            continue; // one that moves is looked at where it is first
        const auto picture = render(ground_request(shot, photo, ground, w->part, w->size), source);
        if (!picture || picture->channels() < 3)
            continue;
        const auto pixels_of = [&](const std::vector<cv::Point2d>& shares) {
            std::vector<cv::Point2d> pixels;
            pixels.reserve(shares.size());
            for (const cv::Point2d& p : shares)
                pixels.push_back(w->pixel(p));
            return pixels;
        };
        const cv::Rect whole({0, 0}, w->size);
        const auto mark = pixels_of(points);
        const cv::Rect here = mark_box(mark, spot.radius * w->scale, spot.soft) & whole;
        if (here.empty() || here == whole)
            continue;
        cv::Mat1f marked(w->size, 0.0F);
        for (const Spot& other : all.spots)
            if (other.on_photo == spot.on_photo)
                if (const auto p = points_at(other, shot, photo); !p.empty())
                    marked = cv::max(marked, mark_shares(pixels_of(p), other.radius * w->scale, other.soft, whole));
        cv::Mat1f binary;
        cv::Mat(marked > 0).convertTo(binary, CV_32F, 1 / 255.0);
        cv::Mat bgr = *picture;
        if (bgr.channels() == 4)
            cv::cvtColor(bgr, bgr, cv::COLOR_BGRA2BGR);
        const cv::Mat1f found = differences(bgr, binary, mark_shares(mark, spot.radius * w->scale, trusted_edge, here),
                                            here, spot.radius * w->scale);
        if (sum.empty()) {
            sum = found.clone();
            window = *w;
            box = here;
        } else if (found.size() == sum.size()) {
            sum += found;
        }
    }
    if (sum.empty())
        return std::nullopt;
    std::optional<cv::Point2d> best;
    double least = std::numeric_limits<double>::infinity();
    for (int y = 0; y < sum.rows; ++y)
        for (int x = 0; x < sum.cols; ++x) {
            const cv::Point2d by(x - box.x, y - box.y);
            const double far = cv::norm(by) / std::max(sum.rows, sum.cols); // of equals, the nearest
            if (const double d = double(sum(y, x)) * (1 + 0.1 * far) + 1e-9 * far; d < least) {
                least = d;
                best = cv::Point2d(by.x / window.scale, by.y / window.down);
            }
        }
    return best;
}

}

Operation find_sources(const Shot& shot, std::vector<SpotId> spots)
{
    return [shot, spots = std::move(spots)](const PhotoSource& source, const Job& job) -> Edit {
        const Retouch all = retouch_of(shot);
        std::vector<std::pair<SpotId, cv::Point2d>> found;
        for (std::size_t i = 0; i < spots.size(); ++i) {
            job.report(double(i) / double(spots.size()),
                       "spot " + std::to_string(i + 1) + " of " + std::to_string(spots.size()));
            for (const Spot& spot : all.spots)
                if (spot.id == spots[i] && spot.from == HealFrom::around)
                    if (const auto offset = best_offset(shot, spot, all, source, job))
                        found.emplace_back(spot.id, *offset);
        }
        return [found, id = shot.id](const Project& now) {
            Project p = now;
            const ShotIndex at = find_measured(now, id);
            for (const auto& [spot, offset] : found)
                p = change_spot(p, at, spot, [o = offset](Spot& s) { s.offset = o; });
            return p;
        };
    };
}

}
