#include "core/export/nearest_colour.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace frenlo {

namespace {

constexpr std::array<int, 3> weights{2, 3, 2};

int squared(const cv::Vec3b& a, const cv::Vec3b& b)
{
    int sum = 0;
    for (int c = 0; c < 3; ++c)
        sum += weights[std::size_t(c)] * (a[c] - b[c]) * (a[c] - b[c]);
    return sum;
}

}

float colour_distance(const cv::Vec3b& a, const cv::Vec3b& b)
{
    return std::sqrt(float(squared(a, b)) / float(weights[0] + weights[1] + weights[2]));
}

NearestColour::NearestColour(const std::vector<cv::Vec3b>& palette)
    : palette_(palette), few_(std::size_t(cells) * cells * cells)
{
}

void NearestColour::look_around(const cv::Vec3b& colour, Few& few)
{
    constexpr int side = 1 << bits;
    std::array<int, 256> least{};
    int bound = std::numeric_limits<int>::max(); // some entry is no farther than that from all of the cell
    for (std::size_t i = 0; i < palette_.size(); ++i) {
        int near = 0, far = 0;
        for (int c = 0; c < 3; ++c) {
            const int low = colour[c] >> bits << bits, high = low + side - 1, p = palette_[i][c];
            const int nearest = std::max({0, low - p, p - high}),
                      farthest = std::max(std::abs(p - low), std::abs(p - high));
            near += weights[std::size_t(c)] * nearest * nearest;
            far += weights[std::size_t(c)] * farthest * farthest;
        }
        least[i] = near;
        bound = std::min(bound, far);
    }
    few.begin = std::uint32_t(pool_.size());
    for (std::size_t i = 0; i < palette_.size(); ++i)
        if (least[i] <= bound)
            pool_.push_back({palette_[i][0], palette_[i][1], palette_[i][2], std::uint8_t(i)});
    few.count = std::uint16_t(pool_.size() - few.begin);
}

std::uint8_t NearestColour::operator()(const cv::Vec3b& colour)
{
    Few& few = few_[(std::size_t(colour[0] >> bits) * cells + std::size_t(colour[1] >> bits)) * cells +
                    std::size_t(colour[2] >> bits)];
    if (few.count == 0)
        look_around(colour, few);
    const cv::Vec4b* candidate = &pool_[few.begin];
    int least = std::numeric_limits<int>::max();
    std::uint8_t best = 0;
    for (int left = few.count; left > 0; --left, ++candidate) {
        const int blue = (*candidate)[0] - colour[0], green = (*candidate)[1] - colour[1],
                  red = (*candidate)[2] - colour[2];
        const int far = weights[0] * blue * blue + weights[1] * green * green + weights[2] * red * red;
        if (far < least) {
            least = far;
            best = (*candidate)[3];
        }
    }
    return best;
}

}
