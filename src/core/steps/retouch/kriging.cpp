#include "core/steps/retouch/kriging.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <Eigen/Cholesky>
#include <Eigen/Core>
#include <span>
#include <vector>

namespace frenlo {

namespace {

/// Of what is as it is backwards, so that its transform is real, and that back the same again.
cv::Mat1f even_transform(const cv::Mat1f& values, int scaled)
{
    cv::Mat spectrum;
    cv::Mat1f real;
    cv::dft(values, spectrum, cv::DFT_COMPLEX_OUTPUT | scaled);
    cv::extractChannel(spectrum, real, 0);
    return real;
}

/// The sum over all pairs of pixels so far apart, of all planes: |F|², back.
cv::Mat1f correlated(const std::vector<cv::Mat1f>& planes, cv::Size padded)
{
    cv::Mat1f power(padded, 0.0F);
    for (const cv::Mat1f& plane : planes) {
        cv::Mat1f wide(padded, 0.0F);
        plane.copyTo(wide(cv::Rect({0, 0}, plane.size())));
        cv::Mat2f spectrum;
        cv::dft(wide, spectrum, cv::DFT_COMPLEX_OUTPUT);
        for (int y = 0; y < padded.height; ++y)
            for (int x = 0; x < padded.width; ++x)
                power(y, x) += spectrum(y, x).dot(spectrum(y, x));
    }
    return even_transform(power, cv::DFT_SCALE);
}

/// What is not known yet, and what is known near by.
struct Neighbourhood
{
    std::vector<cv::Point> missing, near;
};

/// Near first: all that touches, of what lies farther a quarter. No more than most.
Neighbourhood neighbourhood(const cv::Mat1b& known, const cv::Rect& tile, double reach)
{
    constexpr float touching = 2.5F;
    constexpr std::size_t most = 240;
    const int around = int(std::ceil(reach));
    const cv::Rect wide =
        cv::Rect(tile.x - around, tile.y - around, tile.width + 2 * around, tile.height + 2 * around) &
        cv::Rect({0, 0}, known.size());
    Neighbourhood n;
    cv::Mat1b away(wide.size(), std::uint8_t(255));
    for (int y = tile.y; y < tile.br().y; ++y)
        for (int x = tile.x; x < tile.br().x; ++x)
            if (known(y, x) == 0) {
                n.missing.emplace_back(x, y);
                away(y - wide.y, x - wide.x) = 0;
            }
    if (n.missing.empty())
        return n;
    cv::Mat1f distance;
    cv::distanceTransform(away, distance, cv::DIST_L2, 5);
    std::vector<std::pair<float, cv::Point>> near;
    for (int y = wide.y; y < wide.br().y; ++y)
        for (int x = wide.x; x < wide.br().x; ++x) {
            const float d = distance(y - wide.y, x - wide.x);
            if (known(y, x) != 0 && d <= float(reach) && (d <= touching || (x % 2 == 0 && y % 2 == 0)))
                near.emplace_back(d, cv::Point(x, y));
        }
    std::stable_sort(near.begin(), near.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    near.resize(std::min(near.size(), most));
    for (const auto& [d, at] : near)
        n.near.push_back(at);
    return n;
}

void predict(std::span<Canvas* const> pictures, const Neighbourhood& n, const cv::Mat1f& covariance)
{
    using Eigen::MatrixXf;
    // What no neighbour tells, of the variance: noise, and what is finer than pixels. The covariance of places that
    // touch is carried on to none apart.
    const auto apart = [&](int by) { return (covariance(0, by) + covariance(by, 0)) / 2; };
    const float nugget = std::max(0.01F, 1 - (4 * apart(1) - apart(2)) / (3 * std::max(1e-12F, apart(0))));
    constexpr Eigen::Index trend = 3;
    const auto count = Eigen::Index(n.near.size()), missing = Eigen::Index(n.missing.size());
    const auto alike = [&](cv::Point a, cv::Point b) {
        const cv::Point by = b - a;
        // What lies half of it or more apart is not alike: the range is shorter by far.
        if (2 * std::abs(by.y) >= covariance.rows || 2 * std::abs(by.x) >= covariance.cols)
            return 0.0F;
        return covariance(by.y < 0 ? by.y + covariance.rows : by.y, by.x < 0 ? by.x + covariance.cols : by.x);
    };
    const cv::Point origin = n.missing.front();
    const auto slope = [&](cv::Point at) {
        constexpr float unit = 8; // pixels: any, so that the three are about alike
        return Eigen::RowVector3f(1, float(at.x - origin.x) / unit, float(at.y - origin.y) / unit);
    };
    MatrixXf between(count, count), to_missing(missing, count), known(count, 4 * Eigen::Index(pictures.size())),
        drift(count, trend), drift_there(missing, trend);
    for (Eigen::Index i = 0; i < count; ++i) {
        const cv::Point at = n.near[std::size_t(i)];
        for (Eigen::Index j = 0; j <= i; ++j)
            between(i, j) = alike(at, n.near[std::size_t(j)]);
        between(i, i) += nugget * covariance(0, 0) + 1e-12F;
        drift.row(i) = slope(at);
        for (std::size_t p = 0; p < pictures.size(); ++p)
            for (int c = 0; c < 4; ++c)
                known(i, 4 * Eigen::Index(p) + c) = (*pictures[p])(at)[c];
    }
    for (Eigen::Index i = 0; i < missing; ++i) {
        const cv::Point at = n.missing[std::size_t(i)];
        for (Eigen::Index j = 0; j < count; ++j)
            to_missing(i, j) = alike(at, n.near[std::size_t(j)]);
        drift_there.row(i) = slope(at);
    }
    const Eigen::LLT<MatrixXf, Eigen::Lower> solver(between);
    if (solver.info() != Eigen::Success)
        return;
    // The slope by generalised least squares, then what is left of it by simple kriging.
    const MatrixXf by_drift = solver.solve(drift);
    const Eigen::Matrix3f normal =
        drift.transpose() * by_drift + 1e-6F * Eigen::Matrix3f::Identity() * (drift.transpose() * by_drift).trace();
    const MatrixXf level = normal.ldlt().solve(by_drift.transpose() * known);
    const MatrixXf made = drift_there * level + to_missing * solver.solve(known - drift * level);
    // A slope of few places, carried far, ends where nothing of the picture lies.
    const Eigen::RowVectorXf least = known.colwise().minCoeff(), most = known.colwise().maxCoeff();
    const Eigen::RowVectorXf beyond = 0.25F * (most - least);
    for (Eigen::Index i = 0; i < missing; ++i)
        for (std::size_t p = 0; p < pictures.size(); ++p)
            for (int c = 0; c < 4; ++c) {
                const Eigen::Index k = 4 * Eigen::Index(p) + c;
                (*pictures[p])(n.missing[std::size_t(i)])[c] =
                    std::clamp(made(i, k), least(k) - beyond(k), most(k) + beyond(k));
            }
}

}

cv::Mat1f autocovariance(const Canvas& picture, const cv::Mat1b& known, double range)
{
    const cv::Size size = picture.size();
    // So far apart nothing is alike any more: what goes round farther is not seen.
    const int apart = int(std::ceil(3 * range));
    const cv::Size padded(cv::getOptimalDFTSize(size.width + std::min(size.width, apart)),
                          cv::getOptimalDFTSize(size.height + std::min(size.height, apart)));
    cv::Mat1f weight(size);
    std::array<double, 3> mean{};
    double all = 0;
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x) {
            const double v = 2.0 * (y + 0.5) / size.height - 1, u = 2.0 * (x + 0.5) / size.width - 1;
            weight(y, x) = known(y, x) != 0 ? float(std::exp(-(u * u + v * v) / 2)) : 0;
            all += weight(y, x);
            for (int c = 0; c < 3; ++c)
                mean[std::size_t(c)] += double(weight(y, x)) * picture(y, x)[c];
        }
    if (all <= 0)
        return cv::Mat1f(padded, 0.0F);
    std::vector<cv::Mat1f> colours(3);
    for (int c = 0; c < 3; ++c) {
        colours[std::size_t(c)].create(size);
        for (int y = 0; y < size.height; ++y)
            for (int x = 0; x < size.width; ++x)
                colours[std::size_t(c)](y, x) = weight(y, x) * (picture(y, x)[c] - float(mean[std::size_t(c)] / all));
    }
    cv::Mat1f result = correlated(colours, padded);
    const cv::Mat1f pairs = correlated({weight}, padded);
    const float few = 0.05F * pairs(0, 0);
    for (int y = 0; y < padded.height; ++y)
        for (int x = 0; x < padded.width; ++x) {
            const double dy = std::min(y, padded.height - y), dx = std::min(x, padded.width - x);
            result(y, x) *= float(std::exp(-(dy * dy + dx * dx) / (2 * range * range))) / std::max(few, pairs(y, x));
        }
    cv::Mat1f power = even_transform(result, 0);
    cv::max(power, 0, power);
    return even_transform(power, cv::DFT_SCALE);
}

void krige(std::span<Canvas* const> values, const cv::Mat1b& known_pixels, const Texture& texture, double radius)
{
    cv::Mat1b known = known_pixels.clone();
    cv::Mat missing = known == 0;
    if (cv::countNonZero(missing) == 0)
        return;
    const cv::Rect all = cv::boundingRect(missing);
    const int most = std::max(24, int(std::ceil(3 * radius))); // pixels at one go: a disc is one
    const int across = (all.width + most - 1) / most, down = (all.height + most - 1) / most;
    const double reach = std::max(5.0, radius);
    const int around = std::max(12, int(std::ceil(3 * radius)));
    // What was made is known to the next: no seam between them.
    for (int row = 0; row < down; ++row)
        for (int column = 0; column < across; ++column) {
            const cv::Rect tile(
                cv::Point(all.x + all.width * column / across, all.y + all.height * row / down),
                cv::Point(all.x + all.width * (column + 1) / across, all.y + all.height * (row + 1) / down));
            const Neighbourhood n = neighbourhood(known, tile, reach);
            if (n.missing.empty() || n.near.size() < 4)
                continue;
            const cv::Rect there = (tile + texture.corner) & cv::Rect({0, 0}, texture.picture.size());
            const cv::Rect wide =
                cv::Rect(there.x - around, there.y - around, there.width + 2 * around, there.height + 2 * around) &
                cv::Rect({0, 0}, texture.picture.size());
            predict(values, n, autocovariance(texture.picture(wide), texture.known(wide), radius));
            for (const cv::Point& at : n.missing)
                known(at) = 255;
        }
}

void krige(Canvas& values, const cv::Mat1b& known, const Texture& texture, double radius)
{
    krige(std::array{&values}, known, texture, radius);
}

}
