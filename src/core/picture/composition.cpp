#include "core/picture/composition.h"

#include "core/picture/in_between.h"
#include "core/picture/long_shutter.h"
#include "core/picture/moving_frames.h"
#include "core/picture/photo_drawing.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>

#include <optional>

namespace frenlo {

namespace {

/// The parts' sum, or what is wrong with one of them.
class Summed
{
public:
    Summed(const FrameRequest& request, Depth depth, const PhotoSource& source)
        : source_(source), depth_(depth), sum_(request.size, cv::Vec4f())
    {
        add(request, 1);
        bool laid = false; // the layers have their place among what is done to the frame
        for (const auto& stage : request.finish.entries()) {
            if (!laid && stage.type->order > frame_order::layers) {
                lay_all(request);
                laid = true;
            }
            if (!failed_)
                stage.type->apply(stage.value.get(), sum_);
        }
        if (!laid)
            lay_all(request);
    }
    [[nodiscard]] const std::optional<Problem>& failed() const { return failed_; }
    [[nodiscard]] bool alpha() const { return alpha_; }
    [[nodiscard]] const Canvas& canvas() const { return sum_; }

private:
    void add(const FrameRequest& request, double weight)
    {
        if ((request.motion || request.shutter > 0) && request.parts.size() == 2) {
            add_moving(request, weight);
            return;
        }
        for (const FramePart& part : request.parts) {
            if (failed_)
                return;
            if (part.weight == 0)
                continue;
            const auto* frame = std::get_if<std::shared_ptr<const FrameRequest>>(&part.what);
            if (part.edge || (frame && is_finished(**frame)))
                add_by_itself(part, weight * part.weight);
            else if (frame)
                add(**frame, weight * part.weight);
            else if (const auto* photo = std::get_if<PlacedPhoto>(&part.what))
                add(*photo, weight * part.weight);
            else
                add(std::get<PlainColour>(part.what), weight * part.weight);
        }
    }
    /// Something is done to it as a whole.
    static bool is_finished(const FrameRequest& r)
    {
        return !r.finish.entries().empty() || !r.layers.empty() || r.backdrop;
    }
    void lay_all(const FrameRequest& request)
    {
        for (const LaidOver& layer : request.layers)
            if (!layer.behind)
                lay(layer);
        for (std::size_t i = request.layers.size(); i-- > 0;) // the highest comes first: it is nearest
            if (request.layers[i].behind)
                lay(request.layers[i]);
        if (request.backdrop)
            tbb::parallel_for(0, sum_.rows, [&](int y) { lay_over(sum_.ptr<float>(y), sum_.cols, *request.backdrop); });
    }
    /// Of one photo or drawing to which nothing is done: where it is transparent all round, that is left out.
    [[nodiscard]] std::optional<PlacedLayer> made_at_once(const LaidOver& layer)
    {
        const FrameRequest& request = *layer.picture;
        const auto* photo = request.parts.size() == 1 ? std::get_if<PlacedPhoto>(&request.parts.front().what) : nullptr;
        if (!photo || is_finished(request) || request.parts.front().edge || request.parts.front().weight != 1 ||
            !photo->stages.entries().empty() || photo->placement || photo->view || photo->backdrop)
            return std::nullopt;
        auto drawing = drawing_of(*photo, request.size, depth_, source_);
        if (!drawing) {
            failed_ = std::move(drawing.error());
            return PlacedLayer{};
        }
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
        LaidOver part = layer;
        part.to_frame = layer.to_frame * Transform{double(request.size.width) / pixels.cols,
                                                   0,
                                                   0,
                                                   0,
                                                   double(request.size.height) / pixels.rows,
                                                   0,
                                                   0,
                                                   0,
                                                   1} *
                        Transform{1, 0, double(seen.x), 0, 1, double(seen.y), 0, 0, 1};
        return placed_layer(to_canvas(pixels(seen)), part, sum_.size());
    }
    [[nodiscard]] PlacedLayer made(const LaidOver& layer)
    {
        if (failed_ || !layer.picture)
            return {};
        if (auto placed = made_at_once(layer))
            return std::move(*placed);
        Summed picture(*layer.picture, depth_, source_);
        if (picture.failed_) {
            failed_ = std::move(picture.failed_);
            return {};
        }
        return placed_layer(picture.sum_, layer, sum_.size());
    }
    void lay(const LaidOver& layer)
    {
        PlacedLayer placed = made(layer);
        if (failed_ || placed.where.empty())
            return;
        if (layer.matte) {
            const PlacedLayer by = layer.matte->by ? made(*layer.matte->by) : PlacedLayer{};
            if (failed_)
                return;
            limit(placed, matte_shares(by, *layer.matte, sum_.size()));
        }
        const PlacedLayer shadow = layer.shadow ? shadow_of(placed, *layer.shadow, sum_.size()) : PlacedLayer{};
        if (layer.behind) {
            put_behind(placed);
            put_behind(shadow);
        } else {
            put_onto(shadow, Blend::over);
            put_onto(placed, layer.blend);
        }
    }
    static void limit(PlacedLayer& layer, const cv::Mat1f& shares)
    {
        const cv::Rect seen = layer.where & cv::Rect({0, 0}, shares.size());
        for (int y = seen.y; y < seen.br().y; ++y)
            for (int x = seen.x; x < seen.br().x; ++x)
                layer.pixels(y - layer.where.y, x - layer.where.x) *= shares(y, x);
    }
    template <class Put>
    void put(const PlacedLayer& layer, Put put_row)
    {
        const cv::Rect seen = layer.where & cv::Rect({0, 0}, sum_.size());
        if (seen.empty())
            return;
        tbb::parallel_for(seen.y, seen.br().y, [&](int y) {
            put_row(sum_.ptr<float>(y) + 4 * std::ptrdiff_t(seen.x),
                    layer.pixels.ptr<float>(y - layer.where.y) + 4 * std::ptrdiff_t(seen.x - layer.where.x),
                    seen.width);
        });
    }
    void put_onto(const PlacedLayer& layer, Blend blend)
    {
        put(layer, [&](float* below, const float* row, int n) { blend_onto(below, row, n, blend); });
    }
    void put_behind(const PlacedLayer& layer)
    {
        put(layer, [](float* above, const float* row, int n) { blend_behind(above, row, n); });
    }
    /// What is not the same everywhere in the frame, or has something done to it alone, is made first.
    void add_by_itself(const FramePart& part, double weight)
    {
        const auto* frame = std::get_if<std::shared_ptr<const FrameRequest>>(&part.what);
        FrameRequest alone{.size = sum_.size()};
        if (frame)
            alone = **frame;
        else
            alone.parts = {{1, part.what, std::nullopt}};
        alone.size = sum_.size();
        Summed made(alone, depth_, source_);
        if (made.failed_) {
            failed_ = std::move(made.failed_);
            return;
        }
        alpha_ = alpha_ || made.alpha_;
        tbb::parallel_for(0, sum_.rows, [&](int y) {
            auto* to = sum_.ptr<float>(y);
            const auto* from = made.sum_.ptr<float>(y);
            for (int x = 0; x < sum_.cols; ++x) {
                const auto share = float(part.edge ? weight * part.edge->share({x, y}, sum_.size()) : weight);
                for (int c = 0; c < 4; ++c)
                    to[x * 4 + c] += share * from[x * 4 + c];
            }
        });
    }
    /// Between two, or one of them on its way to the other.
    void add_moving(const FrameRequest& request, double weight)
    {
        const auto moving = moving_frames(request, sum_.size(), depth_, source_, [this](const FrameRequest& alone) {
            return compose(alone, depth_, source_);
        });
        if (!moving) {
            failed_ = moving.error();
            return;
        }
        const auto& [from, to] = moving->ends;
        alpha_ = alpha_ || from->alpha || to->alpha;
        const double way = request.parts[1].weight / (request.parts[0].weight + request.parts[1].weight);
        cv::scaleAdd(request.shutter > 0 ? long_shutter(from->canvas, to->canvas, *moving->motion, request.shutter)
                                         : in_between(from->canvas, to->canvas, *moving->motion, way).picture,
                     weight, sum_, sum_);
    }
    void add(const PlainColour& plain, double weight)
    {
        Canvas one(1, 1, cv::Vec4f());
        lay_over(one.ptr<float>(0), 1, plain.colour);
        sum_ += cv::Scalar(one(0, 0)) * weight;
    }
    void add(const PlacedPhoto& photo, double weight)
    {
        auto drawing = drawing_of(photo, sum_.size(), depth_, source_);
        if (!drawing) {
            failed_ = std::move(drawing.error());
            return;
        }
        alpha_ = alpha_ || stays_transparent(*drawing);
        failed_ = draw(*drawing, sum_.size(), [&, share = float(weight)](int y, int begin, int end, const float* row) {
            auto* to = sum_.ptr<float>(y) + std::ptrdiff_t(begin) * 4;
            for (int i = 0; i < (end - begin) * 4; ++i)
                to[i] += share * row[i];
        });
    }

    const PhotoSource& source_;
    Depth depth_;
    Canvas sum_;
    bool alpha_ = false;
    std::optional<Problem> failed_;
};

}

Result<Composed> compose(const FrameRequest& request, Depth depth, const PhotoSource& source)
{
    const Summed summed(request, depth, source);
    if (summed.failed())
        return tl::unexpected(*summed.failed());
    return Composed{summed.canvas(), summed.alpha()};
}

}
