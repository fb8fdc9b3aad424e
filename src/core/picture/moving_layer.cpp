#include "core/picture/moving_layer.h"

#include "core/picture/carried_on.h"
#include "core/picture/in_between.h"
#include "core/picture/moved_pixels.h"

#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>
#include <tbb/parallel_invoke.h>

#include <algorithm>
#include <cmath>
#include <vector>

namespace frenlo {

namespace {

constexpr float noise = 3;        ///< of 255: what differs less does not differ
constexpr float least_way = 0.6F; ///< pixels of the motion's own size: what goes less stands still

/// Where a motion is surely that of something that moves: neither there nor here it stayed as it was, and moved it
/// fits. off, stays: of each pixel, how far it looks other than what it becomes, and than what lies there in the other.
cv::Mat1b surely_moves(const cv::Mat2f& motion, const cv::Mat1f& off, const cv::Mat1f& stays)
{
    const cv::Mat stays_there = taken(stays, places(motion, 1), cv::INTER_LINEAR);
    cv::Mat1f fits(motion.size());
    for (int y = 0; y < motion.rows; ++y)
        for (int x = 0; x < motion.cols; ++x) {
            const cv::Vec2f& v = motion(y, x);
            const bool goes = std::abs(v[0]) + std::abs(v[1]) > least_way;
            fits(y, x) = goes ? std::min(stays(y, x), stays_there.at<float>(y, x)) - off(y, x) : -off(y, x);
        }
    cv::boxFilter(fits, fits, -1, {5, 5});
    cv::Mat1b sure;
    cv::compare(fits, noise, sure, cv::CMP_GT);
    cv::erode(sure, sure, cv::Mat::ones(5, 5, CV_8U));
    return sure;
}

/// Of one picture: its motion to the other, as far as it is known.
struct OneWay
{
    const cv::Mat2f& motion;
    cv::Mat1b sure; ///< where the motion is that of something that moves

    /// The motion where it is sure, and carried on from there.
    [[nodiscard]] cv::Mat2f carried() const
    {
        cv::Mat1f known(motion.size(), 0.0F);
        known.setTo(1, sure);
        return carried_on(motion, known);
    }

    /// Near an edge motion may be of either side: it is sure well inside of the layer, now that this is known.
    void look_inside(const cv::Mat1f& half_mask)
    {
        cv::Mat1f mask;
        cv::resize(half_mask, mask, motion.size(), 0, 0, cv::INTER_LINEAR);
        cv::Mat1b is;
        cv::compare(mask, 0.99, is, cv::CMP_GT);
        cv::Mat1f depth;
        cv::distanceTransform(is, depth, cv::DIST_L2, 3);
        cv::Mat1i things;
        std::vector<float> deepest(std::size_t(cv::connectedComponents(is, things)), 0.0F);
        for (int y = 0; y < is.rows; ++y)
            for (int x = 0; x < is.cols; ++x) {
                float& d = deepest[std::size_t(things(y, x))];
                d = std::max(d, depth(y, x));
            }
        constexpr float deep = 7, of_thin = 0.5F; // pixels; of what is thinner, its middle
        cv::Mat1b inside(motion.size());
        for (int y = 0; y < is.rows; ++y)
            for (int x = 0; x < is.cols; ++x) {
                // Where all looks the same the mask goes too far, and what stands still there would say that it is it.
                const bool far = depth(y, x) > std::min(deep, of_thin * deepest[std::size_t(things(y, x))]);
                inside(y, x) = far && sure(y, x) != 0 ? 255 : 0;
            }
        if (cv::countNonZero(inside) > 0)
            sure = inside;
    }
};

/// Of two pictures of one size, what of each is the layer; a motion of it given, both ways.
struct Masks
{
    cv::Mat2f there, back_there;                  ///< where each pixel goes to
    cv::Mat1f stays;                              ///< how far each pixel looks other than what lies there in the other
    cv::Mat1f moved, moved_back, first, second{}; ///< and than what it becomes; the masks

    Masks(const cv::Mat3b& one, const cv::Mat3b& other, const cv::Mat2f& way, const cv::Mat2f& back)
        : there(places(way, 1)), back_there(places(back, 1)), stays(apart(one, other)),
          moved(apart(one, taken(other, there, cv::INTER_CUBIC))),
          moved_back(apart(other, taken(one, back_there, cv::INTER_CUBIC)))
    {
        tbb::parallel_invoke([&] { first = layer_mask(one, stays, moved, there); },
                             [&] { second = layer_mask(other, stays, moved_back, back_there); });
    }

    /// What changes otherwise, of 255: it does not move with the layer, nor does it stand still, nor does the layer
    /// come or go; and what comes or goes is found in the other picture. alpha: of the two.
    [[nodiscard]] cv::Mat1f left_over(const cv::Mat1f& alpha_first, const cv::Mat1f& alpha_second) const
    {
        const cv::Mat arrives = taken(alpha_second, there, cv::INTER_LINEAR),
                      came_from = taken(alpha_first, back_there, cv::INTER_LINEAR);
        cv::Mat1f left(stays.size(), 0.0F);
        for (int y = 0; y < left.rows; ++y)
            for (int x = 0; x < left.cols; ++x) {
                const float a = alpha_first(y, x), b = alpha_second(y, x);
                if (a >= 1)
                    left(y, x) = arrives.at<float>(y, x) > 0 ? moved(y, x) : stays(y, x);
                else if (a <= 0 && (b <= 0 || (b >= 1 && came_from.at<float>(y, x) <= 0)))
                    left(y, x) = stays(y, x);
            }
        return left;
    }
};

/// Of all that changes, the share that is left over.
double share_left(const cv::Mat1f& left, const cv::Mat1f& stays)
{
    double of_left = 0, of_all = 0;
    for (int y = 0; y < left.rows; ++y)
        for (int x = 0; x < left.cols; ++x) {
            of_left += double(std::max(0.0F, left(y, x) - 2 * noise));
            of_all += double(std::max(0.0F, stays(y, x) - 2 * noise));
        }
    return of_all > 0 ? of_left / of_all : 0;
}

/// How sure it is that the layer is all: what is left over has its reason near by, a thing whose motion was not found.
cv::Mat1f explained_where(const cv::Mat1f& left)
{
    constexpr int near = 25;
    constexpr float enough = 7 * noise;
    cv::Mat1f most, explained(left.size());
    cv::boxFilter(left, most, -1, {around, around});
    cv::dilate(most, most, cv::Mat::ones(near, near, CV_8U));
    for (int y = 0; y < left.rows; ++y)
        for (int x = 0; x < left.cols; ++x)
            explained(y, x) = std::clamp(2 - most(y, x) / enough, 0.0F, 1.0F);
    return explained;
}

/// A motion between pictures of another size.
cv::Mat2f way_at_size(const cv::Mat2f& motion, cv::Size size)
{
    cv::Mat2f other;
    cv::resize(motion, other, size, 0, 0, size.width < motion.cols ? cv::INTER_AREA : cv::INTER_LINEAR);
    const cv::Vec2f scale(float(size.width) / float(motion.cols), float(size.height) / float(motion.rows));
    for (cv::Vec2f& v : other)
        v = v.mul(scale);
    return other;
}

/// Masks in half of the motion's own size: enough to say whether it is a layer, and where well inside of it.
Masks half_masks(const DenseMotion& motion, const cv::Mat2f& way, const cv::Mat2f& back)
{
    const cv::Size half((way.cols + 1) / 2, (way.rows + 1) / 2);
    cv::Mat3b first, second;
    cv::resize(motion.first, first, half, 0, 0, cv::INTER_AREA);
    cv::resize(motion.second, second, half, 0, 0, cv::INTER_AREA);
    return {first, second, way_at_size(way, half), way_at_size(back, half)};
}

/// The layer alone, multiplied by its alpha.
Canvas alone(const Canvas& picture, const cv::Mat1f& alpha, const Canvas& background)
{
    Canvas thing(picture.size());
    tbb::parallel_for(0, thing.rows, [&](int y) {
        for (int x = 0; x < thing.cols; ++x)
            thing(y, x) = picture(y, x) - background(y, x) * (1 - alpha(y, x));
    });
    return thing;
}

/// Where what lies at t was in the first: the way of the place it was at is asked until it agrees.
cv::Mat2f places_before(const cv::Mat2f& way, float t)
{
    cv::Mat2f was = places(way, -t);
    for (int again = 0; again < 3; ++again)
        was = places(taken(way, was, cv::INTER_LINEAR), -t);
    return was;
}

/// A layer as it lies at t.
struct LayerAt
{
    cv::Mat2f was, will_be; ///< where what lies here was in the first and will be in the second
    cv::Mat1f of_first;     ///< the share that is taken from the first, the rest from the second
    cv::Mat1f outside;      ///< how much of each pixel is what lies behind

    LayerAt(const MovingLayer& layer, float t) : was(places_before(layer.way, t))
    {
        const cv::Mat way = taken(layer.way, was, cv::INTER_LINEAR);
        cv::add(was, way, will_be);
        cv::Mat alpha_first, alpha_second, known_first, known_second;
        tbb::parallel_invoke(
            [&] {
                alpha_first = taken(layer.alpha_first, was, cv::INTER_CUBIC);
                known_first = taken(layer.background.known, was, cv::INTER_LINEAR);
            },
            [&] {
                alpha_second = taken(layer.alpha_second, will_be, cv::INTER_CUBIC);
                known_second = taken(layer.background.known, will_be, cv::INTER_LINEAR);
            });
        of_first.create(was.size());
        outside.create(was.size());
        tbb::parallel_for(0, was.rows, [&](int y) {
            for (int x = 0; x < was.cols; ++x) {
                const float a = std::clamp(alpha_first.at<float>(y, x), 0.0F, 1.0F),
                            b = std::clamp(alpha_second.at<float>(y, x), 0.0F, 1.0F);
                // Of an edge the one whose background is known says more.
                constexpr float little = 0.02F;
                const float say_first = (1 - t) * (a + (1 - a) * (known_first.at<float>(y, x) + little)),
                            say_second = t * (b + (1 - b) * (known_second.at<float>(y, x) + little));
                const float f = say_first / (say_first + say_second);
                of_first(y, x) = f;
                outside(y, x) = 1 - a * f - b * (1 - f);
            }
        });
    }
};

}

std::size_t MovingLayer::bytes() const
{
    std::size_t sum = 0;
    for (const cv::Mat& m : std::initializer_list<cv::Mat>{way, alpha_first, alpha_second, background.picture,
                                                           background.known, explained})
        sum += m.total() * m.elemSize();
    return sum;
}

MovingLayer moving_layer(const Canvas& first, const Canvas& second, const DenseMotion& motion)
{
    constexpr double most_changes = 0.5; // where more does, the camera moves
    if (motion.changes > most_changes)
        return {};
    const cv::Mat1f stays = apart(motion.first, motion.second);
    OneWay forth{motion.forth, surely_moves(motion.forth, motion.forth_off, stays)};
    OneWay back{motion.back, surely_moves(motion.back, motion.back_off, stays)};
    if (cv::countNonZero(forth.sure) == 0 || cv::countNonZero(back.sure) == 0)
        return {};
    const Masks small = half_masks(motion, forth.carried(), back.carried());
    constexpr double most_left = 0.1, few_left = 0.03, many_left = 0.07;
    if (share_left(small.left_over(small.first, small.second), small.stays) > most_left)
        return {};
    forth.look_inside(small.first);
    back.look_inside(small.second);

    MovingLayer layer;
    const cv::Mat2f way = forth.carried(), way_back = back.carried();
    const Masks masks(motion.first, motion.second, way, way_back);
    if (cv::countNonZero(masks.first) == 0 || cv::countNonZero(masks.second) == 0)
        return {};
    // What lies behind is seen farther in as soon as it is known how far an edge's pixels are the layer.
    layer.way = way_at_size(way, first.size());
    tbb::parallel_invoke([&] { layer.alpha_first = enlarged_mask(masks.first, as_seen(first, first.size())); },
                         [&] { layer.alpha_second = enlarged_mask(masks.second, as_seen(second, second.size())); });
    const LayerEdge edge(layer.alpha_first, first, second, places(layer.way, 1)),
        edge_second(layer.alpha_second, second, first, places(way_at_size(way_back, first.size()), 1));
    for (const int away : {3, 0}) {
        layer.background = background_of(first, second, layer.alpha_first, layer.alpha_second, away);
        tbb::parallel_invoke([&] { layer.alpha_first = edge.alpha(layer.background); },
                             [&] { layer.alpha_second = edge_second.alpha(layer.background); });
    }
    const auto small_alpha = [&](const cv::Mat1f& alpha) {
        cv::Mat1f m;
        cv::resize(alpha, m, way.size(), 0, 0, cv::INTER_AREA);
        return m;
    };
    const cv::Mat1f left = masks.left_over(small_alpha(layer.alpha_first), small_alpha(layer.alpha_second));
    const double share = share_left(left, masks.stays);
    if (share >= many_left)
        return {};
    cv::resize(explained_where(left), layer.explained, first.size(), 0, 0, cv::INTER_LINEAR);
    layer.explained *= std::min(1.0, (many_left - share) / (many_left - few_left));
    return layer;
}

cv::Mat1f put_layer(const MovingLayer& layer, const Canvas& first, const Canvas& second, double t, Canvas& made)
{
    if (layer.empty())
        return {};
    const auto share = float(t);
    const LayerAt at(layer, share);
    // Well inside, things may move in themselves: there each pixel's own motion knows better.
    constexpr int edge = 6;
    cv::Mat1f near;
    cv::dilate(at.outside, near, cv::getStructuringElement(cv::MORPH_ELLIPSE, {2 * edge + 1, 2 * edge + 1}));
    cv::GaussianBlur(near, near, {}, 2);
    cv::Mat1f sure(made.size(), 0.0F);
    const Canvas& behind = layer.background.picture;
    const Canvas thing_first = alone(first, layer.alpha_first, behind),
                 thing_second = alone(second, layer.alpha_second, behind);
    const auto put = [&](const cv::Rect& tile) {
        cv::Mat1f sure_here = sure(tile);
        cv::min(layer.explained(tile), taken(layer.explained, at.was(tile), cv::INTER_LINEAR), sure_here);
        cv::multiply(sure_here, near(tile), sure_here);
        if (cv::countNonZero(sure_here) == 0)
            return;
        cv::Mat from_first, from_second; // not needed where the layer isn't
        if (const bool has_layer = cv::countNonZero(at.outside(tile) < 1) > 0; has_layer) {
            from_first = taken(thing_first, at.was(tile), cv::INTER_CUBIC);
            from_second = taken(thing_second, at.will_be(tile), cv::INTER_CUBIC);
        }
        for (int y = 0; y < tile.height; ++y)
            for (int x = 0; x < tile.width; ++x) {
                const cv::Point p(tile.x + x, tile.y + y);
                // What stands still is as it was at t where both show it, since light may change.
                const bool both = layer.alpha_first(p) <= 0 && layer.alpha_second(p) <= 0;
                cv::Vec4f laid = both ? cv::Vec4f(first(p) * (1 - share) + second(p) * share) : behind(p);
                if (!from_first.empty())
                    laid = laid * at.outside(p) + from_first.at<cv::Vec4f>(y, x) * at.of_first(p) +
                           from_second.at<cv::Vec4f>(y, x) * (1 - at.of_first(p));
                cv::Vec4f& here = made(p);
                here += (laid - here) * sure_here(y, x);
            }
    };
    constexpr int side = 64;
    const int across = (made.cols + side - 1) / side, down = (made.rows + side - 1) / side;
    tbb::parallel_for(0, across * down, [&](int i) {
        put(cv::Rect(i % across * side, i / across * side, side, side) & cv::Rect({0, 0}, made.size()));
    });
    return sure;
}

}
