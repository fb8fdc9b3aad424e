#include "core/picture/in_between.h"

#include "core/picture/hidden_motion.h"
#include "core/picture/picture.h"

#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>
#include <tbb/parallel_for.h>
#include <tbb/parallel_invoke.h>

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo {

namespace {

constexpr float disagreeing = 2;          ///< pixels by which the ways forth and back may differ and still be one
constexpr float disagreeing_share = 0.2F; ///< and of the way
constexpr double edge_softness = 1.25;    ///< sigma, pixels: of what is seen in one only
constexpr int around = 9;                 ///< pixels over which differences are averaged, since one alone is noise
constexpr float noise = 1.5F;             ///< of 255: what differs less does not differ

/// As the eye sees it, small: the root of light is near enough to what the eye makes of it.
cv::Mat3b seen(const Canvas& picture, cv::Size size)
{
    Canvas small = picture;
    if (size != picture.size())
        cv::resize(picture, small, size, 0, 0, cv::INTER_AREA);
    cv::Mat3b bgr(size);
    tbb::parallel_for(0, size.height, [&](int y) {
        for (int x = 0; x < size.width; ++x)
            for (int c = 0; c < 3; ++c)
                bgr(y, x)[c] = cv::saturate_cast<std::uint8_t>(255 * std::sqrt(std::max(0.0F, small(y, x)[c])));
    });
    return bgr;
}

/// How far two colours are apart, 0 to 255.
float distance(const cv::Vec3b& a, const cv::Vec3b& b)
{
    return float(std::abs(a[0] - b[0]) + std::abs(a[1] - b[1]) + std::abs(a[2] - b[2])) / 3;
}

cv::Mat2f motion_from(const cv::Mat3b& first, const cv::Mat3b& second)
{
    cv::Mat1b from, to;
    cv::cvtColor(first, from, cv::COLOR_BGR2GRAY);
    cv::cvtColor(second, to, cv::COLOR_BGR2GRAY);
    const auto search = cv::DISOpticalFlow::create(cv::DISOpticalFlow::PRESET_MEDIUM);
    cv::Mat2f motion;
    search->calc(from, to, motion);
    return motion;
}

/// Pixels of a picture from where each place says, float coordinates.
template <class Picture>
cv::Mat taken(const Picture& picture, const cv::Mat2f& from, int interpolation)
{
    cv::Mat out;
    cv::remap(picture, out, from, {}, interpolation, cv::BORDER_REPLICATE);
    return out;
}

/// Each pixel's own place and so much of its motion.
cv::Mat2f places(const cv::Mat2f& motion, float share)
{
    cv::Mat2f at(motion.size());
    tbb::parallel_for(0, motion.rows, [&](int y) {
        for (int x = 0; x < motion.cols; ++x)
            at(y, x) = cv::Vec2f(float(x), float(y)) + motion(y, x) * share;
    });
    return at;
}

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
            const float may = disagreeing + disagreeing_share * std::hypot(v[0], v[1]);
            sure(y, x) = std::exp(-off.dot(off) / (may * may));
        }
    });
    return sure;
}

/// How far each pixel of one picture looks other than what it becomes in the other.
cv::Mat1f off(const cv::Mat2f& motion, const cv::Mat3b& from, const cv::Mat3b& to)
{
    const cv::Mat3b arrives = taken(to, places(motion, 1), cv::INTER_LINEAR);
    cv::Mat1f d(motion.size());
    tbb::parallel_for(0, motion.rows, [&](int y) {
        for (int x = 0; x < motion.cols; ++x)
            d(y, x) = distance(from(y, x), arrives(y, x));
    });
    return d;
}

/// How far the two are apart, around each place.
cv::Mat1f apart_unmoved(const cv::Mat3b& first, const cv::Mat3b& second)
{
    cv::Mat1f d(first.size());
    tbb::parallel_for(0, first.rows, [&](int y) {
        for (int x = 0; x < first.cols; ++x)
            d(y, x) = distance(first(y, x), second(y, x));
    });
    cv::boxFilter(d, d, -1, {around, around});
    return d;
}

/// What the other picture does not show: its way there and the way back from there are not the same.
cv::Mat1b hidden_in_other(const cv::Mat2f& motion, const cv::Mat2f& back)
{
    const cv::Mat2f at = places(motion, 1);
    const cv::Mat there = taken(back, at, cv::INTER_LINEAR);
    cv::Mat1b hidden(motion.size());
    tbb::parallel_for(0, motion.rows, [&](int y) {
        for (int x = 0; x < motion.cols; ++x) {
            const cv::Vec2f &v = motion(y, x), off = v + there.at<cv::Vec2f>(y, x), p = at(y, x);
            const bool leaves = p[0] < 0 || p[1] < 0 || p[0] > float(at.cols - 1) || p[1] > float(at.rows - 1);
            const float may = 1 + 0.1F * std::hypot(v[0], v[1]);
            hidden(y, x) = leaves || off.dot(off) > may * may ? 1 : 0;
        }
    });
    return hidden;
}

/// The pictures themselves, at their own size: carried where that is trusted, else mixed. way and the shares may be
/// smaller.
Canvas carried_there(const Canvas& first, const Canvas& second, float share, const cv::Mat2f& way,
                     const cv::Mat1f& trusted, const cv::Mat1f& from_first, const cv::Mat1f& from_second)
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
    Canvas made(size);
    const auto make_tile = [&](const cv::Rect& tile) {
        const bool carries = cv::countNonZero(sure(tile)) > 0; // most of most pictures stands still
        cv::Mat4f was, will_be;
        if (carries) {
            cv::Mat2f at_first(tile.size()), at_second(tile.size());
            for (int y = 0; y < tile.height; ++y)
                for (int x = 0; x < tile.width; ++x) {
                    const cv::Vec2f here(float(tile.x + x), float(tile.y + y)),
                        moves = v(tile.y + y, tile.x + x).mul(scale);
                    at_first(y, x) = here - moves * share;
                    at_second(y, x) = here + moves * (1 - share);
                }
            was = taken(first, at_first, cv::INTER_LINEAR);
            will_be = taken(second, at_second, cv::INTER_CUBIC);
        }
        for (int y = tile.y; y < tile.br().y; ++y)
            for (int x = tile.x; x < tile.br().x; ++x) {
                const cv::Vec4f mix = first(y, x) * (1 - share) + second(y, x) * share;
                made(y, x) = mix;
                if (!carries)
                    continue;
                constexpr float least = 1e-6F; // where neither shows it, both do
                const float a = (1 - share) * (in_first(y, x) + least), b = share * (in_second(y, x) + least);
                const cv::Vec4f carried =
                    (was(y - tile.y, x - tile.x) * a + will_be(y - tile.y, x - tile.x) * b) * (1 / (a + b));
                made(y, x) += (carried - mix) * sure(y, x);
            }
    };
    constexpr int side = 64;
    const int across = (size.width + side - 1) / side, down = (size.height + side - 1) / side;
    tbb::parallel_for(0, across * down, [&](int i) {
        make_tile(cv::Rect(i % across * side, i / across * side, side, side) & cv::Rect({0, 0}, size));
    });
    return made;
}

}

DenseMotion dense_motion(const Canvas& first, const Canvas& second)
{
    cv::Size size = first.size();
    constexpr int least_longer = 480, most_longer = 960;
    const int longer = std::max(size.width, size.height);
    if (const int side = std::clamp(longer / 2, least_longer, most_longer); side < longer)
        size = fitted(size, {side, side});
    DenseMotion motion;
    tbb::parallel_invoke([&] { motion.first = seen(first, size); }, [&] { motion.second = seen(second, size); });
    constexpr int least_side = 32; // of what the search can work with
    if (std::min(size.width, size.height) < least_side) {
        motion.forth = cv::Mat2f(size, cv::Vec2f());
        motion.back = cv::Mat2f(size, cv::Vec2f());
        motion.first_only = motion.second_only = cv::Mat1b(size, std::uint8_t(0));
    } else {
        tbb::parallel_invoke([&] { motion.forth = motion_from(motion.first, motion.second); },
                             [&] { motion.back = motion_from(motion.second, motion.first); });
        motion.first_only = hidden_in_other(motion.forth, motion.back);
        motion.second_only = hidden_in_other(motion.back, motion.forth);
        // At the outlines themselves a motion is that of the one or of the other side.
        const auto with_edge = [](const cv::Mat1b& hidden) {
            cv::Mat1b wider;
            cv::dilate(hidden, wider, cv::Mat::ones(3, 3, CV_8U));
            return wider;
        };
        tbb::parallel_invoke([&] { fill_hidden(motion.forth, with_edge(motion.first_only), motion.first); },
                             [&] { fill_hidden(motion.back, with_edge(motion.second_only), motion.second); });
    }
    motion.forth_off = off(motion.forth, motion.first, motion.second);
    motion.back_off = off(motion.back, motion.second, motion.first);
    motion.unmoved = apart_unmoved(motion.first, motion.second);
    return motion;
}

InBetween in_between(const Canvas& first, const Canvas& second, const DenseMotion& motion, double t)
{
    const auto share = float(t);
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
    cv::Mat1f trusted(way.size());
    InBetween made;
    double differs = 0, mixed = 0;
    for (int y = 0; y < way.rows; ++y)
        for (int x = 0; x < way.cols; ++x) {
            const float better = (0.8F * apart(y, x) - moved_apart(y, x)) / (0.35F * apart(y, x) + noise);
            const float sure = 4 * std::max(from_first(y, x), from_second(y, x));
            trusted(y, x) = std::clamp(better, 0.0F, 1.0F) * std::min(1.0F, sure);
            if (apart(y, x) > 4 * noise) {
                differs += double(apart(y, x));
                mixed += double(apart(y, x) * (1 - trusted(y, x)));
            }
        }
    made.mixed = differs > 0 ? mixed / differs : 0;
    cv::boxFilter(trusted, trusted, -1, {5, 5});
    for (cv::Mat1f* m : {&from_first, &from_second})
        cv::GaussianBlur(*m, *m, {}, edge_softness);

    made.picture = carried_there(first, second, share, way, trusted, from_first, from_second);
    return made;
}

}
