#include "core/steps/tone/white_balance.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo {

namespace {

constexpr double daylight = 6504;
constexpr double least_kelvin = 2000, most_kelvin = 25'000;
constexpr double green_reach = 0.03; ///< of u and v

/// IEC 61966-2-1: linear R G B to X Y Z.
const cv::Matx33d to_xyz(0.4124, 0.3576, 0.1805, 0.2126, 0.7152, 0.0722, 0.0193, 0.1192, 0.9505);

Uv uv_of_xy(double x, double y)
{
    const double d = -2 * x + 12 * y + 3;
    return {4 * x / d, 6 * y / d};
}

Uv uv_of(const cv::Vec3d& xyz)
{
    const double d = xyz[0] + 15 * xyz[1] + 3 * xyz[2];
    return {4 * xyz[0] / d, 6 * xyz[1] / d};
}

cv::Vec3d xyz_of(const Uv& uv)
{
    const double d = 2 * uv[0] - 8 * uv[1] + 4;
    const double x = 3 * uv[0] / d, y = 2 * uv[1] / d;
    return {x / y, 1, (1 - x - y) / y};
}

/// CIE 15:2004, 3.1.
Uv daylight_locus(double t)
{
    const double x = t <= 7000 ? -4.6070e9 / (t * t * t) + 2.9678e6 / (t * t) + 0.09911e3 / t + 0.244063
                               : -2.0064e9 / (t * t * t) + 1.9018e6 / (t * t) + 0.24748e3 / t + 0.237040;
    return uv_of_xy(x, -3.000 * x * x + 2.870 * x - 0.275);
}

/// Krystek: An algorithm to calculate correlated colour temperature, Color Res. Appl. 10 (1985).
Uv planckian_locus(double t)
{
    return {(0.860117757 + 1.54118254e-4 * t + 1.28641212e-7 * t * t) / (1 + 8.42420235e-4 * t + 7.08145163e-7 * t * t),
            (0.317398726 + 4.22806245e-5 * t + 4.20481691e-8 * t * t) /
                (1 - 2.89741816e-5 * t + 1.61456053e-7 * t * t)};
}

/// Of unit length, across the line to its green side.
Uv across(double kelvin)
{
    const Uv along = white_of(kelvin * 1.001) - white_of(kelvin * 0.999);
    const Uv left(along[1], -along[0]);
    return left * (1 / cv::norm(left)) * (left[1] > 0 ? 1.0 : -1.0);
}

constexpr int samples = 36;
constexpr double step_nm = 10;
double wavelength(int i)
{
    return 380 + step_nm * i;
}

using Spectrum = std::array<double, samples>;

/// The CIE 1931 colour matching functions, CIE 15:2004.
constexpr Spectrum x_bar{0.001368, 0.004243, 0.014310, 0.043510, 0.134380, 0.283900, 0.348280, 0.336200, 0.290800,
                         0.195360, 0.095640, 0.032010, 0.004900, 0.009300, 0.063270, 0.165500, 0.290400, 0.433450,
                         0.594500, 0.762100, 0.916300, 1.026300, 1.062200, 1.002600, 0.854450, 0.642400, 0.447900,
                         0.283500, 0.164900, 0.087400, 0.046770, 0.022700, 0.011359, 0.005790, 0.002899, 0.001440};
constexpr Spectrum y_bar{0.000039, 0.000120, 0.000396, 0.001210, 0.004000, 0.011600, 0.023000, 0.038000, 0.060000,
                         0.090980, 0.139020, 0.208020, 0.323000, 0.503000, 0.710000, 0.862000, 0.954000, 0.994950,
                         0.995000, 0.952000, 0.870000, 0.757000, 0.631000, 0.503000, 0.381000, 0.265000, 0.175000,
                         0.107000, 0.061000, 0.032000, 0.017000, 0.008210, 0.004102, 0.002091, 0.001047, 0.000520};
constexpr Spectrum z_bar{0.006450, 0.020050, 0.067850, 0.207400, 0.645600, 1.385600, 1.747060, 1.772110, 1.669200,
                         1.287640, 0.812950, 0.465180, 0.272000, 0.158200, 0.078250, 0.042160, 0.020300, 0.008750,
                         0.003900, 0.002100, 0.001650, 0.001100, 0.000800, 0.000340, 0.000190, 0.000050, 0.000020,
                         0,        0,        0,        0,        0,        0,        0,        0,        0};

/// Relative, of a black body.
Spectrum planck(double kelvin)
{
    Spectrum s{};
    for (int i = 0; i < samples; ++i) {
        const double metres = wavelength(i) * 1e-9;
        s[std::size_t(i)] = std::pow(wavelength(i) / 560, -5) / (std::exp(1.4388e-2 / (metres * kelvin)) - 1);
    }
    return s;
}

/// What a reflectance gives in X Y Z under this light; a white one has Y = 1.
using Seen = std::array<cv::Vec3d, samples>;
Seen seen_under(double kelvin)
{
    const Spectrum light = planck(kelvin);
    Seen seen{};
    double all = 0;
    for (std::size_t i = 0; i < samples; ++i) {
        seen[i] = cv::Vec3d(x_bar[i], y_bar[i], z_bar[i]) * light[i];
        all += seen[i][1];
    }
    for (cv::Vec3d& s : seen)
        s *= 1 / all;
    return seen;
}

cv::Vec3d white_under(const Seen& seen)
{
    cv::Vec3d sum;
    for (const cv::Vec3d& s : seen)
        sum += s;
    return sum;
}

/// Sum of a(i) K(i, j) b(j)^T, K the covariance of reflectances: smooth, and grey by far the most certain.
cv::Matx33d covariance(const Seen& a, const Seen& b)
{
    constexpr double correlated_nm = 180, grey = 1e4;
    static const Spectrum by_distance = [] {
        Spectrum k{};
        for (int i = 0; i < samples; ++i) {
            const double d = std::sqrt(3.0) * step_nm * i / correlated_nm;
            k[std::size_t(i)] = (1 + d) * std::exp(-d) + grey;
        }
        return k;
    }();
    cv::Matx33d sum = cv::Matx33d::zeros();
    for (std::size_t i = 0; i < samples; ++i) {
        cv::Vec3d row;
        for (std::size_t j = 0; j < samples; ++j)
            row += b[j] * by_distance[i > j ? i - j : j - i];
        sum += a[i] * row.t();
    }
    return sum;
}

/// K. M. Lam 1985, as in CIE 159 and ICC.1: one white to another.
cv::Matx33d bradford(const cv::Vec3d& from, const cv::Vec3d& to)
{
    const cv::Matx33d m(0.8951, 0.2664, -0.1614, -0.7502, 1.7135, 0.0367, 0.0389, -0.0685, 1.0296);
    const cv::Vec3d a = m * from, b = m * to;
    return m.inv() * cv::Matx33d::diag({b[0] / a[0], b[1] / a[1], b[2] / a[2]}) * m;
}

}

Uv white_of(double kelvin)
{
    static const Uv to_srgb = uv_of(to_xyz * cv::Vec3d(1, 1, 1)) - daylight_locus(daylight);
    constexpr double tungsten = 2856, day = 4000;
    if (kelvin >= day)
        return daylight_locus(kelvin) + to_srgb;
    const double t = std::clamp((kelvin - tungsten) / (day - tungsten), 0.0, 1.0), share = t * t * (3 - 2 * t);
    // The formula of daylight goes on below 4,000 K, where no daylight is, and fades out there.
    return planckian_locus(kelvin) + (daylight_locus(kelvin) - planckian_locus(kelvin)) * share + to_srgb;
}

Uv chromaticity(const WhitePoint& white)
{
    return white_of(white.kelvin) + across(white.kelvin) * (green_reach * white.green_magenta / 100);
}

std::optional<WhitePoint> white_point(const cv::Vec3d& linear_bgr)
{
    const cv::Vec3d xyz = to_xyz * cv::Vec3d(linear_bgr[2], linear_bgr[1], linear_bgr[0]);
    if (!(xyz[1] > 1e-6) || !(xyz[0] + 15 * xyz[1] + 3 * xyz[2] > 0))
        return std::nullopt;
    const Uv uv = uv_of(xyz);
    // Even steps of reciprocal temperature are about even steps of colour: the nearest, then halved in.
    constexpr double first = 1e6 / most_kelvin, last = 1e6 / least_kelvin;
    constexpr int steps = 64, halvings = 27;
    double best = 1e6 / daylight, step = (last - first) / steps, nearest = 1e9;
    const auto try_at = [&](double mired) {
        if (const double d = cv::norm(uv - white_of(1e6 / mired)); mired >= first && mired <= last && d < nearest) {
            nearest = d;
            best = mired;
        }
    };
    for (int i = 0; i <= steps; ++i)
        try_at(first + i * step);
    for (int i = 0; i < halvings; ++i, step /= 2) {
        const double middle = best;
        try_at(middle - step);
        try_at(middle + step);
    }
    const double kelvin = 1e6 / best;
    const double green = (uv - white_of(kelvin)).dot(across(kelvin)) / green_reach * 100;
    return WhitePoint{kelvin, std::clamp(green, -100.0, 100.0)};
}

cv::Matx33d white_balance(const WhitePoint& white)
{
    const Seen there = seen_under(white.kelvin), by_day = seen_under(daylight);
    const cv::Matx33d estimate = covariance(by_day, there) * covariance(there, there).inv();
    const cv::Matx33d xyz = bradford(white_under(by_day), xyz_of(white_of(daylight))) * estimate *
                            bradford(xyz_of(chromaticity(white)), white_under(there));
    const cv::Matx33d rgb = to_xyz.inv() * xyz * to_xyz;
    const cv::Matx33d swap(0, 0, 1, 0, 1, 0, 1, 0, 0);
    return swap * rgb * swap;
}

}
