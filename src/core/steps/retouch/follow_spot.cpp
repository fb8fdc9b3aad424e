#include "core/picture/picture.h"
#include "core/steps/retouch/plane_picture.h"
#include "core/steps/retouch/retouch_operations.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <iterator>
#include <map>

namespace frenlo {

namespace {

constexpr int template_side = 41; ///< of what is looked for, pixels: the spot and what is round it
constexpr int search = 40;        ///< how far it may go from one photo to the next, pixels of that size
constexpr double surely = 0.5;    ///< correlation below which it is lost

/// What the photo shows of the plane, or of itself, round a place, one spot being a third of the template.
struct Look
{
    cv::Mat grey;
    double per_share = 1, per_share_down = 1; ///< pixels
};

std::optional<Look> look_at(const Shot& shot, const Spot& spot, PhotoIndex photo, cv::Point2d at, int side,
                            const PhotoSource& source)
{
    const Ground ground = spot.on_photo ? Ground::photo : Ground::plane;
    const cv::Size plane = ground_size(shot, photo, ground);
    if (plane.empty())
        return std::nullopt;
    Look look;
    look.per_share = std::min(double(plane.width), template_side / (3.0 * 2 * spot.radius));
    look.per_share_down = look.per_share * plane.height / plane.width;
    const cv::Rect2d part(at.x - side / 2.0 / look.per_share, at.y - side / 2.0 / look.per_share_down,
                          side / look.per_share, side / look.per_share_down);
    const auto picture = render(ground_request(shot, photo, ground, part, {side, side}), source);
    if (!picture)
        return std::nullopt;
    cv::cvtColor(*picture, look.grey, picture->channels() == 4 ? cv::COLOR_BGRA2GRAY : cv::COLOR_BGR2GRAY);
    look.grey.convertTo(look.grey, CV_32F);
    return look;
}

/// The top of a parabola through three values, from the middle one.
double top_of(double before, double here, double after)
{
    const double bend = before - 2 * here + after;
    return bend < 0 ? std::clamp((before - after) / (2 * bend), -0.5, 0.5) : 0;
}

/// How much each pixel of the template counts: the spot and its edge, so that what stands still round about does not
/// hold it back.
cv::Mat1f counts()
{
    constexpr double sigma = template_side / 6.0;
    const cv::Mat line = cv::getGaussianKernel(template_side, sigma, CV_32F);
    return cv::Mat(line * line.t());
}

/// Where what lay at a place of one photo lies in the other, by how far it went; nothing where it is lost.
std::optional<cv::Point2d> went(const Shot& shot, const Spot& spot, PhotoIndex from, cv::Point2d at, PhotoIndex to,
                                const PhotoSource& source)
{
    const auto before = look_at(shot, spot, from, at, template_side, source);
    const auto after = look_at(shot, spot, to, at, template_side + 2 * search, source);
    if (!before || !after)
        return std::nullopt;
    cv::Mat1f match;
    cv::matchTemplate(after->grey, before->grey, match, cv::TM_CCOEFF_NORMED, counts());
    cv::patchNaNs(match, -1); // where there is nothing but one tone
    double best = 0;
    cv::Point place;
    cv::minMaxLoc(match, nullptr, &best, nullptr, &place);
    if (!(best >= surely) || place.x == 0 || place.y == 0 || place.x + 1 == match.cols || place.y + 1 == match.rows)
        return std::nullopt;
    const auto value = [&](int dx, int dy) { return double(match(place.y + dy, place.x + dx)); };
    const double x = place.x - search + top_of(value(-1, 0), value(0, 0), value(1, 0));
    const double y = place.y - search + top_of(value(0, -1), value(0, 0), value(0, 1));
    return cv::Point2d(x / after->per_share, y / after->per_share_down);
}

}

Operation follow_spot(const Shot& shot, SpotId id)
{
    return [shot, id](const PhotoSource& source, const Job& job) -> Edit {
        const Retouch retouch = retouch_of(shot);
        const auto spot =
            std::find_if(retouch.spots.begin(), retouch.spots.end(), [&](const Spot& s) { return s.id == id; });
        if (spot == retouch.spots.end() || spot->keys.empty())
            throw Failure({"the spot is gone", {}, "Brush over it again"});
        const auto shown = in_film(shot);
        const auto [begin, end] = range_of(*spot, shot);
        std::vector<std::int64_t> photos, set; // that it is followed through; where it was put by hand
        for (std::int64_t i = begin; i < end; ++i) {
            if (!shown[std::size_t(i)])
                continue;
            photos.push_back(i);
            for (const PlaceKey& k : spot->keys)
                if (k.photo == shot.photos[std::size_t(i)].id)
                    set.push_back(i);
        }
        if (set.empty())
            throw Failure({"the spot was placed on a photo that is not in the film", {}, "Place it on another photo"});
        std::map<std::int64_t, std::vector<cv::Point2d>> places;
        for (const std::int64_t i : set)
            places[i] = points_at(*spot, shot, PhotoIndex(i));
        std::size_t done = 0;
        const auto follow = [&](auto from, auto until) { // from a photo where it was put, to the next one or the end
            for (auto at = from; at != until; ++at) {
                const auto next = std::next(at);
                if (next == until || places.contains(*next))
                    continue;
                job.check();
                ++done;
                job.report(double(done) / double(photos.size()),
                           "photo " + std::to_string(done) + " of " + std::to_string(photos.size()));
                const auto here = places.find(*at);
                if (here == places.end())
                    continue;
                cv::Point2d middle;
                for (const cv::Point2d& p : here->second)
                    middle += p / double(here->second.size());
                auto moved_points = here->second;
                if (const auto by = went(shot, *spot, PhotoIndex(*at), middle, PhotoIndex(*next), source))
                    for (cv::Point2d& p : moved_points)
                        p += *by;
                places[*next] = std::move(moved_points);
            }
        };
        const auto first = std::find(photos.begin(), photos.end(), set.front());
        follow(first, photos.end());
        follow(std::make_reverse_iterator(std::next(first)), photos.rend());
        std::vector<PlaceKey> keys;
        keys.reserve(places.size());
        for (const auto& [at, points] : places)
            keys.push_back({shot.photos[std::size_t(at)].id, numbers_of(points)});
        return [keys, id, of = shot.id](const Project& now) {
            return change_spot(now, find_measured(now, of), id, [&](Spot& s) { s.keys = keys; });
        };
    };
}

}
