#pragma once
#include "core/base/problem.h"
#include "core/picture/frame_request.h"
#include "core/source/photo_source.h"

#include <cstddef>
#include <vector>

namespace frenlo {

/// A layer in its place in the frame, or its shadow, ready to be put there.
struct LaidPiece
{
    PlacedLayer layer;
    Blend blend = Blend::over;
    bool behind = false; ///< what is there; else onto it

    /// Onto the pixels [begin, end) of a row of the frame, as a Canvas has them.
    void put(int y, int begin, int end, float* bgra) const;
};

/// A frame's layers in the order in which they are put there: those over it, the lowest first, then those behind it,
/// the nearest first.
std::vector<const LaidOver*> in_order(const std::vector<LaidOver>& layers);

/// What there is to put for one layer of a frame of this size, made of pictures for a result of this depth.
Result<std::vector<LaidPiece>> laid_pieces(const LaidOver& layer, cv::Size frame, Depth depth,
                                           const PhotoSource& source);

/// As many of a frame's layers, in order, as there is room for.
struct LaidLayers
{
    std::vector<LaidPiece> pieces;
    std::size_t layers = 0; ///< so many of them

    void put(int y, int begin, int end, float* bgra) const;
    /// The part of this row of a frame in which one lies.
    [[nodiscard]] cv::Range part(int y, int width) const;
};
/// room: pixels that they may have; one that has more is the last.
Result<LaidLayers> laid_layers(const FrameRequest& request, Depth depth, const PhotoSource& source, std::size_t room);

}
