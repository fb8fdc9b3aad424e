#include "app/steps/shoot/live_picture.h"

#include "app/picture/onion_skin.h"
#include "app/work/photo_loader.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>

namespace frenlo::app {

namespace {

constexpr int bright = 252, dark = 3;
constexpr int magnified_side = 140; ///< pixels of the camera that the magnifier shows

void look_at_light(const cv::Mat& picture, const LiveWish& wish, LivePicture& live)
{
    cv::Mat clipped;
    if (wish.clipped)
        clipped = cv::Mat(picture.size(), CV_8UC4, cv::Scalar::all(0));
    std::int64_t brights = 0, darks = 0;
    for (int y = 0; y < picture.rows; ++y) {
        const auto* row = picture.ptr<cv::Vec3b>(y);
        auto* over = wish.clipped ? clipped.ptr<cv::Vec4b>(y) : nullptr;
        for (int x = 0; x < picture.cols; ++x) {
            const cv::Vec3b& p = row[x];
            const int most = std::max({p[0], p[1], p[2]});
            ++live.histogram[std::size_t((p[2] * 54 + p[1] * 183 + p[0] * 19) >> 10)];
            const bool lost_bright = most >= bright, lost_dark = most <= dark;
            brights += lost_bright ? 1 : 0;
            darks += lost_dark ? 1 : 0;
            // Stripes, so that it is seen without colours, too: one way for lights, the other for darks.
            if (over && lost_bright && ((x + y) & 7) < 3)
                over[x] = {20, 60, 200, 255};
            else if (over && lost_dark && ((x - y) & 7) < 3)
                over[x] = {200, 120, 20, 255};
        }
    }
    const auto all = double(picture.total());
    live.bright_share = double(brights) / all;
    live.dark_share = double(darks) / all;
    if (wish.clipped)
        live.clipped = QImage(clipped.data, clipped.cols, clipped.rows, qsizetype(clipped.step),
                              QImage::Format_ARGB32_Premultiplied)
                           .copy();
}

void magnify(const cv::Mat& picture, const LiveWish& wish, LivePicture& live)
{
    const cv::Size part(std::min(magnified_side, picture.cols), std::min(magnified_side, picture.rows));
    const cv::Point at(
        std::clamp(int(wish.magnified.x * picture.cols) - part.width / 2, 0, picture.cols - part.width),
        std::clamp(int(wish.magnified.y * picture.rows) - part.height / 2, 0, picture.rows - part.height));
    const cv::Mat seen = picture({at, part});
    cv::Mat grey, across, down, larger;
    cv::cvtColor(seen, grey, cv::COLOR_BGR2GRAY);
    cv::Sobel(grey, across, CV_32F, 1, 0);
    cv::Sobel(grey, down, CV_32F, 0, 1);
    live.sharpness = std::sqrt((across.dot(across) + down.dot(down)) / double(seen.total()));
    cv::resize(seen, larger, {}, 2, 2, cv::INTER_NEAREST);
    live.magnified = to_image(larger).copy();
}

}

LivePicture live_picture(const cv::Mat& picture, const LiveWish& wish)
{
    LivePicture live;
    live.full = picture.size();
    cv::Mat seen = picture;
    const double scale = std::min({1.0, double(std::max(1, wish.size.width)) / picture.cols,
                                   double(std::max(1, wish.size.height)) / picture.rows});
    if (scale < 1)
        cv::resize(picture, seen, {}, scale, scale, scale < 0.6 ? cv::INTER_AREA : cv::INTER_LINEAR);
    if (wish.clipped || wish.histogram)
        look_at_light(seen, wish, live);
    if (wish.magnifier)
        magnify(picture, wish, live);
    live.image = to_image(seen);
    if (!wish.compared.isNull())
        live.difference = difference_of(live.image, wish.compared, wish.gain);
    return live;
}

}
