#include "core/picture/layer_matte.h"

#include "core/picture/carried_on.h"
#include "core/picture/moved_pixels.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

cv::Mat round_brush(int radius)
{
    return cv::getStructuringElement(cv::MORPH_ELLIPSE, {2 * radius + 1, 2 * radius + 1});
}

cv::Vec3f colour(const cv::Vec4f& v)
{
    return {v[0], v[1], v[2]};
}

/// From where it is sure what is the layer and what is not, to where a picture has edges: 1, 0, and one half between.
cv::Mat1f divided(const cv::Mat3b& picture, const cv::Mat1b& is, const cv::Mat1b& is_not)
{
    constexpr int other = 1, layer = 2;
    cv::Mat1i parts(picture.size(), 0);
    parts.setTo(other, is_not);
    parts.setTo(layer, is);
    cv::watershed(picture, parts);
    cv::Mat1f mask(picture.size(), 0.0F);
    for (int y = 0; y < parts.rows; ++y)
        for (int x = 0; x < parts.cols; ++x) {
            // The border itself belongs to none: it is as what it touches.
            const int part =
                parts(std::clamp(y, 1, std::max(1, parts.rows - 2)), std::clamp(x, 1, std::max(1, parts.cols - 2)));
            mask(y, x) = part == layer ? 1.0F : part == other ? 0.0F : 0.5F;
        }
    return mask;
}

/// 1 where there is no layer so many pixels round about.
cv::Mat1f free_of(const cv::Mat1f& alpha, int away)
{
    constexpr float traces = 0.1F;
    cv::Mat1f wide, free(alpha.size());
    cv::dilate(alpha, wide, round_brush(away));
    for (int y = 0; y < alpha.rows; ++y)
        for (int x = 0; x < alpha.cols; ++x)
            free(y, x) = wide(y, x) > traces ? 0.0F : 1.0F;
    return free;
}

}

cv::Mat1f layer_mask(const cv::Mat3b& first, const cv::Mat1f& stays, const cv::Mat1f& moved, const cv::Mat2f& there)
{
    constexpr float sure = 3; // of 255
    const cv::Mat stays_there = taken(stays, there, cv::INTER_LINEAR);
    cv::Mat1f for_layer(stays.size());
    for (int y = 0; y < stays.rows; ++y)
        for (int x = 0; x < stays.cols; ++x)
            for_layer(y, x) = std::min(stays(y, x), stays_there.at<float>(y, x)) - moved(y, x);
    cv::boxFilter(for_layer, for_layer, -1, {5, 5});
    cv::Mat1b is, is_not;
    cv::compare(for_layer, sure, is, cv::CMP_GT);
    cv::compare(for_layer, -sure, is_not, cv::CMP_LT);
    for (cv::Mat1b* m : {&is, &is_not})
        cv::erode(*m, *m, cv::Mat::ones(3, 3, CV_8U));
    return divided(first, is, is_not);
}

cv::Mat1f enlarged_mask(const cv::Mat1f& mask, const cv::Mat3b& picture)
{
    if (mask.size() == picture.size())
        return mask;
    cv::Mat1f large;
    cv::resize(mask, large, picture.size(), 0, 0, cv::INTER_LINEAR);
    cv::Mat1b is, is_not;
    cv::compare(large, 0.99, is, cv::CMP_GT);
    cv::compare(large, 0.01, is_not, cv::CMP_LT);
    const int open = int(std::ceil(double(picture.cols) / mask.cols));
    for (cv::Mat1b* m : {&is, &is_not})
        cv::erode(*m, *m, cv::Mat::ones(2 * open + 1, 2 * open + 1, CV_8U));
    return divided(picture, is, is_not);
}

Background background_of(const Canvas& first, const Canvas& second, const cv::Mat1f& alpha_first,
                         const cv::Mat1f& alpha_second, int away)
{
    const cv::Mat1f free_first = free_of(alpha_first, away), free_second = free_of(alpha_second, away);
    Background found{Canvas(first.size()), cv::Mat1f(first.size())};
    for (int y = 0; y < first.rows; ++y)
        for (int x = 0; x < first.cols; ++x) {
            const float a = free_first(y, x), b = free_second(y, x);
            found.known(y, x) = std::max(a, b);
            found.picture(y, x) = a + b > 0 ? (first(y, x) * a + second(y, x) * b) * (1 / (a + b)) : cv::Vec4f();
        }
    found.picture = carried_on(found.picture, found.known);
    return found;
}

LayerEdge::LayerEdge(const cv::Mat1f& mask, const Canvas& own, const Canvas& other, const cv::Mat2f& there) : own_(own)
{
    constexpr int reach = 3; // pixels from the mask's edge, both ways, that may be partly the layer
    constexpr double softness = 0.8;
    cv::erode(mask, all_, round_brush(reach));
    cv::threshold(all_, all_, 0.99, 1, cv::THRESH_BINARY);
    cv::Mat1f some;
    cv::dilate(mask, some, round_brush(reach));
    cv::GaussianBlur(mask, soft_, {}, softness);
    inside_ = carried_on(own, all_);
    for (int y = 0; y < mask.rows; ++y)
        for (int x = 0; x < mask.cols; ++x)
            if (all_(y, x) <= 0 && some(y, x) > 0)
                edge_.emplace_back(x, y);
    constexpr int line = 1024; // remap takes no more than 32767 of either
    there_ = cv::Mat2f((int(edge_.size()) + line - 1) / line, line, cv::Vec2f());
    for (std::size_t i = 0; i < edge_.size(); ++i)
        there_(int(i) / line, int(i) % line) = there(edge_[i]);
    if (!edge_.empty())
        moved_ = taken(other, there_, cv::INTER_CUBIC);
}

cv::Mat1f LayerEdge::alpha(const Background& background) const
{
    constexpr float of_mask = 0.01F, of_inside = 0.06F; // what these say against two backgrounds, of light squared
    cv::Mat1f alpha = all_.clone();
    if (edge_.empty())
        return alpha;
    const cv::Mat4f behind_there = taken(background.picture, there_, cv::INTER_LINEAR);
    const cv::Mat1f known_there = taken(background.known, there_, cv::INTER_LINEAR);
    for (std::size_t i = 0; i < edge_.size(); ++i) {
        const cv::Point p = edge_[i];
        const cv::Vec3f f = colour(inside_(p)), c0 = colour(own_(p)), c1 = colour(moved_.at<cv::Vec4f>(int(i))),
                        b0 = colour(background.picture(p)), b1 = colour(behind_there(int(i)));
        const float k0 = background.known(p), k1 = known_there(int(i));
        // Least squares of what each says: c0 - c1 = (1 - alpha) (b0 - b1), c - b = alpha (f - b), alpha = soft.
        const cv::Vec3f b = b0 - b1;
        const float above = k0 * k1 * (b.dot(b) - b.dot(c0 - c1)) +
                            of_inside * (k0 * (c0 - b0).dot(f - b0) + k1 * (c1 - b1).dot(f - b1)) + of_mask * soft_(p);
        const float below =
            k0 * k1 * b.dot(b) + of_inside * (k0 * (f - b0).dot(f - b0) + k1 * (f - b1).dot(f - b1)) + of_mask;
        alpha(p) = std::clamp(above / below, 0.0F, 1.0F);
    }
    return alpha;
}

}
