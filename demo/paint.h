#pragma once
// Drawing that looks photographed: everything is linear light, B G R, 1 is white; paper has fibres and casts shadows.
#include <opencv2/core/mat.hpp>

#include <cstdint>
#include <vector>

namespace frenlo::demo {

using Scene = cv::Mat3f;
using Outline = std::vector<cv::Point2f>;

/// A colour given as sRGB code values, in linear light.
cv::Vec3f paint(int red, int green, int blue);

/// Fibres, specks and slow clouds around 1, as paper or plaster has them. strength: relative, 0.02 faint to 0.15 rough.
cv::Mat1f fibres(cv::Size size, std::uint64_t seed, float strength);

/// Wood grain along x, around 1.
cv::Mat1f grain(cv::Size size, std::uint64_t seed, float strength);

/// 1 inside the outline, soft at its edge by blur pixels.
cv::Mat1f filled(cv::Size size, const Outline& outline, float blur = 0.7F);

struct Shadow
{
    cv::Point2f offset{4, 7};
    float blur = 8;
    float strength = 0.45F; ///< share of light that is taken away
};

/// Lays coloured, textured paper of this shape on the scene, with its shadow under it.
void lay(Scene& scene, const cv::Mat1f& shape, cv::Vec3f colour, const cv::Mat1f& texture, const Shadow& shadow = {});

/// Lamp light: brightest at centre, down to rest at radius and beyond.
void light_from(Scene& scene, cv::Point2f centre, float radius, float rest);

/// An outline through points, rounded by cubic arcs.
Outline smooth_line(const Outline& points, int steps);

/// A band of this width along a line, tapered to width_end.
Outline band(const Outline& line, float width_begin, float width_end);

}
