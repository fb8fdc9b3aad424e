#include "core/source/sharpness.h"

#include <opencv2/imgproc.hpp>

namespace frenlo {

cv::Mat bgr8(const cv::Mat& pixels)
{
    cv::Mat m = pixels;
    if (m.depth() == CV_16U)
        m.convertTo(m, CV_8U, 1.0 / 257.0);
    if (m.channels() == 4)
        cv::cvtColor(m, m, cv::COLOR_BGRA2BGR);
    return m;
}

double sharpness_of(const cv::Mat& pixels)
{
    cv::Mat grey, fine;
    cv::cvtColor(bgr8(pixels), grey, cv::COLOR_BGR2GRAY);
    cv::Laplacian(grey, fine, CV_32F);
    cv::Scalar mean, deviation;
    cv::meanStdDev(grey, mean, deviation);
    return fine.dot(fine) / double(fine.total()) / (deviation[0] * deviation[0] + 1);
}

}
