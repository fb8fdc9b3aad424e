#pragma once
#include <span>
#include <vector>

namespace frenlo {

/// The part of a brightness that is surely flicker, whatever the light does, stops, one a photo: what goes along with
/// differences that light has no part in, and what comes again after so many photos. brightness: one a photo, in order.
/// differences: of tones or colours from each other, without what of them is slow; each as long as the brightness.
/// By least squares over what is quick (the difference of each photo from the line through its neighbours), without
/// photos that stand out; nought where that explains little. What a smooth course is fitted to afterwards is the rest
/// (a partly linear model: Speckman 1988).
std::vector<double> explained_flicker(std::span<const double> brightness,
                                      const std::vector<std::vector<double>>& differences);

}
