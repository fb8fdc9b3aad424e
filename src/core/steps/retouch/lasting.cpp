#include "core/steps/retouch/lasting.h"

#include "core/base/median.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>

namespace frenlo {

cv::Mat1f stops_of(const cv::Mat1b& grey)
{
    cv::Mat1f table(1, 256), stops;
    for (int i = 0; i < 256; ++i) // encoded light is about the square root of it
        table(0, i) = 2 * std::log2((float(i) + 4) / 255);
    cv::LUT(grey, table, stops);
    return stops;
}

cv::Mat_<schar> in_steps(const cv::Mat1f& stops)
{
    cv::Mat_<schar> steps(stops.size());
    for (int y = 0; y < stops.rows; ++y)
        for (int x = 0; x < stops.cols; ++x) {
            const float v = stops(y, x);
            steps(y, x) = std::isnan(v)
                              ? schar(Differences::none)
                              : schar(std::lround(std::clamp(v / float(Differences::stops), -127.0F, 127.0F)));
        }
    return steps;
}

Differences from_surround(const std::vector<cv::Mat1b>& greys, int wide, const Job& job)
{
    Differences found;
    for (const cv::Mat1b& grey : greys) {
        job.check();
        cv::Mat1f stops = stops_of(grey), surround;
        const int side = wide * 2 + 1;
        cv::blur(stops, surround, {side, side});
        cv::blur(surround, surround, {side, side});
        stops -= surround;
        found.photos.push_back(in_steps(stops));
    }
    return found;
}

Differences mean_of(const Differences& differences)
{
    if (differences.photos.empty())
        return {};
    const cv::Size size = differences.photos.front().size();
    cv::Mat1i sum(size, 0), count(size, 0);
    for (const cv::Mat_<schar>& photo : differences.photos)
        for (int y = 0; y < size.height; ++y)
            for (int x = 0; x < size.width; ++x) {
                const schar v = photo(y, x);
                const int known = v != Differences::none;
                sum(y, x) += known * v;
                count(y, x) += known;
            }
    Differences mean{.photos = {cv::Mat_<schar>(size, schar(Differences::none))}};
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x)
            if (const int n = count(y, x); 2 * n >= int(differences.photos.size()))
                mean.photos[0](y, x) = schar(std::lround(double(sum(y, x)) / n));
    return mean;
}

double staying(const Differences& differences)
{
    if (differences.photos.empty())
        return 1;
    const cv::Mat_<schar> mean = mean_of(differences).photos.front();
    constexpr int side = 32;
    std::vector<double> shares;
    for (int y = 0; y + side <= mean.rows; y += side)
        for (int x = 0; x + side <= mean.cols; x += side) {
            const cv::Rect part(x, y, side, side);
            double all = 0;
            for (const cv::Mat_<schar>& photo : differences.photos)
                all += photo(part).dot(photo(part)) / double(differences.photos.size());
            if (all > 0)
                shares.push_back(mean(part).dot(mean(part)) / all);
        }
    if (shares.empty())
        return 1;
    return std::min(1.0, upper_median(std::move(shares)));
}

}
