#include "core/steps/retouch/specks.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace frenlo {

namespace {

constexpr double finer = 1.26;    ///< from one size to the next
constexpr double faintest = 0.03; ///< stops

/// Of one size, at each pixel.
struct Responses
{
    double sigma = 0;
    cv::Mat1f strength; ///< stops darker, the mean over the photos
    cv::Mat1f sure;     ///< in standard deviations
};

/// Stops, 0 where nobody knows; and where it is known (1, else 0). So many times smaller.
void values_of(const cv::Mat_<schar>& steps, int down, cv::Mat1f& stops, cv::Mat1f& known)
{
    stops.create(steps.size());
    known.create(steps.size());
    for (int y = 0; y < steps.rows; ++y)
        for (int x = 0; x < steps.cols; ++x) {
            const bool is = steps(y, x) != Differences::none;
            stops(y, x) = is ? float(steps(y, x) * Differences::stops) : 0;
            known(y, x) = is ? 1.0F : 0.0F;
        }
    if (down == 1)
        return;
    const cv::Size small((steps.cols + down - 1) / down, (steps.rows + down - 1) / down);
    cv::resize(stops, stops, small, 0, 0, cv::INTER_AREA);
    cv::resize(known, known, small, 0, 0, cv::INTER_AREA);
}

/// sigma: pixels. most: of one photo, standard deviations.
Responses responses_of(const Differences& differences, double sigma, double most, const Job& job)
{
    // A large one is looked for in smaller photos.
    const int down = 1 << std::max(0, int(std::floor(std::log2(sigma / 1.7))));
    const double s = sigma / down;
    cv::Mat1f stops, known, inner, outer, square, near_sum, far_sum, sum, all, weights, count;
    for (const cv::Mat_<schar>& photo : differences.photos) {
        job.check();
        values_of(photo, down, stops, known);
        cv::GaussianBlur(stops, inner, {}, s / std::sqrt(finer));
        cv::GaussianBlur(stops, outer, {}, s * std::sqrt(finer));
        cv::Mat1f& response = outer;
        cv::addWeighted(outer, 1 / std::log(finer), inner, -1 / std::log(finer), 0, response);
        cv::multiply(response, response, square);
        // What is usual round about, without what is looked at.
        const int near = int(std::ceil(s * 6)) | 1, far = int(std::ceil(s * 18)) | 1;
        cv::boxFilter(square, near_sum, -1, {near, near}, {-1, -1}, false);
        cv::boxFilter(square, far_sum, -1, {far, far}, {-1, -1}, false);
        if (sum.empty()) {
            sum = cv::Mat1f(response.size(), 0.0F);
            all = cv::Mat1f(response.size(), 0.0F);
            weights = cv::Mat1f(response.size(), 0.0F);
            count = cv::Mat1f(response.size(), 0.0F);
        }
        const auto round_about = float(far * far - near * near);
        constexpr float least = 1e-4F; // stops squared: noise that the photos may not show
        for (int y = 0; y < response.rows; ++y)
            for (int x = 0; x < response.cols; ++x) {
                if (known(y, x) < 0.999F)
                    continue;
                const float variance = std::max(0.0F, (far_sum(y, x) - near_sum(y, x)) / round_about) + least;
                const float deviation = std::sqrt(variance);
                const auto limit = float(most) * deviation;
                sum(y, x) += std::clamp(response(y, x), -limit, limit) / variance;
                all(y, x) += response(y, x) / variance;
                weights(y, x) += 1 / variance;
                ++count(y, x);
            }
    }
    Responses found{.sigma = sigma, .strength = all, .sure = sum};
    for (int y = 0; y < sum.rows; ++y)
        for (int x = 0; x < sum.cols; ++x) {
            const float w = std::max(1e-6F, weights(y, x));
            found.strength(y, x) /= w;
            // What few photos tell of, at the scene's edge, is no speck.
            found.sure(y, x) *= 2 * count(y, x) < float(differences.photos.size()) ? 0 : 1 / std::sqrt(w);
        }
    if (const cv::Size size = differences.photos.front().size(); down > 1) {
        cv::resize(found.strength, found.strength, size, 0, 0, cv::INTER_CUBIC);
        cv::resize(found.sure, found.sure, size, 0, 0, cv::INTER_LINEAR);
    }
    return found;
}

/// Higher than all that is next to it, in place and in size.
bool is_highest(const std::vector<Responses>& responses, std::size_t size, int y, int x)
{
    const float v = std::abs(responses[size].strength(y, x));
    for (std::size_t s = size == 0 ? 0 : size - 1; s <= std::min(size + 1, responses.size() - 1); ++s)
        for (int dy = -1; dy <= 1; ++dy)
            for (int dx = -1; dx <= 1; ++dx)
                if (std::abs(responses[s].strength(y + dy, x + dx)) > v)
                    return false;
    return true;
}

/// Its curvature is much the same in all directions (Harris, Stephens 1988). step: pixels.
bool is_round(const cv::Mat1f& r, int y, int x, int step)
{
    if (y < step || x < step || y + step >= r.rows || x + step >= r.cols)
        return false;
    const double xx = r(y, x + step) - 2 * r(y, x) + r(y, x - step);
    const double yy = r(y + step, x) - 2 * r(y, x) + r(y - step, x);
    const double xy =
        (r(y + step, x + step) - r(y + step, x - step) - r(y - step, x + step) + r(y - step, x - step)) / 4;
    const double trace = xx + yy, det = xx * yy - xy * xy;
    constexpr double most = 3.5;
    return det > 0 && trace * trace / det <= (most + 1) * (most + 1) / most;
}

}

std::vector<Speck> specks_in(const Differences& differences, const SpeckSearch& search, const Job& job)
{
    if (differences.photos.empty())
        return {};
    std::vector<double> sigmas;
    const auto sizes = int(std::ceil(std::log(search.largest * 1.3 / (search.smallest * 0.8)) / std::log(finer)));
    sigmas.reserve(std::size_t(std::max(0, sizes)));
    for (int i = 0; i < sizes; ++i)
        sigmas.push_back(search.smallest * 0.8 * std::pow(finer, i) / 2 / std::numbers::sqrt2);
    std::vector<Responses> responses;
    for (const double sigma : sigmas) {
        job.report(double(responses.size()) / double(sigmas.size()), "looking at what stays");
        responses.push_back(responses_of(differences, sigma, search.most_of_one, job));
    }
    std::vector<Speck> specks;
    for (std::size_t s = 0; s < responses.size(); ++s) {
        const Responses& r = responses[s];
        const int margin = std::max(2, int(std::ceil(r.sigma)));
        for (int y = margin; y + margin < r.strength.rows; ++y)
            for (int x = margin; x + margin < r.strength.cols; ++x) {
                const double sure = std::abs(double(r.sure(y, x))), strength = double(r.strength(y, x));
                // Dust throws shadows. What is light is seldom more than what a passing scene left.
                const double times = strength > 0 ? 1 : 1.7;
                if (sure >= times * search.least_sure && std::abs(strength) >= times * faintest &&
                    is_highest(responses, s, y, x) && is_round(r.strength, y, x, std::max(1, int(r.sigma / 2))))
                    specks.push_back({cv::Point2d(x, y), r.sigma * std::numbers::sqrt2, strength, sure});
            }
    }
    std::sort(specks.begin(), specks.end(),
              [](const Speck& a, const Speck& b) { return std::abs(a.strength) > std::abs(b.strength); });
    std::vector<Speck> apart;
    for (const Speck& s : specks)
        if (std::none_of(apart.begin(), apart.end(),
                         [&](const Speck& o) { return cv::norm(o.at - s.at) < o.radius + s.radius + 1; }))
            apart.push_back(s);
    return apart;
}

}
