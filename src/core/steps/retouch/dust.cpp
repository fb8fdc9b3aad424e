#include "core/picture/picture.h"
#include "core/steps/retouch/lasting.h"
#include "core/steps/retouch/plane_picture.h"
#include "core/steps/retouch/retouch_operations.h"
#include "core/steps/retouch/specks.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <string>
#include <string_view>

namespace frenlo {

namespace {

constexpr std::size_t most_looked_at = 40;
constexpr double most_pixels = 8e6;    ///< of a photo: larger ones are looked at so small
constexpr double most_at_once = 200e6; ///< pixels in memory

struct Series
{
    std::vector<cv::Mat1b> greys; ///< of one size
    double down = 1;              ///< how many pixels of the photo are one of theirs
};

Series read_photos(const Shot& shot, const PhotoSource& source, const Job& job)
{
    Series series;
    const auto of_one_size = [&](PhotoIndex photo) {
        return shot.photos[photo.at()].photo->size == shot.photos.front().photo->size;
    };
    if (shot.photos.empty())
        return series;
    const cv::Size size = seen_size(shot.photos.front());
    series.down = std::max(1.0, std::sqrt(double(size.area()) / most_pixels));
    const cv::Size small(int(std::lround(size.width / series.down)), int(std::lround(size.height / series.down)));
    const auto most = std::size_t(std::max(12.0, most_at_once / std::max(1, small.area())));
    const auto photos = some_photos(shot, std::min(most, most_looked_at), of_one_size);
    for (std::size_t i = 0; i < photos.size(); ++i) {
        job.check();
        job.report(0.4 * double(i) / double(photos.size()),
                   "photo " + std::to_string(i + 1) + " of " + std::to_string(photos.size()));
        const auto picture = render(request_for_photo(shot, photos[i], small), source);
        if (!picture || picture->channels() < 3 || picture->size() != small)
            continue;
        cv::Mat1b grey;
        cv::cvtColor(*picture, grey, picture->channels() == 4 ? cv::COLOR_BGRA2GRAY : cv::COLOR_BGR2GRAY);
        series.greys.push_back(grey);
    }
    return series;
}

struct Found
{
    std::vector<Speck> specks;
    cv::Size size; ///< of the photos that they are in
};

/// Progress of a part of the work.
Job stretch_of(const Job& job, double from, double to)
{
    return Job(job.token(), [&job, from, to](double fraction, std::string_view what) {
        job.report(from + (to - from) * fraction, what);
    });
}

Found find_specks(const Series& series, const Job& job)
{
    if (series.greys.empty())
        return {};
    SpeckSearch search;
    constexpr double least = 2.6; // pixels that are looked at: what is smaller is noise
    search.smallest = std::max(least, search.smallest / series.down);
    search.largest /= series.down;
    const auto wide = int(std::lround(1.5 * search.largest)); // its soft edge too
    Found found{.specks = {}, .size = series.greys.front().size()};
    if (const auto differences = from_scene(series.greys, wide, stretch_of(job, 0.4, 0.7))) {
        found.specks = specks_in(*differences, search, stretch_of(job, 0.7, 0.9));
        return found;
    }
    // Scenes that have nothing to do with each other: what is in all of them is no scene. Of photos that are alike two
    // say no more than one.
    const Differences differences = from_surround(series.greys, int(search.largest), stretch_of(job, 0.4, 0.7));
    const double stays = staying(differences);
    constexpr double half = 0.5;
    if (series.greys.size() >= 3 && stays < half) {
        search.least_sure *= std::sqrt(std::max(1.0, stays * double(series.greys.size())));
        found.specks = specks_in(differences, search, stretch_of(job, 0.7, 0.9));
        return found;
    }
    // Where the scene stands still, all of it is in photo after photo: only what stands quite alone is a speck.
    constexpr double alone = 11, all = 1e6;
    search.least_sure = alone;
    search.most_of_one = all;
    found.specks = specks_in(mean_of(differences), search, stretch_of(job, 0.7, 0.9));
    return found;
}

}

Operation find_dust(const Shot& shot)
{
    return [shot](const PhotoSource& source, const Job& job) -> Edit {
        const Found seen = find_specks(read_photos(shot, source, job), job);
        const cv::Size size = seen.size;
        std::vector<Spot> found;
        const PhotoId first = shot.photos.empty() ? PhotoId{} : shot.photos.front().id;
        for (const Speck& s : seen.specks) {
            Spot spot;
            const cv::Point2d at((s.at.x + 0.5) / size.width, (s.at.y + 0.5) / size.height);
            spot.keys = {{first, {at.x, at.y}}};
            spot.radius = (s.radius * 1.5 + 1) / size.width; // its soft edge too
            spot.on_photo = true;
            const auto marked = retouch_of(shot).spots;
            const bool known = std::any_of(marked.begin(), marked.end(), [&](const Spot& other) {
                return other.on_photo && !other.keys.empty() && other.keys.front().points.size() == 2 &&
                       std::abs(other.keys.front().points[0] - at.x) < other.radius + spot.radius &&
                       std::abs(other.keys.front().points[1] - at.y) * size.height <
                           (other.radius + spot.radius) * size.width;
            });
            if (!known)
                found.push_back(std::move(spot));
        }
        for (Spot& spot : found)
            spot.id = SpotId::fresh();
        // Where each is taken from, at once.
        auto with = std::make_shared<Shot>(shot);
        std::vector<SpotId> ids;
        Retouch retouch = retouch_of(shot);
        for (const Spot& spot : found) {
            ids.push_back(spot.id);
            retouch.spots.push_back(spot);
        }
        with->steps.set(std::move(retouch));
        const Edit sources = find_sources(*with, ids)(source, Job(job.token()));
        return [found, sources, id = shot.id](const Project& now) {
            Project p = now;
            for (const Spot& spot : found)
                p = add_spot(p, find_measured(now, id), spot).project;
            return sources(p);
        };
    };
}

}
