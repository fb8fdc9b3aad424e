#pragma once
// What of two pictures is a layer that moves, and what lies behind it: the parts of moving_layer.h.
#include "core/picture/canvas.h"

#include <opencv2/core/mat.hpp>

#include <vector>

namespace frenlo {

/// Pixels of the layer in the first of two pictures, 1; others 0; on the line between them a half: what lies elsewhere
/// in the second, and neither there nor here stayed as it was. Where that cannot be told, since all looks the same, as
/// round about up to the outlines of things.
/// first: encoded; stays, moved: of each pixel, how far it looks other than what lies there in the second, and than
/// what lies where it goes to (there), 0 to 255. Flooding as in Meyer: Topographic distance and watershed lines (1994),
/// as OpenCV has it.
cv::Mat1f layer_mask(const cv::Mat3b& first, const cv::Mat1f& stays, const cv::Mat1f& moved, const cv::Mat2f& there);

/// What lies behind a layer.
struct Background
{
    Canvas picture;
    cv::Mat1f known; ///< 1: one of the two shows it; 0: as round about
};

/// A mask of a smaller picture, at this one's size: its edge goes along where this one has edges.
cv::Mat1f enlarged_mask(const cv::Mat1f& mask, const cv::Mat3b& picture);

/// Seen in the one or in the other, so many pixels away from the layer.
Background background_of(const Canvas& first, const Canvas& second, const cv::Mat1f& alpha_first,
                         const cv::Mat1f& alpha_second, int away);

/// How much of each pixel of a picture is the layer, 0 to 1: from the two backgrounds that an edge lies before, where
/// both are known (Smith, Blinn: Blue Screen Matting, 1996, section 4), and from one of them and the colour inside,
/// where only that is.
class LayerEdge
{
public:
    /// mask: about where it is; there: where each pixel goes to in the other picture.
    LayerEdge(const cv::Mat1f& mask, const Canvas& own, const Canvas& other, const cv::Mat2f& there);
    [[nodiscard]] cv::Mat1f alpha(const Background& background) const;

private:
    Canvas own_, inside_; ///< the picture; the colours well inside, carried on beyond the edge
    cv::Mat1f soft_;      ///< the mask with an edge as soft as edges are
    cv::Mat1f all_;       ///< 1 where it is surely the layer
    // Pixels that may be the layer in part, which are few; maps of them have a line for so many.
    std::vector<cv::Point> edge_;
    cv::Mat2f there_; ///< where each goes to
    cv::Mat moved_;   ///< and what lies there
};

}
