#include "core/base/median.h"
#include "core/base/text.h"
#include "core/picture/picture.h"
#include "core/steps/retouch/area_edits.h"
#include "core/steps/retouch/plane_picture.h"
#include "core/steps/retouch/retouch_operations.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

constexpr int looked_at = 900;         ///< pixels, the longer side
constexpr double least_share = 0.0004; ///< of the picture: what is smaller is no thing
constexpr std::size_t most_things = 200;

/// Encoded light in floats, without grain.
cv::Mat3f seen(const Shot& shot, PhotoIndex photo, cv::Size size, const PhotoSource& source)
{
    auto picture = render(ground_request(shot, photo, Ground::plane, {0, 0, 1, 1}, size), source);
    if (!picture)
        throw Failure(picture.error());
    if (picture->channels() == 4)
        cv::cvtColor(*picture, *picture, cv::COLOR_BGRA2BGR);
    cv::Mat3f light;
    picture->convertTo(light, CV_32F, 1 / 255.0);
    cv::GaussianBlur(light, light, {}, 1.2);
    return light;
}

/// How far two pictures of one scene differ, the light that they have in common made equal first: the middle of all
/// ratios of each channel, which things that cover less than half of the picture do not change.
cv::Mat1f difference(const cv::Mat3f& a, const cv::Mat3f& b)
{
    cv::Mat1f most(a.size(), 0.0F);
    for (int c = 0; c < 3; ++c) {
        cv::Mat1f one, other;
        cv::extractChannel(a, one, c);
        cv::extractChannel(b, other, c);
        std::vector<float> ratios;
        for (int y = 0; y < one.rows; y += 4)
            for (int x = 0; x < one.cols; x += 4)
                if (one(y, x) > 0.05F && other(y, x) > 0.05F)
                    ratios.push_back(one(y, x) / other(y, x));
        const float gain = ratios.empty() ? 1 : upper_median(std::move(ratios));
        cv::Mat1f away;
        cv::absdiff(one, other * gain, away);
        for (int y = 0; y < most.rows; ++y)
            for (int x = 0; x < most.cols; ++x)
                most(y, x) = std::max(most(y, x), away(y, x));
    }
    return most;
}

/// What chance makes of a difference: the middle one, which things that cover less than half do not change.
double noise_in(const cv::Mat1f& difference)
{
    return upper_median(std::vector<float>(difference.begin(), difference.end()));
}

cv::Mat1b differs(const cv::Mat3f& a, const cv::Mat3f& b)
{
    const cv::Mat1f away = difference(a, b);
    constexpr double widths = 7, least = 0.035; // of encoded light: less is grain and rounding
    cv::Mat1b far;
    cv::compare(away, std::max(least, widths * noise_in(away)), far, cv::CMP_GT);
    return far;
}

/// Each thing that is new, as an outline round it with a small margin; shares of the picture.
std::vector<std::vector<cv::Point2d>> outlines(cv::Mat1b fresh)
{
    const int wide = std::max(3, fresh.cols / 90) | 1;
    cv::morphologyEx(fresh, fresh, cv::MORPH_OPEN, cv::getStructuringElement(cv::MORPH_ELLIPSE, {3, 3}));
    cv::morphologyEx(fresh, fresh, cv::MORPH_CLOSE,
                     cv::getStructuringElement(cv::MORPH_ELLIPSE, {2 * wide + 1, 2 * wide + 1}));
    cv::dilate(fresh, fresh, cv::getStructuringElement(cv::MORPH_ELLIPSE, {wide, wide}));
    std::vector<std::vector<cv::Point>> contours;
    cv::findContours(fresh, contours, cv::RETR_EXTERNAL, cv::CHAIN_APPROX_SIMPLE);
    std::vector<std::vector<cv::Point2d>> found;
    for (const auto& contour : contours) {
        if (cv::contourArea(contour) < least_share * double(fresh.total()))
            continue;
        std::vector<cv::Point> corners;
        cv::approxPolyDP(contour, corners, 1.0, true);
        std::vector<cv::Point2d> shares;
        shares.reserve(corners.size());
        for (const cv::Point& p : corners)
            shares.emplace_back((p.x + 0.5) / fresh.cols, (p.y + 0.5) / fresh.rows);
        if (shares.size() >= 3)
            found.push_back(std::move(shares));
    }
    return found;
}

}

Operation find_things(const Shot& shot)
{
    return [shot](const PhotoSource& source, const Job& job) -> Edit {
        const auto plate = plate_of(shot);
        if (!plate)
            throw Failure({"what appears is found against the clean plate, and there is none",
                           {},
                           "Make the clean plate, or choose a photo of the empty scene"});
        const cv::Size plane = ground_size(shot, *plate, Ground::plane), size = fitted(plane, {looked_at, looked_at});
        std::vector<PhotoIndex> photos;
        const auto shown = in_film(shot);
        for (std::size_t i = 0; i < shot.photos.size(); ++i)
            if (shown[i] && PhotoIndex(std::int64_t(i)) != *plate && !shot.photos[i].photo->size.empty())
                photos.push_back(PhotoIndex(std::int64_t(i)));
        const cv::Mat3f empty = seen(shot, *plate, size, source);
        std::vector<Area> things;
        cv::Mat3f before;
        for (std::size_t i = 0; i < photos.size(); ++i) {
            job.check();
            job.report(double(i) / double(photos.size()),
                       "photo " + std::to_string(i + 1) + " of " + std::to_string(photos.size()));
            const cv::Mat3f now = seen(shot, photos[i], size, source);
            cv::Mat1b fresh = differs(now, empty);
            if (!before.empty()) // what was there already is not new
                fresh &= differs(now, before);
            before = now;
            for (const auto& outline : outlines(fresh)) {
                const PhotoId photo = shot.photos[photos[i].at()].id;
                Area thing;
                thing.name = "Thing";
                thing.keys = {{photo, numbers_of(outline)}};
                thing.soft = 0.003;
                thing.shows = AreaShows::other;
                thing.other = photo;
                thing.first = photo;
                things.push_back(std::move(thing));
            }
        }
        if (things.empty())
            throw Failure(
                {"nothing appears: all photos look like the clean plate", {}, "See whether it is the empty scene"});
        if (things.size() > most_things)
            throw Failure({"the photos differ from the clean plate in " + std::to_string(things.size()) + " places",
                           {},
                           "Hold the shot still first, and remove its flicker"});
        return [id = shot.id, things](const Project& now) {
            const ShotIndex at = find_measured(now, id);
            Area all; // all else comes from the plate
            all.name = "All else";
            all.shows = AreaShows::plate;
            Project p = add_area(now, at, all).first;
            for (const Area& thing : things)
                p = add_area(p, at, thing).first;
            return p;
        };
    };
}

}
