#include "core/steps/flicker/brightness.h"

#include "core/picture/small_picture.h"
#include "core/picture/turned.h"
#include "core/source/transfer.h"
#include "core/steps/flicker/correction.h"

#include <opencv2/core.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <cmath>
#include <limits>
#include <string>

namespace frenlo {

namespace {

constexpr int columns = 24;

struct Sums
{
    std::array<double, 3> colours{}; // R, G, B
    std::int64_t usable = 0, all = 0;
    std::vector<float> luminances; ///< of usable pixels
    void operator+=(const Sums& o)
    {
        for (std::size_t c = 0; c < 3; ++c)
            colours[c] += o.colours[c];
        usable += o.usable;
        all += o.all;
    }
    void add(const std::array<double, 3>& rgb)
    {
        for (std::size_t c = 0; c < 3; ++c)
            colours[c] += rgb[c];
        ++usable;
        ++all;
    }
};

double stops_of(double linear)
{
    constexpr double darkest = 1e-6;
    return std::log2(std::max(linear, darkest));
}

double luminance(const std::array<double, 3>& rgb)
{
    return 0.2126 * rgb[0] + 0.7152 * rgb[1] + 0.0722 * rgb[2]; // Rec. ITU-R BT.709-6
}

std::array<double, 3> tones_of(std::vector<float>& luminances)
{
    std::array<double, 3> tones{};
    auto begin = luminances.begin();
    for (std::size_t t = 0; const double share : {0.1, 0.5, 0.9}) {
        const auto at = luminances.begin() + std::ptrdiff_t(share * double(luminances.size() - 1));
        std::nth_element(begin, at, luminances.end());
        tones[t++] = stops_of(*at);
        begin = at;
    }
    return tones;
}

bool looked_at(const Region& region, cv::Point2d share)
{
    const auto in = [&](const cv::Rect2d& r) { return r.contains(share); };
    if (std::any_of(region.leave_out.begin(), region.leave_out.end(), in))
        return false;
    return region.look_at.empty() || std::any_of(region.look_at.begin(), region.look_at.end(), in);
}

template <class Channel>
void add(const cv::Mat& pixels, const cv::Rect& area, const Region& region, bool everywhere, Sums& usable, Sums& whole)
{
    constexpr Channel black = std::numeric_limits<Channel>::max() / 85,
                      clipped = std::numeric_limits<Channel>::max() - black;
    const auto& linear = linear_table<Channel>();
    const int channels = pixels.channels();
    for (int y = area.y; y < area.br().y; ++y) {
        const auto* p = pixels.ptr<Channel>(y) + area.x * channels;
        for (int x = area.x; x < area.br().x; ++x, p += channels) {
            if (!everywhere && !looked_at(region, {(x + 0.5) / pixels.cols, (y + 0.5) / pixels.rows}))
                continue;
            if (channels == 4 && p[3] < std::numeric_limits<Channel>::max() / 2 + 1)
                continue; // what is transparent is no light
            const auto high = std::max({p[0], p[1], p[2]});
            const std::array<double, 3> rgb{linear[p[2]], linear[p[1]], linear[p[0]]};
            whole.add(rgb);
            if (high <= black || high >= clipped) { // a colour alone may be dark, but not clipped
                ++usable.all;
                continue;
            }
            usable.add(rgb);
            usable.luminances.push_back(float(luminance(rgb)));
        }
    }
}

}

Brightness brightness_of(const cv::Mat& pixels, const Region& region)
{
    Brightness b;
    if (pixels.empty())
        return b;
    b.columns = std::min(columns, pixels.cols);
    b.rows = std::clamp(int(std::lround(double(b.columns) * pixels.rows / pixels.cols)), 1, pixels.rows);
    const bool everywhere = region == Region();
    Sums usable, whole;
    for (int row = 0; row < b.rows; ++row)
        for (int column = 0; column < b.columns; ++column) {
            const cv::Rect area(cv::Point(column * pixels.cols / b.columns, row * pixels.rows / b.rows),
                                cv::Point((column + 1) * pixels.cols / b.columns, (row + 1) * pixels.rows / b.rows));
            Sums in_cell, all_in_cell;
            const auto add_pixels = pixels.depth() == CV_16U ? add<std::uint16_t> : add<std::uint8_t>;
            add_pixels(pixels, area, region, everywhere, in_cell, all_in_cell);
            LightCell cell;
            if (in_cell.usable > 0) {
                for (std::size_t c = 0; c < 3; ++c)
                    cell.colours[c] = stops_of(in_cell.colours[c] / double(in_cell.usable));
                auto mean = in_cell.colours;
                for (double& v : mean)
                    v /= double(in_cell.usable);
                cell.stops = stops_of(luminance(mean));
                cell.usable = double(in_cell.usable) / double(in_cell.all);
                cell.tones = tones_of(in_cell.luminances);
            }
            b.cells.push_back(cell);
            usable += in_cell;
            whole += all_in_cell;
        }
    const Sums& counted = usable.usable > 0 ? usable : whole;
    auto mean = counted.colours;
    for (double& v : mean)
        v /= double(std::max<std::int64_t>(1, counted.usable));
    b.stops = stops_of(luminance(mean));
    for (std::size_t c = 0; c < 3; ++c)
        b.colours[c] = stops_of(mean[c]);
    b.usable = usable.all > 0 ? double(usable.usable) / double(usable.all) : 0;
    return b;
}

int measuring_side(std::size_t photos)
{
    constexpr double most_bytes = 512e6, ratio = 2.0 / 3, enough = 480;
    return int(std::min(enough, std::sqrt(most_bytes / (3 * ratio * double(std::max<std::size_t>(1, photos))))));
}

std::vector<cv::Mat> small_photos(const std::vector<SeenPhoto>& photos, const std::vector<Transform>& from_film,
                                  int side, const PhotoSource& source, const Job& job)
{
    std::vector<cv::Mat> all(photos.size());
    std::atomic<std::size_t> done = 0;
    tbb::parallel_for(std::size_t(0), photos.size(), [&](std::size_t i) {
        if (job.stopping())
            return;
        const SeenPhoto& p = photos[i];
        const cv::Size seen = turned(p.photo->size, p.turns);
        if (!seen.empty()) {
            const double scale = std::min(1.0, double(side) / std::max(seen.width, seen.height));
            const cv::Size size(std::max(1, int(std::lround(seen.width * scale))),
                                std::max(1, int(std::lround(seen.height * scale))));
            if (auto small = small_picture(p, size, source, from_film.empty() ? Transform::eye() : from_film[i]))
                all[i] = std::move(*small);
        }
        job.report(double(++done) / double(photos.size()),
                   "photo " + std::to_string(done) + " of " + std::to_string(photos.size()));
    });
    job.check();
    return all;
}

std::vector<Brightness> brightness_of_all(const std::vector<cv::Mat>& photos,
                                          const std::vector<Correction>& corrections, const Region& region,
                                          const Job& job)
{
    std::vector<Brightness> all(photos.size());
    tbb::parallel_for(std::size_t(0), photos.size(), [&](std::size_t i) {
        if (job.stopping() || photos[i].empty())
            return;
        all[i] = brightness_of(corrections.empty() ? photos[i] : apply_correction(photos[i], corrections[i]), region);
    });
    job.check();
    return all;
}

}
