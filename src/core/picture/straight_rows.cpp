#include "core/picture/straight_rows.h"

#include "core/picture/warp_loops.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <memory>
#include <utility>
#include <vector>

namespace frenlo {

namespace {

using Pixel = float __attribute__((vector_size(16)));

/// Kernels for all that a pixel may cover, in steps of a quarter.
class Kernels
{
public:
    [[nodiscard]] const Kernel& covering(double pixels)
    {
        const double wide = std::clamp(pixels, 1.0, 4.0);
        const auto at = std::size_t(std::ceil((wide - 1) * 4 - 1e-6));
        while (all_.size() <= at)
            all_.emplace_back(1 + double(all_.size()) / 4);
        return all_[at];
    }

private:
    std::vector<Kernel> all_;
};

class Straightened
{
public:
    Straightened(CanvasRows photo, const Lens& lens)
        : photo_(std::move(photo)), map_(lens, cv::Size2d(photo_.size)),
          kept_(rows_at_once(), photo_.size.width + 2 * pad), which_(std::size_t(kept_.rows), none)
    {
    }

    void row(int y, int begin, int end, float* to)
    {
        for (int x = begin; x < end; ++x, to += 4) {
            const cv::Point2d straight(x, y), at = map_.taken(straight);
            const Kernel& kernel = kernels_.covering(map_.covered(straight));
            const int column = int(std::floor(at.x)), line = int(std::floor(at.y));
            const float* across = kernel.across_at(phase_of(at.x - column));
            const float* down = kernel.at(phase_of(at.y - line));
            const int left = std::clamp(column - kernel.before + pad, 0, kept_.cols - kernel.taps);
            Pixel sum{};
            for (int i = 0; i < kernel.taps; ++i) {
                const float* from = source(line - kernel.before + i) + 4 * std::ptrdiff_t(left);
                Pixel along{};
                for (int k = 0; k < kernel.taps; ++k) {
                    Pixel pixel, weight;
                    __builtin_memcpy(&pixel, from + 4 * std::ptrdiff_t(k), sizeof pixel);
                    __builtin_memcpy(&weight, across + 4 * std::ptrdiff_t(k), sizeof weight);
                    along += pixel * weight;
                }
                sum += along * down[i];
            }
            __builtin_memcpy(to, &sum, sizeof sum);
        }
    }

private:
    static constexpr int pad = 28; ///< of the widest kernel, and a pixel
    static constexpr int none = std::numeric_limits<int>::min();

    static int phase_of(double part) { return int(std::lround(part * phases)); }

    /// As many as one row of the result looks at.
    [[nodiscard]] int rows_at_once() const
    {
        constexpr int looks = 32;
        double most = 0;
        for (int i = 0; i <= looks; ++i) {
            const double y = double(photo_.size.height - 1) * i / looks;
            double low = y, high = y;
            for (int k = 0; k <= looks; ++k) {
                const double there = map_.taken({double(photo_.size.width - 1) * k / looks, y}).y;
                low = k == 0 ? there : std::min(low, there);
                high = k == 0 ? there : std::max(high, there);
            }
            most = std::max(most, high - low);
        }
        return int(most) + 2 * pad + 4;
    }

    /// A row of the photo, its edges going on; y may lie outside.
    const float* source(int y)
    {
        const int row = std::clamp(y, 0, photo_.size.height - 1);
        const auto slot = std::size_t(row % kept_.rows);
        auto* pixels = kept_.ptr<cv::Vec4f>(int(slot));
        if (which_[slot] != row) {
            which_[slot] = row;
            const int width = photo_.size.width;
            photo_.row(row, 0, width, kept_.ptr<float>(int(slot)) + 4 * std::ptrdiff_t(pad));
            std::fill_n(pixels, pad, pixels[pad]);
            std::fill_n(pixels + pad + width, pad, pixels[pad + width - 1]);
        }
        return kept_.ptr<float>(int(slot));
    }

    CanvasRows photo_;
    LensMap map_;
    Kernels kernels_;
    Canvas kept_;
    std::vector<int> which_; ///< row is in a slot
};

}

CanvasRows straight_rows(CanvasRows photo, const Lens& lens)
{
    if (lens.nothing() || photo.size.empty())
        return photo;
    const cv::Size size = photo.size;
    const bool opaque = photo.opaque;
    const auto straightened = std::make_shared<Straightened>(std::move(photo), lens);
    return {size,
            [straightened](int y, int begin, int end, float* to) { straightened->row(y, begin, end, to); },
            opaque,
            {}};
}

namespace {

const cv::Point2d half(0.5, 0.5); // from corners of pixels to their middles

cv::Point2d pixel(cv::Size2d photo, cv::Point2d share)
{
    return cv::Point2d(share.x * photo.width, share.y * photo.height) - half;
}

cv::Point2d share(cv::Size2d photo, cv::Point2d pixel)
{
    return {(pixel.x + half.x) / photo.width, (pixel.y + half.y) / photo.height};
}

}

cv::Point2d straight_share(const Lens& lens, cv::Size2d photo, cv::Point2d taken)
{
    return lens.nothing() ? taken : share(photo, LensMap(lens, photo).straight(pixel(photo, taken)));
}

cv::Point2d taken_share(const Lens& lens, cv::Size2d photo, cv::Point2d straight)
{
    return lens.nothing() ? straight : share(photo, LensMap(lens, photo).taken(pixel(photo, straight)));
}

}
