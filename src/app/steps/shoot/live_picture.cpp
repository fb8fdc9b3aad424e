#include "app/steps/shoot/live_picture.h"

#include "app/picture/clipped.h"
#include "app/picture/onion_skin.h"
#include "app/work/photo_loader.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>

namespace frenlo::app {

namespace {

constexpr int magnified_side = 140; ///< pixels of the camera that the magnifier shows

void look_at_light(const cv::Mat& picture, LivePicture& live)
{
    std::int64_t brights = 0, darks = 0;
    for (int y = 0; y < picture.rows; ++y) {
        const auto* row = picture.ptr<cv::Vec3b>(y);
        for (int x = 0; x < picture.cols; ++x) {
            const cv::Vec3b& p = row[x];
            ++live.histogram[std::size_t((p[2] * 54 + p[1] * 183 + p[0] * 19) >> 10)];
            brights += std::max({p[0], p[1], p[2]}) == 255 ? 1 : 0;
            darks += std::min({p[0], p[1], p[2]}) == 0 ? 1 : 0;
        }
    }
    live.bright_share = double(brights) / double(picture.total());
    live.dark_share = double(darks) / double(picture.total());
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
    if (wish.histogram)
        look_at_light(seen, live);
    if (wish.magnifier)
        magnify(picture, wish, live);
    live.image = to_image(seen);
    if (wish.clipped)
        live.clipped = clipped_marks(live.image, *wish.clipped);
    if (!wish.compared.isNull())
        live.difference = difference_of(live.image, wish.compared, wish.gain);
    return live;
}

}
