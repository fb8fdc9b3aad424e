#include "core/picture/laid_layers.h"

#include "core/picture/composition.h"
#include "core/picture/photo_drawing.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <optional>

namespace frenlo {

namespace {

/// Of one photo or drawing to which nothing is done: where it is transparent all round, that is left out. None: it is
/// more than that.
Result<std::optional<PlacedLayer>> placed_at_once(const LaidOver& layer, cv::Size frame, Depth depth,
                                                  const PhotoSource& source)
{
    const FrameRequest& request = *layer.picture;
    const auto* photo = request.lone_photo();
    if (!photo || request.is_finished() || !photo->stages.entries().empty() || photo->placement || photo->view ||
        photo->backdrop)
        return std::nullopt;
    auto drawing = drawing_of(*photo, request.size, depth, source);
    if (!drawing)
        return tl::unexpected(std::move(drawing.error()));
    if (drawing->at != cv::Rect({0, 0}, request.size))
        return std::nullopt;
    const cv::Mat& pixels = drawing->pixels;
    cv::Rect seen({0, 0}, pixels.size());
    if (pixels.channels() == 4) {
        cv::Mat alpha, there;
        cv::extractChannel(pixels, alpha, 3);
        cv::compare(alpha, 0, there, cv::CMP_GT);
        seen = cv::boundingRect(there);
    }
    if (seen.empty())
        return PlacedLayer{};
    const double across = double(request.size.width) / pixels.cols, down = double(request.size.height) / pixels.rows;
    LaidOver part = layer;
    part.to_frame = layer.to_frame * Transform{across, 0, 0, 0, down, 0, 0, 0, 1} *
                    Transform{1, 0, double(seen.x), 0, 1, double(seen.y), 0, 0, 1};
    return placed_layer(to_canvas(pixels(seen)), part, frame);
}

Result<PlacedLayer> placed(const LaidOver& layer, cv::Size frame, Depth depth, const PhotoSource& source)
{
    if (!layer.picture)
        return PlacedLayer{};
    auto at_once = placed_at_once(layer, frame, depth, source);
    if (!at_once)
        return tl::unexpected(std::move(at_once.error()));
    if (*at_once)
        return **std::move(at_once);
    const auto picture = compose(*layer.picture, depth, source);
    if (!picture)
        return tl::unexpected(picture.error());
    return placed_layer(picture->canvas, layer, frame);
}

void limit(PlacedLayer& layer, const cv::Mat1f& shares)
{
    const cv::Rect seen = layer.where & cv::Rect({0, 0}, shares.size());
    for (int y = seen.y; y < seen.br().y; ++y)
        for (int x = seen.x; x < seen.br().x; ++x)
            layer.pixels(y - layer.where.y, x - layer.where.x) *= shares(y, x);
}

}

void LaidPiece::put(int y, int begin, int end, float* bgra) const
{
    const cv::Rect& where = layer.where;
    const int from = std::max(begin, where.x), to = std::min(end, where.br().x);
    if (y < where.y || y >= where.br().y || from >= to)
        return;
    float* there = bgra + 4 * std::ptrdiff_t(from - begin);
    const float* own = layer.pixels.ptr<float>(y - where.y) + 4 * std::ptrdiff_t(from - where.x);
    behind ? blend_behind(there, own, to - from) : blend_onto(there, own, to - from, blend);
}

std::vector<const LaidOver*> in_order(const std::vector<LaidOver>& layers)
{
    std::vector<const LaidOver*> all;
    for (const LaidOver& layer : layers)
        if (!layer.behind)
            all.push_back(&layer);
    for (std::size_t i = layers.size(); i-- > 0;) // the highest comes first: it is nearest
        if (layers[i].behind)
            all.push_back(&layers[i]);
    return all;
}

Result<std::vector<LaidPiece>> laid_pieces(const LaidOver& layer, cv::Size frame, Depth depth,
                                           const PhotoSource& source)
{
    auto here = placed(layer, frame, depth, source);
    if (!here)
        return tl::unexpected(std::move(here.error()));
    std::vector<LaidPiece> pieces;
    if (here->where.empty())
        return pieces;
    if (layer.matte) {
        const auto by = layer.matte->by ? placed(*layer.matte->by, frame, depth, source) : PlacedLayer{};
        if (!by)
            return tl::unexpected(by.error());
        limit(*here, matte_shares(*by, *layer.matte, frame));
    }
    PlacedLayer shadow = layer.shadow ? shadow_of(*here, *layer.shadow, frame) : PlacedLayer{};
    if (layer.behind) {
        pieces.push_back({std::move(*here), Blend::over, true});
        pieces.push_back({std::move(shadow), Blend::over, true});
    } else {
        pieces.push_back({std::move(shadow)});
        pieces.push_back({std::move(*here), layer.blend});
    }
    std::erase_if(pieces, [&](const LaidPiece& p) { return (p.layer.where & cv::Rect({0, 0}, frame)).empty(); });
    return pieces;
}

void LaidLayers::put(int y, int begin, int end, float* bgra) const
{
    for (const LaidPiece& piece : pieces)
        piece.put(y, begin, end, bgra);
}

cv::Range LaidLayers::part(int y, int width) const
{
    cv::Range all(width, 0);
    for (const LaidPiece& piece : pieces)
        if (const cv::Rect& where = piece.layer.where; y >= where.y && y < where.br().y) {
            all.start = std::min(all.start, std::max(0, where.x));
            all.end = std::max(all.end, std::min(width, where.br().x));
        }
    return all.start < all.end ? all : cv::Range(0, 0);
}

Result<LaidLayers> laid_layers(const FrameRequest& request, Depth depth, const PhotoSource& source, std::size_t room)
{
    LaidLayers laid;
    std::size_t pixels = 0;
    for (const LaidOver* layer : in_order(request.layers)) {
        if (pixels > room)
            break;
        auto pieces = laid_pieces(*layer, request.size, depth, source);
        if (!pieces)
            return tl::unexpected(std::move(pieces.error()));
        for (LaidPiece& piece : *pieces) {
            pixels += piece.layer.pixels.total();
            laid.pieces.push_back(std::move(piece));
        }
        ++laid.layers;
    }
    return laid;
}

}
