#include "tests/support/colour.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <cmath>

namespace frenlo::test {

namespace {

constexpr double degrees = CV_PI / 180;

double nm(std::size_t i)
{
    return 380 + 10.0 * double(i);
}

// CIE 1931, from memory, 380 to 730 nm.
constexpr Spectrum36 x_bar{0.001368, 0.004243, 0.014310, 0.043510, 0.134380, 0.283900, 0.348280, 0.336200, 0.290800,
                           0.195360, 0.095640, 0.032010, 0.004900, 0.009300, 0.063270, 0.165500, 0.290400, 0.433450,
                           0.594500, 0.762100, 0.916300, 1.026300, 1.062200, 1.002600, 0.854450, 0.642400, 0.447900,
                           0.283500, 0.164900, 0.087400, 0.046770, 0.022700, 0.011359, 0.005790, 0.002899, 0.001440};
constexpr Spectrum36 y_bar{0.000039, 0.000120, 0.000396, 0.001210, 0.004000, 0.011600, 0.023000, 0.038000, 0.060000,
                           0.090980, 0.139020, 0.208020, 0.323000, 0.503000, 0.710000, 0.862000, 0.954000, 0.994950,
                           0.995000, 0.952000, 0.870000, 0.757000, 0.631000, 0.503000, 0.381000, 0.265000, 0.175000,
                           0.107000, 0.061000, 0.032000, 0.017000, 0.008210, 0.004102, 0.002091, 0.001047, 0.000520};
constexpr Spectrum36 z_bar{0.006450, 0.020050, 0.067850, 0.207400, 0.645600, 1.385600, 1.747060, 1.772110, 1.669200,
                           1.287640, 0.812950, 0.465180, 0.272000, 0.158200, 0.078250, 0.042160, 0.020300, 0.008750,
                           0.003900, 0.002100, 0.001650, 0.001100, 0.000800, 0.000340, 0.000190, 0.000050, 0.000020,
                           0,        0,        0,        0,        0,        0,        0,        0,        0};

}

double ciede2000(const cv::Vec3d& lab1, const cv::Vec3d& lab2)
{
    const double c1 = std::hypot(lab1[1], lab1[2]), c2 = std::hypot(lab2[1], lab2[2]), mean = (c1 + c2) / 2;
    const double seventh = std::pow(mean, 7), g = 0.5 * (1 - std::sqrt(seventh / (seventh + std::pow(25.0, 7))));
    const double a1 = (1 + g) * lab1[1], a2 = (1 + g) * lab2[1];
    const double p1 = std::hypot(a1, lab1[2]), p2 = std::hypot(a2, lab2[2]);
    const auto hue = [](double a, double b) {
        const double h = a == 0 && b == 0 ? 0 : std::atan2(b, a) / degrees;
        return h < 0 ? h + 360 : h;
    };
    const double h1 = hue(a1, lab1[2]), h2 = hue(a2, lab2[2]);
    double dh = h2 - h1;
    if (p1 * p2 == 0)
        dh = 0;
    else if (dh > 180)
        dh -= 360;
    else if (dh < -180)
        dh += 360;
    const double big_dh = 2 * std::sqrt(p1 * p2) * std::sin(dh / 2 * degrees);
    const double l = (lab1[0] + lab2[0]) / 2, c = (p1 + p2) / 2;
    double h = h1 + h2;
    if (p1 * p2 != 0)
        h = std::abs(h1 - h2) <= 180 ? h / 2 : h < 360 ? (h + 360) / 2 : (h - 360) / 2;
    const double t = 1 - 0.17 * std::cos((h - 30) * degrees) + 0.24 * std::cos(2 * h * degrees) +
                     0.32 * std::cos((3 * h + 6) * degrees) - 0.20 * std::cos((4 * h - 63) * degrees);
    const double turn = 30 * std::exp(-std::pow((h - 275) / 25, 2)), c7 = std::pow(c, 7);
    const double rc = 2 * std::sqrt(c7 / (c7 + std::pow(25.0, 7)));
    const double sl = 1 + 0.015 * std::pow(l - 50, 2) / std::sqrt(20 + std::pow(l - 50, 2)), sc = 1 + 0.045 * c,
                 sh = 1 + 0.015 * c * t, rt = -std::sin(2 * turn * degrees) * rc;
    const double dl = (lab2[0] - lab1[0]) / sl, dc = (p2 - p1) / sc, dhh = big_dh / sh;
    return std::sqrt(dl * dl + dc * dc + dhh * dhh + rt * dc * dhh);
}

cv::Vec3d lab_of(const cv::Vec3d& xyz, const cv::Vec3d& white)
{
    const auto f = [](double t) {
        return t > 216.0 / 24389 ? std::cbrt(t) : (24389.0 / 27 * t + 16) / 116; // CIE 15:2004
    };
    const double x = f(xyz[0] / white[0]), y = f(xyz[1] / white[1]), z = f(xyz[2] / white[2]);
    return {116 * y - 16, 500 * (x - y), 200 * (y - z)};
}

namespace {
cv::Matx33d rgb_to_xyz()
{
    const cv::Matx33d primaries(0.64, 0.30, 0.15, 0.33, 0.60, 0.06, 0.03, 0.10, 0.79);
    const cv::Vec3d white(0.3127 / 0.3290, 1, (1 - 0.3127 - 0.3290) / 0.3290);
    return primaries * cv::Matx33d::diag(primaries.inv() * white);
}
}

cv::Vec3d xyz_of_rgb(const cv::Vec3d& rgb)
{
    return rgb_to_xyz() * rgb;
}

cv::Vec3d rgb_of_xyz(const cv::Vec3d& xyz)
{
    return rgb_to_xyz().inv() * xyz;
}

Spectrum36 illuminant_d65()
{
    return {49.9755, 54.6482, 82.7549, 91.4860, 93.4318, 86.6823, 104.865, 117.008, 117.812, 114.861, 115.923, 108.811,
            109.354, 107.802, 104.790, 107.689, 104.405, 104.046, 100.000, 96.3342, 95.7880, 88.6856, 90.0062, 89.5991,
            87.6987, 83.2886, 83.6992, 80.0268, 80.2146, 82.2778, 78.2842, 69.7213, 71.6091, 74.3490, 61.6040, 69.8856};
}

Spectrum36 daylight_of(double t)
{
    constexpr Spectrum36 s0{63.4,  65.8,  94.8,  104.8, 105.9, 96.8,  113.9, 125.6, 125.5, 121.3, 121.3, 113.5,
                            113.1, 110.8, 106.5, 108.8, 105.3, 104.4, 100.0, 96.0,  95.1,  89.1,  90.5,  90.3,
                            88.4,  84.0,  85.1,  81.9,  82.6,  84.9,  81.3,  71.9,  74.3,  76.4,  63.3,  71.7};
    constexpr Spectrum36 s1{38.5, 35.0, 43.4,  46.3,  43.9,  37.1,  36.7,  35.9,  32.6,  27.9,  24.3,  20.1,
                            16.2, 13.2, 8.6,   6.1,   4.2,   1.9,   0.0,   -1.6,  -3.5,  -3.5,  -5.8,  -7.2,
                            -8.6, -9.5, -10.9, -10.7, -12.0, -14.0, -13.6, -12.0, -13.3, -12.9, -10.6, -11.6};
    constexpr Spectrum36 s2{3.0,  1.2,  -1.1, -0.5, -0.7, -1.2, -2.6, -2.9, -2.8, -2.6, -2.6, -1.8,
                            -1.5, -1.3, -1.2, -1.0, -0.5, -0.3, 0.0,  0.2,  0.5,  2.1,  3.2,  4.1,
                            4.7,  5.1,  6.7,  7.3,  8.6,  9.8,  10.2, 8.3,  9.6,  8.5,  7.0,  7.6};
    const double x = t <= 7000 ? -4.6070e9 / (t * t * t) + 2.9678e6 / (t * t) + 0.09911e3 / t + 0.244063
                               : -2.0064e9 / (t * t * t) + 1.9018e6 / (t * t) + 0.24748e3 / t + 0.237040;
    const double y = -3 * x * x + 2.870 * x - 0.275, m = 0.0241 + 0.2562 * x - 0.7341 * y;
    const double m1 = (-1.3515 - 1.7703 * x + 5.9114 * y) / m, m2 = (0.0300 - 31.4424 * x + 30.0717 * y) / m;
    Spectrum36 s{};
    for (std::size_t i = 0; i < s.size(); ++i)
        s[i] = s0[i] + m1 * s1[i] + m2 * s2[i];
    return s;
}

Spectrum36 illuminant_a()
{
    Spectrum36 s{};
    for (std::size_t i = 0; i < s.size(); ++i)
        s[i] = 100 * std::pow(560 / nm(i), 5) * (std::exp(1.435e7 / (2848 * 560)) - 1) /
               (std::exp(1.435e7 / (2848 * nm(i))) - 1);
    return s;
}

cv::Vec3d seen_under(const Spectrum36& reflectance, const Spectrum36& light)
{
    cv::Vec3d xyz;
    double white = 0;
    for (std::size_t i = 0; i < light.size(); ++i) {
        xyz += cv::Vec3d(x_bar[i], y_bar[i], z_bar[i]) * (light[i] * reflectance[i]);
        white += y_bar[i] * light[i];
    }
    return xyz / white;
}

std::vector<Spectrum36> surfaces(int count, std::uint64_t seed)
{
    cv::RNG rng(seed);
    std::vector<Spectrum36> all;
    for (int n = 0; n < count; ++n) {
        const double base = rng.uniform(0.03, 0.25), high = rng.uniform(0.15, 0.6);
        const double at = rng.uniform(430.0, 650.0), wide = rng.uniform(14.0, 60.0);
        const double second = rng.uniform(580.0, 630.0);
        const int kind = n % 4;
        Spectrum36 s{};
        for (std::size_t i = 0; i < s.size(); ++i) {
            const double d = (nm(i) - at) / wide, step = 1 / (1 + std::exp(-d)),
                         other = 1 / (1 + std::exp(-(nm(i) - second) / 20));
            const double shape = kind == 0   ? step
                                 : kind == 1 ? 1 - step
                                 : kind == 2 ? std::exp(-0.5 * d * d)
                                             : std::max(other, 1 - step);
            s[i] = std::clamp(base + high * shape, 0.01, 0.95);
        }
        all.push_back(s);
    }
    return all;
}

}
