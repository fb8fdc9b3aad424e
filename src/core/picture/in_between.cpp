#include "core/picture/in_between.h"

#include "core/picture/moved_pixels.h"
#include "core/picture/picture.h"

#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo {

namespace {

constexpr float disagreeing = 2;          ///< pixels by which the ways forth and back may differ and still be one
constexpr float disagreeing_share = 0.2F; ///< and of the way
constexpr double edge_softness = 0.7;     ///< sigma, pixels: of what is seen in one only
constexpr float noise = 1.5F;             ///< of 255: what differs less does not differ

/// The motion from first to second of what lies where at t: every pixel of both carried there; of several that look
/// like what they become the one that goes farthest, which is what lies in front as a rule.
class MotionAt
{
public:
    MotionAt(const DenseMotion& motion, float t) : here_(motion.forth.size(), cv::Vec2f()), cost_(here_.size(), nobody)
    {
        carry(motion.forth, motion.forth_off, motion.first_only, t, 1);
        carry(motion.back, motion.back_off, motion.second_only, 1 - t, -1);
        fill();
    }
    [[nodiscard]] const cv::Mat2f& motion() const { return here_; }

private:
    static constexpr float nobody = 1e9F;

    void carry(const cv::Mat2f& motion, const cv::Mat1f& off, const cv::Mat1b& hidden, float share, float sign)
    {
        for (int y = 0; y < motion.rows; ++y)
            for (int x = 0; x < motion.cols; ++x) {
                const cv::Vec2f& v = motion(y, x);
                const float at_x = float(x) + share * v[0], at_y = float(y) + share * v[1];
                float cost = off(y, x);
                constexpr float fits = 10;
                if (hidden(y, x))
                    cost += 80; // only where nothing else is
                else if (cost < fits)
                    cost -= std::abs(v[0]) + std::abs(v[1]); // what fits lies the nearer the farther it goes
                put(int(std::floor(at_x)), int(std::floor(at_y)), v * sign, cost);
            }
    }
    void put(int x, int y, const cv::Vec2f& v, float cost)
    {
        for (int down = 0; down < 2; ++down)
            for (int right = 0; right < 2; ++right) {
                const int to_x = x + right, to_y = y + down;
                if (to_x < 0 || to_y < 0 || to_x >= here_.cols || to_y >= here_.rows || cost >= cost_(to_y, to_x))
                    continue;
                cost_(to_y, to_x) = cost;
                here_(to_y, to_x) = v;
            }
    }
    /// From outside in.
    void fill()
    {
        std::vector<cv::Point> empty;
        for (int y = 0; y < here_.rows; ++y)
            for (int x = 0; x < here_.cols; ++x)
                if (cost_(y, x) >= nobody)
                    empty.emplace_back(x, y);
        const cv::Rect all({0, 0}, here_.size());
        while (!empty.empty()) {
            std::vector<std::pair<cv::Point, cv::Vec2f>> filled;
            std::vector<cv::Point> still;
            for (const cv::Point& p : empty) {
                cv::Vec2f sum;
                int count = 0;
                for (int down = -1; down <= 1; ++down)
                    for (int right = -1; right <= 1; ++right)
                        if (const cv::Point q(p.x + right, p.y + down); q.inside(all) && cost_(q) < nobody) {
                            sum += here_(q);
                            ++count;
                        }
                if (count > 0)
                    filled.emplace_back(p, sum * (1.0F / float(count)));
                else
                    still.push_back(p);
            }
            if (filled.empty())
                return; // nothing at all moves anywhere
            for (const auto& [p, v] : filled) {
                here_(p) = v;
                cost_(p) = 0;
            }
            empty = std::move(still);
        }
    }

    cv::Mat2f here_;
    cv::Mat1f cost_;
};

/// How sure it is that what lies here at t is seen in one of the two: there its own motion agrees. 0 to 1.
cv::Mat1f visible(const cv::Mat2f& at, const cv::Mat2f& motion_at_t, const cv::Mat2f& motion, float sign)
{
    const cv::Mat there = taken(motion, at, cv::INTER_LINEAR);
    cv::Mat1f sure(at.size());
    tbb::parallel_for(0, at.rows, [&](int y) {
        for (int x = 0; x < at.cols; ++x) {
            const cv::Vec2f p = at(y, x);
            if (p[0] < -0.5F || p[1] < -0.5F || p[0] > float(at.cols) - 0.5F || p[1] > float(at.rows) - 0.5F) {
                sure(y, x) = 0;
                continue;
            }
            const cv::Vec2f &v = motion_at_t(y, x), off = there.at<cv::Vec2f>(y, x) * sign - v;
            const float may = disagreeing + disagreeing_share * std::sqrt(v.dot(v));
            sure(y, x) = std::exp(-off.dot(off) / (may * may));
        }
    });
    return sure;
}

/// Where the two say nothing, as where they do round about: means weighed by how much they say, ever coarser.
cv::Mat1f spread(const cv::Mat1f& values, const cv::Mat1f& says)
{
    cv::Mat1f sum, result;
    cv::multiply(values, says, sum);
    if (constexpr int least = 8; std::min(values.cols, values.rows) > least) {
        cv::Mat1f half, half_weight;
        cv::pyrDown(sum, half);
        cv::pyrDown(says, half_weight);
        cv::max(half_weight, 1e-6F, half_weight);
        half /= half_weight;
        cv::pyrUp(spread(half, half_weight), result, values.size());
    } else {
        return values;
    }
    constexpr float enough = 0.5F;
    for (int y = 0; y < values.rows; ++y)
        for (int x = 0; x < values.cols; ++x) {
            const float own = std::min(1.0F, says(y, x) / enough);
            result(y, x) += own * (values(y, x) - result(y, x));
        }
    return result;
}

/// The pictures themselves, at their own size, over a mix of them: carried where that is trusted. way and the shares
/// may be smaller.
void put_carried(const Canvas& first, const Canvas& second, float share, const cv::Mat2f& way, const cv::Mat1f& trusted,
                 const cv::Mat1f& from_first, const cv::Mat1f& from_second, Canvas& made)
{
    const cv::Size size = first.size();
    const auto at_full_size = [&](const auto& small) {
        auto large = small;
        if (size != small.size())
            cv::resize(small, large, size, 0, 0, cv::INTER_LINEAR);
        return large;
    };
    const cv::Mat1f sure = at_full_size(trusted), in_first = at_full_size(from_first),
                    in_second = at_full_size(from_second);
    const cv::Mat2f v = at_full_size(way);
    const cv::Vec2f scale(float(size.width) / float(way.cols), float(size.height) / float(way.rows));
    const auto make_tile = [&](const cv::Rect& tile) {
        if (cv::countNonZero(sure(tile)) == 0)
            return; // most of most pictures stands still
        cv::Mat2f at_first(tile.size()), at_second(tile.size());
        for (int y = 0; y < tile.height; ++y) {
            const cv::Vec2f* way_here = v.ptr<cv::Vec2f>(tile.y + y) + tile.x;
            cv::Vec2f *to_first = at_first.ptr<cv::Vec2f>(y), *to_second = at_second.ptr<cv::Vec2f>(y);
            for (int x = 0; x < tile.width; ++x)
                for (int i = 0; i < 2; ++i) {
                    const float here = float(i == 0 ? tile.x + x : tile.y + y), moves = way_here[x][i] * scale[i];
                    to_first[x][i] = here - moves * share;
                    to_second[x][i] = here + moves * (1 - share);
                }
        }
        const cv::Mat was = taken(first, at_first, cv::INTER_LINEAR),
                      will_be = taken(second, at_second, cv::INTER_CUBIC);
        for (int y = 0; y < tile.height; ++y) {
            const cv::Vec4f *one = was.ptr<cv::Vec4f>(y), *other = will_be.ptr<cv::Vec4f>(y);
            cv::Vec4f* to = made.ptr<cv::Vec4f>(tile.y + y) + tile.x;
            const float *shows_first = in_first.ptr<float>(tile.y + y) + tile.x,
                        *shows_second = in_second.ptr<float>(tile.y + y) + tile.x,
                        *sure_here = sure.ptr<float>(tile.y + y) + tile.x;
            for (int x = 0; x < tile.width; ++x) {
                constexpr float least = 1e-6F; // where neither shows it, both do
                const float a = (1 - share) * (shows_first[x] + least), b = share * (shows_second[x] + least),
                            of_first = a / (a + b), trust = sure_here[x];
                for (int c = 0; c < 4; ++c) {
                    const float carried = other[x][c] + (one[x][c] - other[x][c]) * of_first;
                    to[x][c] += (carried - to[x][c]) * trust;
                }
            }
        }
    };
    constexpr int side = 64;
    const int across = (size.width + side - 1) / side, down = (size.height + side - 1) / side;
    tbb::parallel_for(0, across * down, [&](int i) {
        make_tile(cv::Rect(i % across * side, i / across * side, side, side) & cv::Rect({0, 0}, size));
    });
}

}

InBetween in_between(const Canvas& first, const Canvas& second, const DenseMotion& motion, double t)
{
    const auto share = float(t);
    InBetween made;
    cv::addWeighted(first, 1 - t, second, t, 0, made.picture);
    if (motion.part.empty())
        return made;
    cv::Mat2f way = MotionAt(motion, share).motion();
    // Carried to whole pixels it is rough, and its borders must stay where they are.
    std::array<cv::Mat1f, 2> parts;
    cv::split(way, parts.data());
    for (cv::Mat1f& part : parts)
        cv::medianBlur(part, part, 5);
    cv::merge(parts.data(), parts.size(), way);
    const cv::Mat2f in_first = places(way, -share), in_second = places(way, 1 - share);
    cv::Mat1f from_first = visible(in_first, way, motion.forth, 1);
    cv::Mat1f from_second = visible(in_second, way, motion.back, -1);
    const cv::Mat before = taken(motion.first, in_first, cv::INTER_LINEAR);
    const cv::Mat after = taken(motion.second, in_second, cv::INTER_LINEAR);

    // Against each other when moved, and when not; what one of them does not show says nothing.
    cv::Mat1f moved_apart(way.size()), says(way.size());
    tbb::parallel_for(0, way.rows, [&](int y) {
        for (int x = 0; x < way.cols; ++x) {
            constexpr float least = 0.02F; // it says little, and not nothing
            says(y, x) = std::max(least, std::min(from_first(y, x), from_second(y, x)));
            moved_apart(y, x) = says(y, x) * distance(before.at<cv::Vec3b>(y, x), after.at<cv::Vec3b>(y, x));
        }
    });
    for (cv::Mat1f* m : {&moved_apart, &says})
        cv::boxFilter(*m, *m, -1, {around, around});
    moved_apart /= says;
    // Something small that goes far differs where it comes from and where it goes to, and not on its way.
    cv::Mat1f apart = taken(motion.unmoved, in_first, cv::INTER_LINEAR);
    for (const cv::Mat& other : {taken(motion.unmoved, in_second, cv::INTER_LINEAR), cv::Mat(motion.unmoved)})
        cv::max(apart, other, apart);
    // Moved it fits better than unmoved, or it fits.
    cv::Mat1f fits(way.size());
    tbb::parallel_for(0, way.rows, [&](int y) {
        for (int x = 0; x < way.cols; ++x) {
            const float better = (0.8F * apart(y, x) - moved_apart(y, x)) / (0.35F * apart(y, x) + noise);
            fits(y, x) = std::clamp(std::max(better, 2 - moved_apart(y, x) / noise), 0.0F, 1.0F);
        }
    });
    cv::Mat1f trusted = spread(fits, says);
    for (int y = 0; y < way.rows; ++y)
        for (int x = 0; x < way.cols; ++x) {
            const float sure = 4 * std::max(from_first(y, x), from_second(y, x));
            trusted(y, x) *= std::min(1.0F, sure);
            if (apart(y, x) < noise)
                trusted(y, x) = 0; // a mix is the same
        }
    const cv::Mat1f carried = trusted.clone();
    cv::boxFilter(trusted, trusted, -1, {5, 5});
    for (cv::Mat1f* m : {&from_first, &from_second})
        cv::GaussianBlur(*m, *m, {}, edge_softness);

    const Canvas one = first(motion.part), other = second(motion.part);
    Canvas part = made.picture(motion.part);
    put_carried(one, other, share, way, trusted, from_first, from_second, part);
    cv::Mat1f of_layer(way.size(), 0.0F);
    if (const cv::Mat1f sure = put_layer(motion.layer, one, other, t, part); !sure.empty())
        cv::resize(sure, of_layer, way.size(), 0, 0, cv::INTER_AREA);
    double differs = 0, mixed = 0;
    for (int y = 0; y < way.rows; ++y)
        for (int x = 0; x < way.cols; ++x)
            if (const float by = apart(y, x); by > 4 * noise) {
                differs += double(by);
                mixed += double(by * (1 - std::max(carried(y, x), of_layer(y, x))));
            }
    made.mixed = differs > 0 ? mixed / differs : 0;
    return made;
}

}
