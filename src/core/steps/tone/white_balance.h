#pragma once
#include <opencv2/core/matx.hpp>

#include <optional>

namespace frenlo {

/// Chromaticity, CIE 1960 u and v: colour temperatures are counted there.
using Uv = cv::Vec2d;

/// The colour of light of this temperature, 2,000 to 25,000 kelvin: the daylight locus of CIE 15:2004 from 4,000 K on,
/// below that the Planckian locus (Krystek 1985) with a smooth passage between 2,856 and 4,000 K; all moved by less
/// than 0.0001 so that 6,504 K is sRGB's white to the last digit.
Uv white_of(double kelvin);

/// A light that looks white: where it lies along that line, and how far across it.
struct WhitePoint
{
    double kelvin;
    double green_magenta = 0; ///< percent: 100 is 0.03 beyond the line on its green side, which is to look white then
};
Uv chromaticity(const WhitePoint& white);
/// The white point of this colour; no farther than the settings reach. None where it has no colour to speak of.
/// linear_bgr: BT.709 primaries.
std::optional<WhitePoint> white_point(const cv::Vec3d& linear_bgr);

/// Of linear B G R as a camera balanced for daylight saw it to what it is where this light is white: the identity for
/// 6,504 K. Each colour becomes the one that a surface with such a colour under that light most likely has under
/// daylight, if reflectances are smooth over the spectrum: linear least mean square error (Pratt, Mancill 1976) with a
/// correlation (Matérn, 3/2) over 180 nm, and grey staying grey. Colour matching: CIE 1931; light:
/// Planck. The little that the light lies beside Planck's is done by the Bradford transform (Lam 1985).
cv::Matx33d white_balance(const WhitePoint& white);

}
