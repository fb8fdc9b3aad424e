#include "core/picture/changes.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

constexpr float noise = 2.5F; ///< of 255

/// How far a block's two pictures are apart as the eye sees it, 0 to 255: of the roots of light.
float block_difference(const Canvas& first, const Canvas& second, const cv::Rect& block)
{
    float differs = 0, light = 0;
    for (int y = block.y; y < block.br().y; ++y) {
        const cv::Vec4f *a = first.ptr<cv::Vec4f>(y), *b = second.ptr<cv::Vec4f>(y);
        for (int x = block.x; x < block.br().x; ++x)
            for (int c = 0; c < 3; ++c) {
                differs += std::abs(a[x][c] - b[x][c]);
                light += std::max(0.0F, a[x][c]) + std::max(0.0F, b[x][c]);
            }
    }
    const float count = 3 * float(block.area());
    // The difference of two roots is that of what they are the roots of, over their sum.
    constexpr float least = 1e-6F;
    return 255 * (differs / count) / (2 * std::sqrt(std::max(least, light / count / 2)));
}

}

Changes changes(const Canvas& first, const Canvas& second)
{
    constexpr int least_side = 6, blocks_along = 100;
    const int side = std::max(least_side, std::max(first.cols, first.rows) / blocks_along);
    const cv::Rect all({0, 0}, first.size());
    cv::Mat1b differs((first.rows + side - 1) / side, (first.cols + side - 1) / side);
    tbb::parallel_for(0, differs.rows, [&](int y) {
        for (int x = 0; x < differs.cols; ++x)
            differs(y, x) =
                block_difference(first, second, cv::Rect(x * side, y * side, side, side) & all) > noise ? 1 : 0;
    });
    const cv::Rect blocks = cv::boundingRect(differs);
    return {.part = cv::Rect(blocks.x * side, blocks.y * side, blocks.width * side, blocks.height * side) & all,
            .share = double(cv::countNonZero(differs)) / double(differs.total())};
}

}
