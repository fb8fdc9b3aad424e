#include "core/picture/changes.h"
#include "core/picture/hidden_motion.h"
#include "core/picture/in_between.h"
#include "core/picture/large_moves.h"
#include "core/picture/moved_pixels.h"
#include "core/picture/picture.h"

#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>
#include <tbb/parallel_for.h>
#include <tbb/parallel_invoke.h>

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

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

/// How far each pixel of one picture looks other than what it becomes in the other.
cv::Mat1f off(const cv::Mat2f& motion, const cv::Mat3b& from, const cv::Mat3b& to)
{
    return apart(from, taken(to, places(motion, 1), cv::INTER_LINEAR));
}

/// How far the two are apart, around each place.
cv::Mat1f apart_unmoved(const cv::Mat3b& first, const cv::Mat3b& second)
{
    cv::Mat1f d = apart(first, second);
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
            const float may = 1 + 0.1F * std::sqrt(v.dot(v));
            hidden(y, x) = leaves || off.dot(off) > may * may ? 1 : 0;
        }
    });
    return hidden;
}

/// The part of the pictures that the search sees: it begins in coarse sizes, in which a small part would have no room
/// for what goes far.
cv::Rect seen_around(const cv::Rect& part, cv::Size pictures)
{
    constexpr double enough = 0.7; // of the pictures' longer side
    const int side = int(enough * std::max(pictures.width, pictures.height));
    const cv::Size size(std::min(pictures.width, std::max(part.width, side)),
                        std::min(pictures.height, std::max(part.height, side)));
    return {{std::clamp(part.x + (part.width - size.width) / 2, 0, pictures.width - size.width),
             std::clamp(part.y + (part.height - size.height) / 2, 0, pictures.height - size.height)},
            size};
}

/// The motion both ways in the part, whose maps have their size by now.
void search(const Canvas& first, const Canvas& second, double scale, DenseMotion& motion)
{
    const cv::Rect seen = seen_around(motion.part, first.size());
    const cv::Size part = motion.first.size(), size(std::max(part.width, int(std::lround(seen.width * scale))),
                                                    std::max(part.height, int(std::lround(seen.height * scale))));
    const cv::Point at(int(std::lround((motion.part.x - seen.x) * scale)),
                       int(std::lround((motion.part.y - seen.y) * scale)));
    const cv::Rect in_seen({std::min(at.x, size.width - part.width), std::min(at.y, size.height - part.height)}, part);
    cv::Mat3b from = motion.first, to = motion.second;
    if (seen != motion.part)
        tbb::parallel_invoke([&] { from = as_seen(first(seen), size); }, [&] { to = as_seen(second(seen), size); });
    tbb::parallel_invoke([&] { motion.forth = motion_from(from, to)(in_seen).clone(); },
                         [&] { motion.back = motion_from(to, from)(in_seen).clone(); });
}

/// What is as sure forth as back: where something is covered, something like it is found elsewhere, in one of the two.
void add_large_moves(DenseMotion& motion, int reach)
{
    constexpr double alike = 2.5;
    const cv::Mat1f forth_off = off(motion.forth, motion.first, motion.second);
    const cv::Mat1f back_off = off(motion.back, motion.second, motion.first);
    std::vector<cv::Vec2f> forth, back;
    tbb::parallel_invoke([&] { forth = large_moves(motion.first, motion.second, forth_off, reach); },
                         [&] { back = large_moves(motion.second, motion.first, back_off, reach); });
    std::erase_if(forth, [&](const cv::Vec2f& v) {
        return std::none_of(back.begin(), back.end(), [&](const cv::Vec2f& o) { return cv::norm(o + v) < alike; });
    });
    if (forth.empty())
        return;
    back = forth;
    for (cv::Vec2f& v : back)
        v = -v;
    tbb::parallel_invoke([&] { take_moves(motion.forth, forth_off, motion.first, motion.second, forth); },
                         [&] { take_moves(motion.back, back_off, motion.second, motion.first, back); });
}

}

DenseMotion dense_motion(const Canvas& first, const Canvas& second)
{
    constexpr int least_longer = 480, most_longer = 960;
    const int longer = std::max(first.cols, first.rows), side = std::clamp(longer / 2, least_longer, most_longer);
    const double scale = std::min(1.0, double(side) / longer);
    const Changes differ = changes(first, second);
    DenseMotion motion;
    motion.changes = differ.share;
    if (differ.part.empty())
        return motion;
    constexpr double margin = 24; // in which the search still sees what does not move
    const int around_part = int(std::ceil(margin / scale));
    motion.part = (differ.part + cv::Size(2 * around_part, 2 * around_part) - cv::Point(around_part, around_part)) &
                  cv::Rect({0, 0}, first.size());
    const cv::Size size(std::max(1, int(std::lround(motion.part.width * scale))),
                        std::max(1, int(std::lround(motion.part.height * scale))));
    tbb::parallel_invoke([&] { motion.first = as_seen(first(motion.part), size); },
                         [&] { motion.second = as_seen(second(motion.part), size); });
    constexpr int least_side = 32; // of what the search can work with
    if (std::min(size.width, size.height) < least_side) {
        motion.forth = cv::Mat2f(size, cv::Vec2f());
        motion.back = cv::Mat2f(size, cv::Vec2f());
        motion.first_only = motion.second_only = cv::Mat1b(size, std::uint8_t(0));
    } else {
        search(first, second, scale, motion);
        constexpr double far = 0.16; // of the pictures' longer side
        add_large_moves(motion, int(std::lround(far * longer * scale)));
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
    motion.layer = moving_layer(first(motion.part), second(motion.part), motion);
    return motion;
}

}
