#include "core/steps/tone/local_contrast.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

constexpr float least_light = 1.0F / 4096; ///< what is darker counts as this
constexpr double around = 1.0 / 12;        ///< of the longer side: how far a tone's neighbourhood reaches
constexpr double edge_stops = 0.5;         ///< differences above it are edges

cv::Mat1f stops_of(const Canvas& picture)
{
    cv::Mat1f stops(picture.size());
    for (int y = 0; y < picture.rows; ++y)
        for (int x = 0; x < picture.cols; ++x) {
            const cv::Vec4f& p = picture(y, x);
            const float seen = 0.0722F * p[0] + 0.7152F * p[1] + 0.2126F * p[2];
            stops(y, x) = std::log2(std::max(p[3] > 0 ? seen / p[3] : 0.0F, least_light));
        }
    return stops;
}

}

cv::Mat1f tones_standing_out(const Canvas& small)
{
    const cv::Mat stops = stops_of(small);
    const int reach = std::max(1, int(std::lround(std::max(small.cols, small.rows) * around)));
    const auto mean = [&](const cv::Mat& of) {
        cv::Mat m;
        cv::blur(of, m, {2 * reach + 1, 2 * reach + 1}, {-1, -1}, cv::BORDER_REFLECT_101);
        return m;
    };
    const cv::Mat middle = mean(stops);
    const cv::Mat variance = cv::max(mean(stops.mul(stops)) - middle.mul(middle), 0.0);
    const cv::Mat share = variance / (variance + edge_stops * edge_stops);
    const cv::Mat offset = middle - share.mul(middle);
    cv::Mat out = stops - (mean(share).mul(stops) + mean(offset));
    return out;
}

}
