#include "core/picture/large_moves.h"

#include "core/picture/moved_pixels.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <iterator>
#include <limits>

namespace frenlo {

namespace {

constexpr float misfit = 12;     ///< of 255: what differs more does not fit
constexpr double distinct = 0.4; ///< where it is found, it differs by less than so much of what it does elsewhere
constexpr float likely = 1.2F;   ///< what is found in half of the size may leave so much of the misfit
constexpr float better = 0.8F;   ///< and what several agree on must leave less than so much

/// By how many pixels this part of the first is found elsewhere in the second, within reach: where the sum of absolute
/// differences is least. The part has at most 128 pixels, so that 15 bits hold a sum. left: of what differs on the
/// average of all places, the share that differs there.
cv::Point place_of(const cv::Mat1b& first, const cv::Mat1b& second, const cv::Rect& part, int reach, double& left)
{
    const cv::Rect where = cv::Rect(part.x - reach, part.y - reach, part.width + 2 * reach, part.height + 2 * reach) &
                           cv::Rect({0, 0}, second.size());
    const int across = where.width - part.width + 1, down = where.height - part.height + 1;
    std::vector<std::int16_t> sums(static_cast<std::size_t>(across));
    int least = std::numeric_limits<int>::max();
    double all = 0;
    cv::Point at;
    for (int y = 0; y < down; ++y) {
        std::fill(sums.begin(), sums.end(), std::int16_t(0));
        for (int j = 0; j < part.height; ++j)
            for (int i = 0; i < part.width; ++i) {
                const std::int16_t own = first(part.y + j, part.x + i);
                const std::uint8_t* other = second.ptr(where.y + y + j) + where.x + i;
                std::int16_t* sum = sums.data();
                for (int x = 0; x < across; ++x) {
                    const auto by = std::int16_t(own - std::int16_t(other[x]));
                    const auto less = std::int16_t(-by);
                    sum[x] = std::int16_t(sum[x] + std::max(by, less));
                }
            }
        for (int x = 0; x < across; ++x) {
            all += sums[std::size_t(x)];
            if (sums[std::size_t(x)] < least) {
                least = sums[std::size_t(x)];
                at = {x, y};
            }
        }
    }
    left = least * double(across) * down / std::max(1.0, all);
    return where.tl() + at - part.tl();
}

/// Near a guess, the move that leaves least. left: the root of the mean square of that, of 255.
cv::Point near_place(const cv::Mat& first, const cv::Mat& second, const cv::Rect& part, const cv::Point& guess,
                     int reach, double& left)
{
    const cv::Rect all({0, 0}, second.size());
    left = 255;
    cv::Point best = guess;
    for (int y = -reach; y <= reach; ++y)
        for (int x = -reach; x <= reach; ++x)
            if (const cv::Rect there = part + guess + cv::Point(x, y); (there & all) == there) {
                const double by = std::sqrt(cv::norm(first(part), second(there), cv::NORM_L2SQR) / (3.0 * part.area()));
                if (by < left) {
                    left = by;
                    best = guess + cv::Point(x, y);
                }
            }
    return best;
}

/// The mean of those about the median of each part.
cv::Vec2f middle_of(std::vector<cv::Vec2f> moves)
{
    cv::Vec2f median;
    for (int i = 0; i < 2; ++i) {
        const auto middle = moves.begin() + std::ptrdiff_t(moves.size() / 2);
        std::nth_element(moves.begin(), middle, moves.end(),
                         [i](const cv::Vec2f& a, const cv::Vec2f& b) { return a[i] < b[i]; });
        median[i] = (*middle)[i];
    }
    cv::Vec2f sum;
    float count = 0;
    for (const cv::Vec2f& v : moves)
        if (constexpr double near = 1.1; std::max(std::abs(v[0] - median[0]), std::abs(v[1] - median[1])) < near) {
            sum += v;
            ++count;
        }
    return count > 0 ? sum * (1 / count) : median;
}

}

std::vector<cv::Vec2f> large_moves(const cv::Mat3b& first, const cv::Mat3b& second, const cv::Mat1f& off, int reach)
{
    constexpr int side = 11, apart = 4, most_parts = 80;
    constexpr double least_detail = 8; // of 255: plain parts fit anywhere
    // First at half of the size.
    cv::Mat small_first, small_second, usual;
    cv::boxFilter(off, usual, -1, {around, around});
    cv::resize(first, small_first, {}, 0.5, 0.5, cv::INTER_AREA);
    cv::resize(second, small_second, small_first.size(), 0, 0, cv::INTER_AREA);
    cv::resize(usual, usual, small_first.size(), 0, 0, cv::INTER_AREA);
    cv::Mat1b grey_first, grey_second;
    cv::cvtColor(small_first, grey_first, cv::COLOR_BGR2GRAY);
    cv::cvtColor(small_second, grey_second, cv::COLOR_BGR2GRAY);
    std::vector<cv::Point> parts;
    for (int y = side / 2; y + side / 2 < usual.rows; y += apart)
        for (int x = side / 2; x + side / 2 < usual.cols; x += apart)
            if (usual.at<float>(y, x) > misfit)
                parts.emplace_back(x, y);
    const std::size_t step = parts.size() / most_parts + 1;
    std::vector<cv::Vec2f> found;
    for (std::size_t i = 0; i < parts.size(); i += step) {
        const cv::Rect here(parts[i].x - side / 2, parts[i].y - side / 2, side, side);
        cv::Scalar mean, detail;
        cv::meanStdDev(small_first(here), mean, detail);
        if (std::max({detail[0], detail[1], detail[2]}) < least_detail)
            continue;
        double left = 0, of_usual = 0;
        const cv::Point coarse = near_place(small_first, small_second, here,
                                            place_of(grey_first, grey_second, here, reach / 2, of_usual), 0, left);
        if (of_usual > distinct || left > double(likely * usual.at<float>(parts[i])))
            continue;
        const cv::Rect there = cv::Rect(here.tl() * 2, here.size() * 2) & cv::Rect({0, 0}, first.size());
        const cv::Point exact = near_place(first, second, there, coarse * 2, 2, left);
        found.emplace_back(float(exact.x), float(exact.y));
    }
    // What several agree on: the place with most neighbours, and their mean; then the next.
    constexpr double alike = 2.5;
    constexpr std::size_t most_moves = 4;
    constexpr std::size_t fewest = 3;
    std::vector<cv::Vec2f> moves;
    while (moves.size() < most_moves) {
        std::vector<cv::Vec2f> most;
        for (const cv::Vec2f& v : found) {
            std::vector<cv::Vec2f> agree;
            std::copy_if(found.begin(), found.end(), std::back_inserter(agree),
                         [&](const cv::Vec2f& o) { return cv::norm(o - v) < alike; });
            if (agree.size() > most.size())
                most = std::move(agree);
        }
        if (most.size() < fewest)
            break;
        const cv::Vec2f move = middle_of(most);
        moves.push_back(move);
        std::erase_if(found, [&](const cv::Vec2f& v) { return cv::norm(v - move) < 2 * alike; });
    }
    return moves;
}

void take_moves(cv::Mat2f& motion, const cv::Mat1f& off, const cv::Mat3b& first, const cv::Mat3b& second,
                const std::vector<cv::Vec2f>& moves)
{
    cv::Mat1f least;
    cv::boxFilter(off, least, -1, {around, around});
    least = better * least - 1;
    for (const cv::Vec2f& v : moves) {
        cv::Mat3b arrives;
        cv::warpAffine(second, arrives, cv::Matx23f(1, 0, v[0], 0, 1, v[1]), first.size(),
                       cv::INTER_LINEAR | cv::WARP_INVERSE_MAP, cv::BORDER_REPLICATE);
        cv::Mat3b difference;
        cv::absdiff(first, arrives, difference);
        cv::Mat mean;
        cv::transform(difference, mean, cv::Matx13f(1 / 3.0F, 1 / 3.0F, 1 / 3.0F));
        cv::Mat1f apart = mean;
        cv::boxFilter(apart, apart, -1, {around, around});
        for (int y = 0; y < motion.rows; ++y)
            for (int x = 0; x < motion.cols; ++x)
                if (apart(y, x) < least(y, x)) {
                    least(y, x) = apart(y, x);
                    motion(y, x) = v;
                }
    }
}

}
