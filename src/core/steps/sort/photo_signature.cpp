#include "core/steps/sort/photo_signature.h"

#include "core/source/sharpness.h"
#include "core/source/transfer.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo {

namespace {

constexpr int width = 48, height = 32, most_shift = 3;
constexpr int light_bins = 6, colour_bins = 10;
constexpr double all_colours = 65535;
constexpr double noise = 2.0; ///< of 255: contrast below this is no structure

double mean_stops(const cv::Mat& small)
{
    static const auto linear = [] {
        std::array<double, 256> table{};
        for (std::size_t i = 0; i < table.size(); ++i)
            table[i] = linear_of(double(i) / 255.0);
        return table;
    }();
    double sum = 0;
    for (const auto& p : cv::Mat_<cv::Vec3b>(small)) // Rec. ITU-R BT.709-6 weights of linear light
        sum += 0.2126 * linear[p[2]] + 0.7152 * linear[p[1]] + 0.0722 * linear[p[0]];
    return std::log2(std::max(sum / double(small.total()), 1e-4));
}

cv::Mat histogram(const cv::Mat& lab)
{
    const int sizes[] = {light_bins, colour_bins, colour_bins};
    const float range[] = {0, 256}, chroma[] = {64, 192};
    const float* ranges[] = {range, chroma, chroma};
    const int channels[] = {0, 1, 2};
    cv::Mat h;
    cv::calcHist(&lab, 1, channels, {}, h, 3, sizes, ranges);
    // Smoothed over its neighbours, so that colours at the edge of a bin do not jump.
    cv::Mat smooth(3, sizes, CV_32F, cv::Scalar(0));
    for (int l = 0; l < light_bins; ++l)
        for (int a = 0; a < colour_bins; ++a)
            for (int b = 0; b < colour_bins; ++b)
                for (int d = 0; d < 27; ++d) {
                    const int at[] = {l + d / 9 - 1, a + d / 3 % 3 - 1, b + d % 3 - 1};
                    if (at[0] < 0 || at[1] < 0 || at[2] < 0 || at[0] >= light_bins || at[1] >= colour_bins ||
                        at[2] >= colour_bins)
                        continue;
                    const float weight =
                        (d / 9 == 1 ? 2.0F : 1.0F) * (d / 3 % 3 == 1 ? 2.0F : 1.0F) * (d % 3 == 1 ? 2.0F : 1.0F);
                    smooth.at<float>(at) += weight * h.at<float>(l, a, b);
                }
    cv::Mat shares;
    smooth.convertTo(shares, CV_16U, all_colours / std::max(1e-9, cv::sum(smooth)[0]));
    return shares;
}

/// The share of pixels near the most frequent colour, in 8-bit Lab.
double filled_share(const cv::Mat& lab, const cv::Mat& colours)
{
    int at[3] = {0, 0, 0};
    double most = 0;
    cv::minMaxIdx(colours, nullptr, &most, nullptr, at);
    const cv::Vec3d centre((at[0] + 0.5) * 256 / light_bins, 64 + (at[1] + 0.5) * 128 / colour_bins,
                           64 + (at[2] + 0.5) * 128 / colour_bins);
    constexpr double light_reach = 55, colour_reach = 16;
    int near = 0;
    for (const auto& p : cv::Mat_<cv::Vec3b>(lab))
        near +=
            std::abs(p[0] - centre[0]) < light_reach && std::hypot(p[1] - centre[1], p[2] - centre[2]) < colour_reach;
    return double(near) / double(lab.total());
}

/// Correlation of two equally large parts. Noise is counted as if independent, so that plain areas do not correlate.
double correlation(const cv::Mat& a, const cv::Mat& b)
{
    int ab = 0, aa = 0, bb = 0, sum_a = 0, sum_b = 0;
    for (int y = 0; y < a.rows; ++y) {
        const auto* p = a.ptr<std::int8_t>(y);
        const auto* q = b.ptr<std::int8_t>(y);
        for (int x = 0; x < a.cols; ++x) {
            sum_a += p[x];
            sum_b += q[x];
            ab += p[x] * q[x];
            aa += p[x] * p[x];
            bb += q[x] * q[x];
        }
    }
    const double n = double(a.total()), mean_a = sum_a / n, mean_b = sum_b / n;
    const double cov = ab / n - mean_a * mean_b;
    const double var_a = aa / n - mean_a * mean_a, var_b = bb / n - mean_b * mean_b;
    return cov / std::sqrt((var_a + noise * noise) * (var_b + noise * noise));
}

}

PhotoSignature signature_of(const cv::Mat& pixels)
{
    cv::Mat small;
    const cv::Mat plain = bgr8(pixels);
    cv::resize(plain, small, {width, height}, 0, 0, cv::INTER_AREA);
    PhotoSignature look;
    look.scene = scene_view_of(plain);
    look.stops = mean_stops(small);
    cv::Mat grey, slow, lab;
    cv::cvtColor(small, grey, cv::COLOR_BGR2GRAY);
    grey.convertTo(grey, CV_32F);
    cv::GaussianBlur(grey, grey, {}, 0.8);
    cv::GaussianBlur(grey, slow, {}, 6);
    const cv::Mat local = grey - slow;
    look.contrast = std::sqrt(local.dot(local) / double(local.total()));
    local.convertTo(look.structure, CV_8S);
    cv::cvtColor(small, lab, cv::COLOR_BGR2Lab);
    cv::max(lab, cv::Scalar(0, 64, 64), lab); // what photos hold lies well within; a gaudy cloth counts as the edge
    cv::min(lab, cv::Scalar(255, 191, 191), lab);
    look.colours = histogram(lab);
    look.filled = filled_share(lab, look.colours);
    return look;
}

double same_structure(const PhotoSignature& a, const PhotoSignature& b)
{
    double best = correlation(a.structure, b.structure);
    if (best > 0.8)
        return best;
    for (int dy = -most_shift; dy <= most_shift; ++dy)
        for (int dx = -most_shift; dx <= most_shift; ++dx) {
            const cv::Rect in_a({std::max(0, dx), std::max(0, dy)},
                                cv::Size(width - std::abs(dx), height - std::abs(dy)));
            const cv::Rect in_b({std::max(0, -dx), std::max(0, -dy)}, in_a.size());
            best = std::max(best, correlation(a.structure(in_a), b.structure(in_b)));
        }
    return best;
}

double same_colours(const PhotoSignature& a, const PhotoSignature& b)
{
    double shared = 0;
    const auto* p = a.colours.ptr<std::uint16_t>();
    const auto* q = b.colours.ptr<std::uint16_t>();
    for (std::size_t i = 0; i < a.colours.total(); ++i)
        shared += std::min(p[i], q[i]);
    return shared / all_colours;
}

double unlike(const PhotoSignature& a, const PhotoSignature& b)
{
    const double structure = std::clamp(1 - same_structure(a, b), 0.0, 1.0);
    if (structure < 0.2)
        return structure;
    return std::min(structure, std::clamp(1 - same_colours(a, b), 0.0, 1.0));
}

double stands_still(const PhotoSignature& a, const PhotoSignature& b)
{
    constexpr int block = 8;
    int with_structure = 0, still = 0;
    for (int y = 0; y + block <= height; y += block)
        for (int x = 0; x + block <= width; x += block) {
            const cv::Rect r(x, y, block, block);
            const auto energy = [&](const cv::Mat& m) { return cv::norm(m(r), cv::NORM_L2SQR) / (block * block); };
            if (energy(a.structure) < 9 * noise * noise || energy(b.structure) < 9 * noise * noise)
                continue;
            ++with_structure;
            still += correlation(a.structure(r), b.structure(r)) > 0.6;
        }
    return with_structure == 0 ? 1 : double(still) / with_structure;
}

}
