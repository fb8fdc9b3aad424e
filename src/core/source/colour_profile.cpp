#include "core/source/colour_profile.h"

#include <opencv2/core.hpp>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <lcms2.h>
#include <memory>
#include <string_view>

namespace frenlo {

namespace {

struct CloseProfile
{
    void operator()(void* profile) const { cmsCloseProfile(profile); }
};
struct CloseTransform
{
    void operator()(void* transform) const { cmsDeleteTransform(transform); }
};
using Profile = std::unique_ptr<void, CloseProfile>;
using Transform = std::unique_ptr<void, CloseTransform>;

/// Adobe RGB (1998) Color Image Encoding, version 2005-05: D65, gamma 2.19921875.
Profile adobe_rgb()
{
    const cmsCIExyY white{0.3127, 0.3290, 1};
    const cmsCIExyYTRIPLE primaries{{0.64, 0.33, 1}, {0.21, 0.71, 1}, {0.15, 0.06, 1}};
    const std::unique_ptr<cmsToneCurve, void (*)(cmsToneCurve*)> gamma(cmsBuildGamma(nullptr, 2.19921875),
                                                                       cmsFreeToneCurve);
    cmsToneCurve* curves[] = {gamma.get(), gamma.get(), gamma.get()};
    return Profile(cmsCreateRGBProfile(&white, &primaries, curves));
}

Profile profile_of(const SourceColours& colours)
{
    if (colours.icc.empty())
        return colours.adobe_rgb ? adobe_rgb() : Profile();
    return Profile(cmsOpenProfileFromMem(colours.icc.data(), cmsUInt32Number(colours.icc.size())));
}

bool is_grey(const Profile& profile)
{
    return cmsGetColorSpace(profile.get()) == cmsSigGrayData;
}

bool is_rgb(const Profile& profile)
{
    return cmsGetColorSpace(profile.get()) == cmsSigRgbData;
}

Transform transform_to_srgb(const Profile& from, cmsUInt32Number in, cmsUInt32Number out)
{
    const Profile srgb(cmsCreate_sRGBProfile());
    // For 16 bit lcms2 would work on a coarse grid: off by two code values of eight bits. Exactly, it takes its time.
    const cmsUInt32Number exactly = T_BYTES(in) == 2 ? cmsFLAGS_NOOPTIMIZE : 0;
    return Transform(cmsCreateTransform(from.get(), in, srgb.get(), out, INTENT_RELATIVE_COLORIMETRIC,
                                        cmsFLAGS_NOCACHE | cmsFLAGS_COPY_ALPHA | exactly));
}

bool is_cmyk(const Profile& profile)
{
    return cmsGetColorSpace(profile.get()) == cmsSigCmykData;
}

Transform cmyk_transform(const Profile& from, cmsUInt32Number in, cmsUInt32Number out)
{
    const Profile srgb(cmsCreate_sRGBProfile());
    return Transform(cmsCreateTransform(from.get(), in, srgb.get(), out, INTENT_RELATIVE_COLORIMETRIC,
                                        cmsFLAGS_NOCACHE | cmsFLAGS_BLACKPOINTCOMPENSATION));
}

/// The primaries of Rec. ITU-R BT.709, linear.
Profile linear_light()
{
    const cmsCIExyY white{0.3127, 0.3290, 1};
    const cmsCIExyYTRIPLE primaries{{0.64, 0.33, 1}, {0.30, 0.60, 1}, {0.15, 0.06, 1}};
    const std::unique_ptr<cmsToneCurve, void (*)(cmsToneCurve*)> straight(cmsBuildGamma(nullptr, 1), cmsFreeToneCurve);
    cmsToneCurve* curves[] = {straight.get(), straight.get(), straight.get()};
    return Profile(cmsCreateRGBProfile(&white, &primaries, curves));
}

void transform(const Transform& t, const cv::Mat& from, cv::Mat& to)
{
    tbb::parallel_for(tbb::blocked_range(0, from.rows, 64), [&](const tbb::blocked_range<int>& rows) {
        cmsDoTransformLineStride(t.get(), from.ptr(rows.begin()), to.ptr(rows.begin()), cmsUInt32Number(from.cols),
                                 cmsUInt32Number(rows.size()), cmsUInt32Number(from.step), cmsUInt32Number(to.step), 0,
                                 0);
    });
}

/// Colours all over the cube, and what becomes of them: mostly it is sRGB that is embedded. eight: of B G R, 8 bit.
bool changes_nothing(const Transform& eight)
{
    constexpr int steps = 6;
    cv::Mat colours(1, steps * steps * steps, CV_8UC3);
    for (int i = 0; i < colours.cols; ++i)
        colours.at<cv::Vec3b>(0, i) = {std::uint8_t(i % steps * 51), std::uint8_t(i / steps % steps * 51),
                                       std::uint8_t(i / steps / steps * 51)};
    cv::Mat there(colours.size(), colours.type());
    transform(eight, colours, there);
    return cv::norm(colours, there, cv::NORM_INF) <= 1;
}

/// One channel: the pixels of a grey photo have it three times. Whether the profile could be used.
bool grey_into_srgb(cv::Mat& pixels, const Profile& profile)
{
    const bool deep = pixels.depth() == CV_16U;
    const Transform t = transform_to_srgb(profile, deep ? TYPE_GRAY_16 : TYPE_GRAY_8, deep ? TYPE_BGR_16 : TYPE_BGR_8);
    if (!t)
        return false;
    cv::Mat grey, colour(pixels.size(), CV_MAKETYPE(pixels.depth(), 3));
    cv::extractChannel(pixels, grey, 0);
    transform(t, grey, colour);
    const int pairs[] = {0, 0, 1, 1, 2, 2};
    cv::mixChannels(&colour, 1, &pixels, 1, pairs, 3);
    return true;
}

/// 16 bits of any gamut, as floats in linear light: colours beyond sRGB are below 0 or above 1.
bool rgb_into_light(cv::Mat& pixels, const Profile& profile)
{
    const bool alpha = pixels.channels() == 4;
    const cmsUInt32Number type = alpha ? TYPE_BGRA_FLT : TYPE_BGR_FLT;
    const Profile light = linear_light();
    const Transform t(cmsCreateTransform(profile.get(), type, light.get(), type, INTENT_RELATIVE_COLORIMETRIC,
                                         cmsFLAGS_NOCACHE | cmsFLAGS_COPY_ALPHA | cmsFLAGS_NOOPTIMIZE));
    if (!t)
        return false;
    cv::Mat floats;
    pixels.convertTo(floats, CV_32F, 1.0 / 65'535);
    transform(t, floats, floats);
    pixels = floats;
    return true;
}

bool rgb_into_srgb(cv::Mat& pixels, const Profile& profile, Numbers numbers)
{
    const Transform eight = transform_to_srgb(profile, TYPE_BGR_8, TYPE_BGR_8);
    if (!eight || changes_nothing(eight))
        return bool(eight);
    const bool deep = pixels.depth() == CV_16U, alpha = pixels.channels() == 4;
    if (deep && numbers == Numbers::wide)
        return rgb_into_light(pixels, profile);
    if (!deep && !alpha) {
        transform(eight, pixels, pixels);
        return true;
    }
    const cmsUInt32Number type = deep ? (alpha ? TYPE_BGRA_16 : TYPE_BGR_16) : TYPE_BGRA_8;
    const Transform other = transform_to_srgb(profile, type, type);
    if (other)
        transform(other, pixels, pixels);
    return bool(other);
}

}

std::string profile_problem(const SourceColours& colours)
{
    if (colours.icc.empty())
        return {};
    const Profile profile = profile_of(colours);
    if (!profile)
        return " has a colour profile that cannot be read; its colours are taken for sRGB.";
    if (is_cmyk(profile)) // inks are turned into light where they are decoded
        return cmyk_transform(profile, TYPE_CMYK_8, TYPE_BGR_8)
                   ? ""
                   : " has a colour profile that is damaged; its colours are taken for sRGB.";
    if (!is_rgb(profile) && !is_grey(profile))
        return " has a colour profile for other colours than red, green and blue; it is not used.";
    if (!transform_to_srgb(profile, is_grey(profile) ? TYPE_GRAY_8 : TYPE_BGR_8, TYPE_BGR_8))
        return " has a colour profile that is damaged; its colours are taken for sRGB.";
    return {};
}

std::string into_srgb(cv::Mat& pixels, const SourceColours& colours, Numbers numbers)
{
    if (colours == SourceColours() || pixels.empty() || pixels.depth() == CV_32F)
        return {};
    const Profile profile = profile_of(colours);
    const bool used = profile && (is_grey(profile) ? grey_into_srgb(pixels, profile)
                                                   : is_rgb(profile) && rgb_into_srgb(pixels, profile, numbers));
    return used ? std::string() : profile_problem(colours);
}

cv::Mat cmyk_into_srgb(const cv::Mat& cmyk, const SourceColours& colours)
{
    const bool deep = cmyk.depth() == CV_16U;
    cv::Mat bgr(cmyk.size(), deep ? CV_16UC3 : CV_8UC3);
    if (const Profile profile = profile_of(colours); profile && is_cmyk(profile))
        if (const Transform t =
                cmyk_transform(profile, deep ? TYPE_CMYK_16 : TYPE_CMYK_8, deep ? TYPE_BGR_16 : TYPE_BGR_8)) {
            transform(t, cmyk, bgr);
            return bgr;
        }
    std::array<cv::Mat, 4> ink;
    cv::split(cmyk, ink.data());
    const double most = deep ? 65'535 : 255;
    std::array<cv::Mat, 3> light;
    for (std::size_t c = 0; c < 3; ++c) // blue is what yellow leaves, and so on
        cv::multiply(most - ink[2 - c], most - ink[3], light[c], 1 / most);
    cv::merge(light.data(), light.size(), bgr);
    return bgr;
}

namespace {

std::string bytes_of(cmsHPROFILE profile)
{
    std::string icc;
    cmsUInt32Number size = 0;
    if (profile && cmsSaveProfileToMem(profile, nullptr, &size)) {
        icc.resize(size);
        if (!cmsSaveProfileToMem(profile, icc.data(), &size))
            icc.clear();
    }
    // The same photos give the same files, byte by byte: the day a profile was made (ICC.1, 7.2.8) is always this one.
    constexpr std::string_view day("\x07\xEA\0\x01\0\x01\0\0\0\0\0\0", 12); // 1 January 2026, 0:00:00
    constexpr std::size_t at = 24;
    if (icc.size() > at + day.size())
        icc.replace(at, day.size(), day);
    return icc;
}

}

std::string srgb_icc()
{
    return bytes_of(Profile(cmsCreate_sRGBProfile()).get());
}

std::string icc_of_primaries(const std::array<float, 6>& xy)
{
    const cmsCIExyY white{0.3127, 0.3290, 1};
    const cmsCIExyYTRIPLE primaries{{xy[0], xy[1], 1}, {xy[2], xy[3], 1}, {xy[4], xy[5], 1}};
    const std::array<double, 5> curve{2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045}; // IEC 61966-2-1
    cmsToneCurve* const one = cmsBuildParametricToneCurve(nullptr, 4, curve.data());
    std::array<cmsToneCurve*, 3> curves{one, one, one};
    const Profile profile(cmsCreateRGBProfile(&white, &primaries, curves.data()));
    cmsFreeToneCurve(one);
    return bytes_of(profile.get());
}

}
