#include "core/picture/composition.h"

#include "core/picture/in_between.h"
#include "core/picture/long_shutter.h"
#include "core/picture/moving_frames.h"
#include "core/picture/photo_drawing.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <optional>

namespace frenlo {

namespace {

/// The parts' sum, or what is wrong with one of them.
class Summed
{
public:
    /// laid: those of its layers that are made already.
    Summed(const FrameRequest& request, Depth depth, const PhotoSource& source, LaidLayers laid = {})
        : source_(source), depth_(depth), laid_(std::move(laid)), sum_(request.size),
          smooth_(std::size_t(request.size.height))
    {
        if (request.parts.size() > 1 || !request.finish.entries().empty() || request.backdrop)
            all_is_smooth();
        add(request, 1);
        begin();
        bool all_laid = false; // the layers have their place among what is done to the frame
        for (const auto& stage : request.finish.entries()) {
            if (!all_laid && stage.type->order > frame_order::layers) {
                lay_all(request);
                all_laid = true;
            }
            if (!failed_)
                stage.type->apply(stage.value.get(), sum_);
        }
        if (!all_laid)
            lay_all(request);
    }
    [[nodiscard]] const std::optional<Problem>& failed() const { return failed_; }
    [[nodiscard]] bool alpha() const { return alpha_; }
    [[nodiscard]] const Canvas& canvas() const { return sum_; }
    [[nodiscard]] const std::vector<cv::Range>& smooth() const { return smooth_; }

private:
    void all_is_smooth() { smooth_.assign(smooth_.size(), {0, sum_.cols}); }
    void is_smooth(int row, const cv::Range& part)
    {
        cv::Range& here = smooth_[std::size_t(row)];
        here = here.empty() ? part : cv::Range(std::min(here.start, part.start), std::max(here.end, part.end));
    }
    /// Nothing so far: what comes first may be put down in its place, all of it.
    void begin()
    {
        if (!begun_)
            sum_.setTo(cv::Scalar());
        begun_ = true;
    }
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
            if (part.edge || (frame && (*frame)->is_finished()))
                add_by_itself(part, weight * part.weight);
            else if (frame)
                add(**frame, weight * part.weight);
            else if (const auto* photo = std::get_if<PlacedPhoto>(&part.what))
                add(*photo, weight * part.weight);
            else
                add(std::get<PlainColour>(part.what), weight * part.weight);
        }
    }
    void lay_all(const FrameRequest& request)
    {
        for (const LaidPiece& piece : laid_.pieces)
            put(piece);
        const auto layers = in_order(request.layers);
        for (std::size_t i = laid_.layers; i < layers.size() && !failed_; ++i) {
            auto pieces = laid_pieces(*layers[i], sum_.size(), depth_, source_);
            if (!pieces)
                failed_ = std::move(pieces.error());
            else
                std::for_each(pieces->begin(), pieces->end(), [this](const LaidPiece& piece) { put(piece); });
        }
        if (request.backdrop)
            tbb::parallel_for(0, sum_.rows, [&](int y) { lay_over(sum_.ptr<float>(y), sum_.cols, *request.backdrop); });
    }
    void put(const LaidPiece& piece)
    {
        const cv::Rect seen = piece.layer.where & cv::Rect({0, 0}, sum_.size());
        for (int y = seen.y; y < seen.br().y; ++y)
            is_smooth(y, {seen.x, seen.br().x});
        tbb::parallel_for(seen.y, seen.br().y, [&](int y) { piece.put(y, 0, sum_.cols, sum_.ptr<float>(y)); });
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
        if (part.edge || weight != 1)
            all_is_smooth();
        for (int y = 0; y < sum_.rows; ++y)
            if (const cv::Range& here = made.smooth_[std::size_t(y)]; !here.empty())
                is_smooth(y, here);
        begin();
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
        all_is_smooth();
        begin();
        const double way = request.parts[1].weight / (request.parts[0].weight + request.parts[1].weight);
        cv::scaleAdd(request.shutter > 0 ? long_shutter(from->canvas, to->canvas, *moving->motion, request.shutter)
                                         : in_between(from->canvas, to->canvas, *moving->motion, way).picture,
                     weight, sum_, sum_);
    }
    void add(const PlainColour& plain, double weight)
    {
        begin();
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
        if (weight != 1 || make_smooth_light(photo.stages))
            all_is_smooth();
        const bool first = !begun_ && weight == 1;
        if (!first)
            begin();
        begun_ = true;
        failed_ = draw(*drawing, sum_.size(), [&, share = float(weight)](int y, int begin, int end, const float* row) {
            auto* to = sum_.ptr<float>(y) + std::ptrdiff_t(begin) * 4;
            const auto count = std::ptrdiff_t(end - begin) * 4;
            if (first)
                std::copy_n(row, count, to);
            else
                for (std::ptrdiff_t i = 0; i < count; ++i)
                    to[i] += share * row[i];
        });
    }

    const PhotoSource& source_;
    Depth depth_;
    LaidLayers laid_;
    Canvas sum_;
    bool begun_ = false;
    bool alpha_ = false;
    std::vector<cv::Range> smooth_;
    std::optional<Problem> failed_;
};

}

Result<Composed> compose(const FrameRequest& request, Depth depth, const PhotoSource& source, LaidLayers laid)
{
    const Summed summed(request, depth, source, std::move(laid));
    if (summed.failed())
        return tl::unexpected(*summed.failed());
    return Composed{summed.canvas(), summed.alpha(), summed.smooth()};
}

}
