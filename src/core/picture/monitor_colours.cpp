#include "core/picture/monitor_colours.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <lcms2.h>

namespace frenlo {

namespace {

struct CloseProfile
{
    void operator()(void* profile) const { cmsCloseProfile(profile); }
};
using Profile = std::unique_ptr<void, CloseProfile>;

}

std::shared_ptr<const MonitorColours> MonitorColours::of_profile(const std::string& icc)
{
    if (icc.empty())
        return nullptr;
    const Profile monitor(cmsOpenProfileFromMem(icc.data(), cmsUInt32Number(icc.size()))),
        srgb(cmsCreate_sRGBProfile());
    if (!monitor || cmsGetColorSpace(monitor.get()) != cmsSigRgbData)
        return nullptr;
    void* transform = cmsCreateTransform(srgb.get(), TYPE_BGR_8, monitor.get(), TYPE_BGR_8,
                                         INTENT_RELATIVE_COLORIMETRIC, cmsFLAGS_NOCACHE);
    if (!transform)
        return nullptr;
    std::shared_ptr<const MonitorColours> made(new MonitorColours(transform));
    cv::Mat before(1, 216, CV_8UC3);
    for (int i = 0; i < before.cols; ++i)
        before.at<cv::Vec3b>(0, i) = {std::uint8_t(i % 6 * 51), std::uint8_t(i / 6 % 6 * 51),
                                      std::uint8_t(i / 36 * 51)};
    cv::Mat after = before.clone();
    made->apply(after);
    return cv::norm(before, after, cv::NORM_INF) <= 1 ? nullptr : made;
}

MonitorColours::~MonitorColours()
{
    cmsDeleteTransform(transform_);
}

void MonitorColours::apply(cv::Mat& bgr) const
{
    cmsDoTransformLineStride(transform_, bgr.data, bgr.data, cmsUInt32Number(bgr.cols), cmsUInt32Number(bgr.rows),
                             cmsUInt32Number(bgr.step), cmsUInt32Number(bgr.step), 0, 0);
}

}
