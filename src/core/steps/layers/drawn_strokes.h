#pragma once
#include "core/steps/layers/layer_values.h"

#include <span>

namespace frenlo {

/// Strokes as a photo that is a drawing, sharp at every size. on: the size of what is drawn on, pixels. Lines have
/// round ends; where the pen was pressed less they are thinner.
PhotoPtr drawn(std::span<const Stroke> strokes, cv::Size on, const std::string& name);

}
