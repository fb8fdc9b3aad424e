#pragma once
// Colour as the standards write it, apart from how the project does it.
#include <opencv2/core/matx.hpp>

#include <array>
#include <functional>
#include <vector>

namespace frenlo::test {

/// CIEDE2000, Sharma, Wu, Dalal 2005; L* a* b*.
double ciede2000(const cv::Vec3d& lab1, const cv::Vec3d& lab2);

/// CIE 1976, of X Y Z.
cv::Vec3d lab_of(const cv::Vec3d& xyz, const cv::Vec3d& white);

/// Linear R G B (BT.709) to X Y Z and back, IEC 61966-2-1, worked out from its primaries and its white.
cv::Vec3d xyz_of_rgb(const cv::Vec3d& rgb);
cv::Vec3d rgb_of_xyz(const cv::Vec3d& xyz);

/// Spectra from 380 to 730 nm by 10.
using Spectrum36 = std::array<double, 36>;
/// CIE 15:2004, table T.1 (D65) and the sums of table T.2 for other daylight; CIE illuminant A. Values from memory,
/// checked against the chromaticities that the same publication gives.
Spectrum36 illuminant_d65();
Spectrum36 daylight_of(double kelvin);
Spectrum36 illuminant_a();
/// X Y Z of a surface under a light, by the CIE 1931 colour matching functions; white has Y = 1.
cv::Vec3d seen_under(const Spectrum36& reflectance, const Spectrum36& light);

/// Smooth reflectances: edges and bumps of all kinds.
std::vector<Spectrum36> surfaces(int count, std::uint64_t seed);

}
