#include "core/picture/picture.h"
#include "core/steps/retouch/plane_picture.h"
#include "core/steps/retouch/retouch_operations.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace frenlo {

namespace {

constexpr std::size_t most_photos = 40;
constexpr double smallest = 3, largest = 30; ///< pixels across
constexpr double faintest = 0.03;            ///< stops
constexpr std::size_t most_looked_at = 600;  ///< candidates that are looked at in each photo
constexpr float most_step = 0.35F;           ///< stops: what differs more from its surround in one photo counts as this

/// How much each pixel differs from what lies around it, stops: what is far larger than a speck is gone.
cv::Mat1f differences(const cv::Mat& bgr)
{
    cv::Mat grey, wide;
    cv::cvtColor(bgr, grey, bgr.channels() == 4 ? cv::COLOR_BGRA2GRAY : cv::COLOR_BGR2GRAY);
    cv::Mat1f light(grey.size());
    std::array<float, 256> stops{};
    for (std::size_t i = 0; i < stops.size(); ++i) // encoded light is about the square root of it
        stops[i] = 2 * std::log2((float(i) + 4) / 255);
    for (int y = 0; y < grey.rows; ++y)
        for (int x = 0; x < grey.cols; ++x)
            light(y, x) = stops[grey.at<std::uint8_t>(y, x)];
    const int side = int(largest) * 2 + 1;
    cv::blur(light, wide, {side, side});
    cv::blur(wide, wide, {side, side});
    cv::Mat1f away;
    cv::subtract(light, wide, away);
    cv::min(away, most_step, away);
    cv::max(away, -most_step, away);
    return away;
}

/// What is in photo after photo: the mean, less what chance makes of it. Where the scene moved, of the scene nothing is
/// left (soft thresholding, Donoho 1995).
cv::Mat1f lasting(const cv::Mat1f& mean, const cv::Mat1f& squares, int photos)
{
    cv::Mat1f left(mean.size());
    constexpr float widths = 3;
    for (int y = 0; y < mean.rows; ++y)
        for (int x = 0; x < mean.cols; ++x) {
            const float m = mean(y, x), variance = std::max(0.0F, squares(y, x) / float(photos) - m * m);
            const float chance = widths * std::sqrt(variance / float(photos));
            left(y, x) = std::abs(m) <= chance ? 0 : m - std::copysign(chance, m);
        }
    return left;
}

struct Speck
{
    cv::Point2d at;
    double radius = 0; ///< pixels
    double strength = 0;
};

/// Blobs of the mean difference that stand out from all that is around them: scale space maxima of the Laplacian of
/// Gaussians (Lindeberg 1998), round, and several times as strong as what else is there.
/// ratio: how much stronger.
std::vector<Speck> specks_in(const cv::Mat1f& mean, double ratio)
{
    std::vector<double> sigmas;
    constexpr double finer = 1.26; // from one size to the next
    const auto sizes = int(std::ceil(std::log(largest * 1.3 / (smallest * 0.8)) / std::log(finer)));
    for (int i = 0; i < sizes; ++i)
        sigmas.push_back(smallest * 0.8 * std::pow(finer, i) / 2 / std::numbers::sqrt2);
    std::vector<cv::Mat1f> responses;
    for (const double sigma : sigmas) {
        cv::Mat1f inner, outer;
        constexpr double step = 1.26;
        cv::GaussianBlur(mean, inner, {}, sigma / std::sqrt(step));
        cv::GaussianBlur(mean, outer, {}, sigma * std::sqrt(step));
        cv::Mat1f response; // dark specks above 0
        cv::addWeighted(outer, 1 / std::log(step), inner, -1 / std::log(step), 0, response);
        responses.push_back(response);
    }
    std::vector<Speck> specks;
    for (std::size_t s = 0; s < responses.size(); ++s) {
        const cv::Mat1f& r = responses[s];
        const double sigma = sigmas[s];
        cv::Mat1f strength, activity, square;
        cv::multiply(r, r, square);
        // What is usual round about, without what is looked at: the median would be exact, this is fast.
        const int near = int(std::ceil(sigma * 3)) | 1, far = int(std::ceil(sigma * 16)) | 1;
        cv::Mat1f sum_near, sum_far;
        cv::boxFilter(square, sum_near, -1, {near, near}, {-1, -1}, false);
        cv::boxFilter(square, sum_far, -1, {far, far}, {-1, -1}, false);
        activity = (sum_far - sum_near) / double(far * far - near * near);
        const int margin = std::max(2, int(std::ceil(sigma)));
        for (int y = margin; y + margin < r.rows; ++y)
            for (int x = margin; x + margin < r.cols; ++x) {
                const float v = std::abs(r(y, x));
                const double usual = std::sqrt(std::max(0.0, double(activity(y, x))));
                if (v < faintest || v < ratio * usual)
                    continue;
                bool highest = true;
                for (int dy = -1; dy <= 1 && highest; ++dy)
                    for (int dx = -1; dx <= 1 && highest; ++dx) {
                        highest = (dx == 0 && dy == 0) || v >= std::abs(r(y + dy, x + dx));
                        for (const int ds : {-1, 1})
                            if (const auto other = std::ptrdiff_t(s) + ds;
                                other >= 0 && other < std::ptrdiff_t(responses.size()))
                                highest = highest && v >= std::abs(responses[std::size_t(other)](y + dy, x + dx));
                    }
                if (!highest)
                    continue;
                // Round: its curvature is much the same in all directions (Harris, Stephens 1988).
                const double xx = r(y, x + 1) - 2 * r(y, x) + r(y, x - 1), yy = r(y + 1, x) - 2 * r(y, x) + r(y - 1, x);
                const double xy = (r(y + 1, x + 1) - r(y + 1, x - 1) - r(y - 1, x + 1) + r(y - 1, x - 1)) / 4;
                const double trace = xx + yy, det = xx * yy - xy * xy;
                constexpr double most_ratio = 3.5;
                if (det <= 0 || trace * trace / det > (most_ratio + 1) * (most_ratio + 1) / most_ratio)
                    continue;
                specks.push_back({cv::Point2d(x, y), sigma * std::numbers::sqrt2, double(v)});
            }
    }
    std::sort(specks.begin(), specks.end(), [](const Speck& a, const Speck& b) { return a.strength > b.strength; });
    std::vector<Speck> apart;
    for (const Speck& s : specks)
        if (std::none_of(apart.begin(), apart.end(),
                         [&](const Speck& o) { return cv::norm(o.at - s.at) < o.radius + s.radius + 1; }))
            apart.push_back(s);
    return apart;
}

/// How much darker or lighter a speck is than the ring about it.
double contrast(const cv::Mat1f& away, const Speck& s)
{
    const double outer = s.radius * 2.2 + 2;
    double in = 0, ins = 0, out = 0, outs = 0;
    const int reach = int(std::ceil(outer));
    for (int y = std::max(0, int(s.at.y) - reach); y <= std::min(away.rows - 1, int(s.at.y) + reach); ++y)
        for (int x = std::max(0, int(s.at.x) - reach); x <= std::min(away.cols - 1, int(s.at.x) + reach); ++x) {
            const double d = cv::norm(cv::Point2d(x, y) - s.at);
            if (d <= s.radius * 0.7) {
                in += double(away(y, x));
                ++ins;
            } else if (d > s.radius * 1.5 + 1 && d <= outer) {
                out += double(away(y, x));
                ++outs;
            }
        }
    return ins > 0 && outs > 0 ? in / ins - out / outs : 0;
}

/// The same in each photo, whatever the scene does there.
bool lasts(const std::vector<double>& contrasts)
{
    double mean = 0, square = 0;
    for (const double c : contrasts)
        mean += c / double(contrasts.size());
    for (const double c : contrasts)
        square += (c - mean) * (c - mean) / double(contrasts.size());
    // Dust throws shadows. What is light, or faint, must be the steadier: of a scene that goes by, something is left.
    const double ratio = std::abs(mean) / std::max(1e-9, std::sqrt(square));
    constexpr double dark = -0.22, steady = 1.4, faint_steady = 2.4, light_steady = 4;
    return mean <= dark       ? ratio >= steady
           : mean < -faintest ? ratio >= faint_steady
                              : mean > faintest && ratio >= light_steady;
}

std::vector<PhotoIndex> chosen_photos(const Shot& shot)
{
    return some_photos(shot, most_photos, [&](PhotoIndex photo) {
        return shot.photos[photo.at()].photo->size == shot.photos.front().photo->size;
    });
}

}

namespace {

/// Calls use(differences) for each photo that can be read, of one size.
template <class Use>
int for_each_photo(const Shot& shot, const PhotoSource& source, const Job& job, double from, double to, const Use& use)
{
    const auto photos = chosen_photos(shot);
    cv::Size size;
    int read = 0;
    for (std::size_t i = 0; i < photos.size(); ++i) {
        job.check();
        job.report(from + (to - from) * double(i) / double(photos.size()),
                   "photo " + std::to_string(i + 1) + " of " + std::to_string(photos.size()));
        const ShotPhoto& p = shot.photos[photos[i].at()];
        const auto picture = render(request_for_photo(shot, photos[i], seen_size(p)), source);
        if (!picture || picture->channels() < 3 || (!size.empty() && picture->size() != size))
            continue;
        size = picture->size();
        use(differences(*picture));
        ++read;
    }
    return read;
}

struct Found
{
    std::vector<Speck> specks;
    cv::Size size; ///< of the photos
};

Found find_specks(const Shot& shot, const PhotoSource& source, const Job& job)
{
    cv::Mat1f sum, squares;
    const int read = for_each_photo(shot, source, job, 0, 0.45, [&](const cv::Mat1f& away) {
        if (sum.empty()) {
            sum = cv::Mat1f(away.size(), 0.0F);
            squares = cv::Mat1f(away.size(), 0.0F);
        }
        sum += away;
        cv::accumulateSquare(away, squares);
    });
    if (read == 0)
        return {};
    cv::Mat1f mean;
    sum.convertTo(mean, CV_32F, 1.0 / read);
    const double stays = cv::mean(mean.mul(mean))[0], all = cv::mean(squares)[0] / read;
    // Where the scene stands still, all of it is in photo after photo: only what stands quite alone is a speck.
    const bool moved = read >= 3 && stays < 0.5 * all;
    constexpr double in_moved = 4.5, in_still = 11;
    Found found{specks_in(lasting(mean, squares, read), moved ? in_moved : in_still), mean.size()};
    if (!moved || found.specks.empty())
        return found;
    found.specks.resize(std::min(found.specks.size(), most_looked_at));
    std::vector<std::vector<double>> contrasts(found.specks.size());
    for_each_photo(shot, source, job, 0.45, 0.9, [&](const cv::Mat1f& away) {
        for (std::size_t i = 0; i < found.specks.size(); ++i)
            contrasts[i].push_back(contrast(away, found.specks[i]));
    });
    std::vector<Speck> lasting_ones;
    for (std::size_t i = 0; i < found.specks.size(); ++i)
        if (lasts(contrasts[i]))
            lasting_ones.push_back(found.specks[i]);
    found.specks = std::move(lasting_ones);
    return found;
}

}

Operation find_dust(const Shot& shot)
{
    return [shot](const PhotoSource& source, const Job& job) -> Edit {
        const Found seen = find_specks(shot, source, job);
        const cv::Size size = seen.size;
        const auto photos = chosen_photos(shot);
        std::vector<Spot> found;
        const PhotoId first =
            shot.photos.empty() ? PhotoId{} : shot.photos[photos.empty() ? 0 : photos.front().at()].id;
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
