#include "core/steps/retouch/continued_texture.h"

#include "core/steps/retouch/kriging.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

/// Square roots of the light, in which a texture's lights and darks are about alike; and back.
void to_roots(Canvas& pixels)
{
    for (cv::Vec4f& p : pixels)
        for (int c = 0; c < 3; ++c)
            p[c] = std::sqrt(std::max(0.0F, p[c]));
}
void from_roots(Canvas& pixels)
{
    for (cv::Vec4f& p : pixels) {
        for (int c = 0; c < 3; ++c)
            p[c] = std::max(0.0F, p[c]) * std::max(0.0F, p[c]);
        p[3] = std::clamp(p[3], 0.0F, 1.0F);
    }
}

/// Means of what is known, and where they are of more than nothing.
struct Coarse
{
    Canvas pixels;
    cv::Mat1b known;
};

Coarse coarse_of(const Canvas& pixels, const cv::Mat1b& known, double down)
{
    const cv::Size size(std::max(4, int(std::lround(pixels.cols / down))),
                        std::max(4, int(std::lround(pixels.rows / down))));
    cv::Mat1f share;
    Canvas known_only(pixels.size(), cv::Vec4f());
    pixels.copyTo(known_only, known);
    known.convertTo(share, CV_32F, 1 / 255.0);
    Coarse coarse;
    cv::resize(known_only, coarse.pixels, size, 0, 0, cv::INTER_AREA);
    cv::resize(share, share, size, 0, 0, cv::INTER_AREA);
    cv::compare(share, 0.5, coarse.known, cv::CMP_GT);
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x)
            coarse.pixels(y, x) *= 1 / std::max(1e-6F, share(y, x));
    return coarse;
}

}

void continue_texture(Canvas& source, const cv::Mat1b& known, Canvas surround, const cv::Point& corner, double radius)
{
    constexpr float of_source = 0.9F; // of a texture that is not the same: a little less of it errs less
    constexpr double working = 10;    // radius, pixels; of a larger one what is finer than that is the source's
    const cv::Rect part(corner, source.size());
    cv::Mat1b texture_known(surround.size(), std::uint8_t(255));
    known.copyTo(texture_known(part));
    to_roots(surround);
    to_roots(source);
    Canvas difference;
    cv::addWeighted(surround(part), 1, source, -of_source, 0, difference);
    if (const double down = radius / working; down > 1) {
        Coarse coarse = coarse_of(difference, known, down);
        Coarse texture = coarse_of(surround, texture_known, down);
        const cv::Point there(int(std::lround(corner.x / down)), int(std::lround(corner.y / down)));
        krige(coarse.pixels, coarse.known, {texture.pixels, texture.known, there}, working);
        cv::resize(coarse.pixels, difference, difference.size(), 0, 0, cv::INTER_CUBIC);
    } else {
        krige(difference, known, {surround, texture_known, corner}, radius);
    }
    cv::addWeighted(source, of_source, difference, 1, 0, source);
    from_roots(source);
}

}
