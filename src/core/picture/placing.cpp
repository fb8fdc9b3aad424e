#include "core/picture/placing.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

cv::Size fitted_shape(cv::Size2d shape, cv::Size box)
{
    const double scale = std::min(box.width / shape.width, box.height / shape.height);
    return {std::clamp(static_cast<int>(std::lround(shape.width * scale)), 1, box.width),
            std::clamp(static_cast<int>(std::lround(shape.height * scale)), 1, box.height)};
}

}

Placing placing(cv::Size2d picture, cv::Size frame, Fit fit)
{
    if (fit == Fit::inside) {
        const cv::Size s = fitted_shape(picture, frame);
        return {{0, 0, 1, 1}, {{(frame.width - s.width) / 2, (frame.height - s.height) / 2}, s}};
    }
    const double scale = std::max(frame.width / picture.width, frame.height / picture.height);
    const double w = std::min(1.0, frame.width / (picture.width * scale));
    const double h = std::min(1.0, frame.height / (picture.height * scale));
    return {{(1 - w) / 2, (1 - h) / 2, w, h}, {{0, 0}, frame}};
}

Transform pixels_over(const cv::Rect2d& part, cv::Size grid)
{
    const double across = part.width / grid.width, down = part.height / grid.height;
    return {across, 0, part.x + across / 2 - 0.5, 0, down, part.y + down / 2 - 0.5, 0, 0, 1};
}

cv::Rect2d share_of(cv::Size2d size, const cv::Rect2d& share)
{
    return {share.x * size.width, share.y * size.height, share.width * size.width, share.height * size.height};
}

Transform into_frame(const Placing& placing, cv::Size2d picture)
{
    const cv::Rect2d shown = share_of(picture, placing.part);
    const double across = placing.at.width / shown.width, down = placing.at.height / shown.height;
    return {across, 0, placing.at.x - shown.x * across, 0, down, placing.at.y - shown.y * down, 0, 0, 1};
}

}
