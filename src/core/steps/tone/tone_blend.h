#pragma once
#include "core/steps/tone/tone_values.h"

#include <vector>

namespace frenlo {

/// The tone of each photo of the shot: that of the shot where there is no anchor photo, and of the anchor where there
/// is one. Between anchors each value follows a monotone cubic (Fritsch, Carlson 1980; no overshoot, nowhere steeper
/// than twice the straight line), and stays beyond the outer ones: over the photos in the film, or over how bright they
/// are. Kelvin are blended as their reciprocals. A photo that was not measured takes its place between its neighbours.
std::vector<Tone> tones_of(const Shot& shot);
/// The same of one photo.
Tone tone_of(const Shot& shot, PhotoIndex photo);

/// The anchor photos, in order.
std::vector<PhotoIndex> anchors_of(const Shot& shot);

/// Values of a monotone cubic through points, level beyond them. x: ascending, no two the same; at least one point.
double monotone_cubic(std::span<const double> x, std::span<const double> y, double at);

}
