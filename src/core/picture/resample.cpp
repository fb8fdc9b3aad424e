#include "core/picture/resample.h"

extern "C" {
#include <libavutil/log.h>
#include <libavutil/pixfmt.h>
#include <libswscale/swscale.h>
}

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <memory>

namespace frenlo {

namespace {

struct FreeScaler
{
    void operator()(SwsContext* c) const { sws_freeContext(c); }
};

/// Area average of 8-bit pictures by FFmpeg's scaler, channel by channel: within 1/255 of OpenCV's exact one in a third
/// of its time. Empty where it will not do (it needs some room).
cv::Mat area_average(const cv::Mat& bgr, cv::Size size)
{
    constexpr int least_side = 16, most_reduction = 8;
    if (bgr.type() != CV_8UC3 || std::min(size.width, size.height) < least_side ||
        bgr.cols > most_reduction * size.width || bgr.rows > most_reduction * size.height)
        return {};
    av_log_set_level(AV_LOG_QUIET);
    const std::unique_ptr<SwsContext, FreeScaler> scaler(
        sws_getContext(bgr.cols, bgr.rows, AV_PIX_FMT_GRAY8, size.width, size.height, AV_PIX_FMT_GRAY8,
                       SWS_AREA | SWS_ACCURATE_RND | SWS_BITEXACT, nullptr, nullptr, nullptr));
    if (!scaler)
        return {};
    cv::Mat from(bgr.size(), CV_8U); // one channel at a time: large photos are many megabytes
    std::array<cv::Mat, 3> to;
    for (int c = 0; c < 3; ++c) {
        auto& plane = to[std::size_t(c)];
        plane.create(size, CV_8U);
        cv::extractChannel(bgr, from, c);
        const std::array<const std::uint8_t*, 1> source{from.data};
        const std::array<int, 1> source_step{static_cast<int>(from.step)};
        const std::array<std::uint8_t*, 1> target{plane.data};
        const std::array<int, 1> target_step{static_cast<int>(plane.step)};
        if (sws_scale(scaler.get(), source.data(), source_step.data(), 0, bgr.rows, target.data(),
                      target_step.data()) != size.height)
            return {};
    }
    cv::Mat out;
    cv::merge(to.data(), to.size(), out);
    return out;
}

}

cv::Mat resampled(const cv::Mat& pixels, cv::Size size)
{
    if (pixels.size() == size)
        return pixels;
    const bool smaller = size.width <= pixels.cols && size.height <= pixels.rows;
    cv::Mat out = smaller ? area_average(pixels, size) : cv::Mat();
    if (out.empty())
        cv::resize(pixels, out, size, 0, 0, smaller ? cv::INTER_AREA : cv::INTER_LANCZOS4);
    return out;
}

}
