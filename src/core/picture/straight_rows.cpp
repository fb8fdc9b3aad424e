#include "core/picture/straight_rows.h"

#include "core/picture/warp_loops.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <memory>
#include <utility>
#include <vector>

namespace frenlo {

namespace {

/// A kernel for all that pixels of a row may cover, in steps of a quarter; what covers hardly more than one is none.
const Kernel& kernel_covering(double pixels)
{
    static const std::array<Kernel, 13> all = [] {
        const auto at = [](std::size_t i) { return Kernel(1 + double(i) / 4); };
        return std::array{at(0), at(1), at(2), at(3), at(4), at(5), at(6), at(7), at(8), at(9), at(10), at(11), at(12)};
    }();
    constexpr double hardly = 0.12;
    const double wide = std::clamp(pixels, 1.0, 4.0);
    return all.at(std::size_t(std::ceil(std::max(0.0, wide - 1 - hardly) * 4)));
}

class Straightened
{
public:
    Straightened(CanvasRows photo, const Lens& lens)
        : photo_(std::move(photo)), map_(lens, cv::Size2d(photo_.size)),
          kept_(rows_at_once(), photo_.size.width + 2 * pad), which_(std::size_t(kept_.rows), none),
          over_(photo_.size.width), down_(photo_.size.width)
    {
    }

    void row(int y, int begin, int end, float* to)
    {
        if (begin >= end)
            return;
        double most = 1;
        for (const int x : {begin, (begin + end) / 2, end - 1, std::clamp(photo_.size.width / 2, begin, end - 1)})
            most = std::max(most, map_.covered({double(x), double(y)}));
        const Kernel& kernel = kernel_covering(most);
        over_.pixel.resize(std::size_t(end - begin));
        for (auto* all : {&over_.phase, &down_.pixel, &down_.phase})
            all->resize(over_.pixel.size());
        int first = std::numeric_limits<int>::max(), last = std::numeric_limits<int>::min();
        constexpr int apart = 4; // between two places that are worked out; a line in between is off by 0.003 pixels
        cv::Point2d at, by;
        for (int x = begin; x < end; ++x, at += by) {
            const auto i = std::size_t(x - begin);
            if (x % apart == 0 || x == begin) { // the same ones whatever part of the row is asked for
                const int base = x - x % apart;
                at = map_.taken({double(base), double(y)});
                by = (map_.taken({double(base + apart), double(y)}) - at) / double(apart);
                at += by * double(x - base);
            }
            const double column = std::floor(at.x), line = std::floor(at.y);
            over_.pixel[i] = std::clamp(int(column) - kernel.before + pad, 0, kept_.cols - kernel.taps);
            over_.phase[i] = int(std::lround((at.x - column) * phases));
            down_.pixel[i] = int(line) - kernel.before;
            down_.phase[i] = int(std::lround((at.y - line) * phases));
            first = std::min(first, down_.pixel[i]);
            last = std::max(last, down_.pixel[i]);
        }
        rows_.clear();
        for (int line = first; line < last + kernel.taps; ++line)
            rows_.push_back(source(line));
        loops().bent(kernel, over_, down_, first, rows_.data(), to);
    }

private:
    static constexpr int pad = 28; ///< of the widest kernel, and a pixel
    static constexpr int none = std::numeric_limits<int>::min();

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
    Canvas kept_;
    std::vector<int> which_; ///< row is in a slot
    Places over_, down_;
    std::vector<const float*> rows_; ///< that a row of the result looks at
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
