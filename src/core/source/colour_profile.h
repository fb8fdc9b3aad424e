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

/// A profile with these primaries (x and y of red, green, blue), the white of D65 and sRGB's curve (ICC.1).
std::string icc_of_primaries(const std::array<float, 6>& xy);

/// Of a file in memory. Looks at its header only; what cannot be read says nothing.
SourceColours colours_in(std::string_view bytes);

/// Pixels (B G R or B G R A, 8 or 16 bit) into sRGB, in place, relative colorimetric; alpha stays, and so do floats.
/// Pixels that are in sRGB already, to a code value of eight bits, are not touched. Returns what is wrong with the
/// profile, empty where all is well; the pixels are left as they are then.
std::string into_srgb(cv::Mat& pixels, const SourceColours& colours);

/// What is wrong with a profile, to follow the photo's name: " has a colour profile that …"; empty where nothing is.
std::string profile_problem(const SourceColours& colours);

}
