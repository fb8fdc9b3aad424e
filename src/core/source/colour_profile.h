#pragma once
#include <opencv2/core/mat.hpp>

#include <array>
#include <filesystem>
#include <string>
#include <string_view>

namespace frenlo {

/// What the numbers of a photo's pixels stand for, as its file says. Nothing said: sRGB.
struct SourceColours
{
    std::string icc;        ///< an embedded profile (ICC.1), any version that lcms2 reads; empty where there is none
    bool adobe_rgb = false; ///< without one: Exif 2.32 interoperability index R03, as cameras say Adobe RGB (DCF 2.0)
    bool operator==(const SourceColours&) const = default;
};

enum class Numbers
{
    encoded, ///< 8 or 16 bit
    wide     ///< or floats, where the photo has more
};

/// A profile with these primaries (x and y of red, green, blue), the white of D65 and sRGB's curve (ICC.1).
std::string icc_of_primaries(const std::array<float, 6>& xy);

/// Of a file in memory. Looks at its header only; what cannot be read says nothing.
SourceColours colours_in(std::string_view bytes);

/// Pixels (B G R or B G R A, 8 or 16 bit) into sRGB, in place, relative colorimetric; alpha stays, and so do floats.
/// Pixels that are in sRGB already, to a code value of eight bits, are not touched. Where they may be wide, 16 bits of
/// another gamut become floats as decode.h says, so that nothing is clipped. Returns what is wrong with the profile,
/// empty where all is well; the pixels are left as they are then.
std::string into_srgb(cv::Mat& pixels, const SourceColours& colours, Numbers numbers = Numbers::encoded);

/// Cyan, magenta, yellow and black, 8 or 16 bit, the largest value being full ink, to B G R in sRGB of the same depth:
/// by the profile where it is one for such inks, else as if each ink took away its light (common practice, no source).
cv::Mat cmyk_into_srgb(const cv::Mat& cmyk, const SourceColours& colours);

/// The profile of what is written: sRGB (ICC.1).
std::string srgb_icc();

/// What is wrong with a profile, to follow the photo's name: " has a colour profile that …"; empty where nothing is.
std::string profile_problem(const SourceColours& colours);

}
