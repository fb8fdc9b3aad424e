#pragma once
#include "core/source/photo_file.h"
#include "core/steps/sort/scene_view.h"

#include <opencv2/core/mat.hpp>

namespace frenlo {

/// A photo seen small: enough to tell whether two photos show the same place, whether something filled the frame, and
/// whether one is much brighter. Light may change: structure is judged without slow changes of brightness.
struct PhotoSignature
{
    cv::Mat structure; ///< 48x32, 8 bit signed: local contrast
    cv::Mat colours; ///< how often each colour occurs, smoothed over CIE Lab (CIE 15:2004); 16 bit, sums to about 65535
    double stops = 0;    ///< mean brightness of linear light, log2; scene white is 0
    double filled = 0;   ///< share of the frame that has about the one most frequent colour, 0 to 1
    SceneView scene;     ///< larger, whatever the light
    double contrast = 0; ///< root mean square of structure; near 0 for an empty wall or a black frame

    [[nodiscard]] bool empty() const { return structure.empty(); }
};

/// pixels: B G R or B G R A, 8 or 16 bit, of any size, at least 1x1; small is enough and quick.
PhotoSignature signature_of(const cv::Mat& pixels);

/// How well the structures agree, -1 to 1, where one may be shifted against the other by up to a sixteenth of the
/// frame.
double same_structure(const PhotoSignature& a, const PhotoSignature& b);

/// How much of the colours they share, 0 to 1.
double same_colours(const PhotoSignature& a, const PhotoSignature& b);

/// How different two photos are, 0 to 1: only what differs in structure and in colour is different. A lamp switched on
/// changes the colours and leaves the structure, drifting clouds the reverse; a hand before the lens changes both.
double unlike(const PhotoSignature& a, const PhotoSignature& b);

/// The share of the frame, 0 to 1, in which the structures agree without any shift; of the parts that have structure in
/// both. What stays in place while a camera stands still. Nothing to compare gives 1.
double stands_still(const PhotoSignature& a, const PhotoSignature& b);

}
