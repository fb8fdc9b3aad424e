#pragma once
// Private to export/: from a film's frames to a sink's pictures.
#include "core/base/shared_cache.h"
#include "core/export/export_plan.h"
#include "core/export/format.h"

#include <opencv2/imgproc.hpp>
#include <tbb/global_control.h>
#include <tbb/parallel_pipeline.h>

#include <algorithm>
#include <memory>
#include <string>
#include <vector>

namespace frenlo {

/// A picture that was rendered, for writing it again in another way.
struct RenderedAgain : CacheKey<cv::Mat, 60, FullShare::new_ones_go>
{
    FrameRequest request;
    explicit RenderedAgain(FrameRequest r) : request(std::move(r)) {}
    bool operator==(const RenderedAgain& other) const { return request == other.request; }
    [[nodiscard]] std::size_t hash() const { return hash_of(request); }
};

/// Renders the film's runs on all cores and hands them to the sink in order, once for each of its passes.
class Filming
{
public:
    Filming(const Timeline& film, const ExportOrder& order, Sizes sizes, const PhotoSource& source, const Job& job)
        : film_(film), order_(order), sizes_(sizes), source_(source), job_(job), runs(film.runs())
    {
        const Format& format = format_of(order.preset);
        look_ = {.size = sizes.rendered,
                 .fit = order.preset.fit,
                 .depth = format.sixteen ? order.preset.depth : Depth::eight,
                 .alpha = format.alpha,
                 .dither = !format.colours};
    }

    /// Where to look for pictures before rendering them, and to keep them for the next try. Not owned.
    void set_kept(SharedCache* kept) { kept_ = kept; }

    /// Whether something in the film may be seen through, where the format can say so.
    [[nodiscard]] bool transparent() const
    {
        const auto see_through = [](const FrameRequest& request, const auto& self) -> bool {
            return std::any_of(request.parts.begin(), request.parts.end(), [&](const FramePart& part) {
                if (const auto* p = std::get_if<PlacedPhoto>(&part.what))
                    return p->photo->alpha && !p->backdrop;
                const auto* frame = std::get_if<std::shared_ptr<const FrameRequest>>(&part.what);
                return frame && self(**frame, self);
            });
        };
        return look_.alpha && std::any_of(runs.begin(), runs.end(), [&](const FrameRange& run) {
                   return see_through(film_.frame(run.begin, look_), see_through);
               });
    }

    void run(FrameSink& sink)
    {
        for (int pass = 0; pass < sink.passes(); ++pass) {
            sink.begin_pass(pass);
            run_pass(sink, pass);
        }
        job_.report(1, "finishing the file");
        sink.finish();
    }

private:
    struct Item
    {
        std::size_t run = 0;
        Result<PreparedPicture> picture;
    };

    void run_pass(FrameSink& sink, int pass)
    {
        const auto cores =
            std::max<std::size_t>(1, tbb::global_control::active_value(tbb::global_control::max_allowed_parallelism));
        std::size_t next = 0;
        before_.reset();
        waiting_.clear();
        const auto feed = [&](tbb::flow_control& flow) -> std::size_t {
            if (next == runs.size() || job_.stopping()) {
                flow.stop();
                return 0;
            }
            return next++;
        };
        const auto draw = [&](std::size_t i) { return std::make_shared<Item>(Item{i, drawn(i, sink)}); };
        const auto put = [&](const std::shared_ptr<Item>& item) {
            write(*item, sink, pass == 0);
            const double of_pass = double(item->run + 1) / double(runs.size());
            job_.report((pass + of_pass) / sink.passes(),
                        "picture " + std::to_string(item->run + 1) + " of " + std::to_string(runs.size()));
        };
        tbb::parallel_pipeline(
            cores + 1, tbb::make_filter<void, std::size_t>(tbb::filter_mode::serial_in_order, feed) &
                           tbb::make_filter<std::size_t, std::shared_ptr<Item>>(tbb::filter_mode::parallel, draw) &
                           tbb::make_filter<std::shared_ptr<Item>, void>(tbb::filter_mode::serial_in_order, put));
        job_.check();
        if (!before_)
            throw Failure({"no photo of \"" + film_.name() + "\" can be read", {}, "Look at the problems in Sort"});
    }

    [[nodiscard]] Result<PreparedPicture> drawn(std::size_t run, const FrameSink& sink) const
    {
        const FrameRequest request = film_.frame(runs[run].begin, look_);
        if (kept_)
            if (const auto picture = kept_->get(RenderedAgain(request)))
                return sink.prepare(written_part(*picture));
        const std::filesystem::path& first = request.photo()->file;
        try {
            auto picture = render(request, source_);
            if (!picture)
                return tl::unexpected(std::move(picture.error()));
            if (kept_)
                kept_->put(RenderedAgain(request), *picture, picture->total() * picture->elemSize());
            return sink.prepare(written_part(*picture));
        } catch (const std::bad_alloc&) {
            return problem("there is too little memory to make a picture of this photo", first,
                           "Close other programs, or choose a smaller size");
        } catch (const cv::Exception& e) {
            return problem("no picture can be made of this photo (" + e.err + ")", first,
                           "Set it aside, or choose another size");
        }
    }

    /// One line less where a film's size must be even; a line more where the photo has only one.
    [[nodiscard]] cv::Mat written_part(const cv::Mat& picture) const
    {
        if (picture.size() == sizes_.written)
            return picture;
        cv::Mat wide;
        cv::copyMakeBorder(picture, wide, 0, std::max(0, sizes_.written.height - picture.rows), 0,
                           std::max(0, sizes_.written.width - picture.cols), cv::BORDER_REPLICATE);
        return wide(cv::Rect({0, 0}, sizes_.written));
    }

    void write(Item& item, FrameSink& sink, bool first_pass)
    {
        if (!item.picture) {
            if (order_.on_bad_photo == OnBadPhoto::stop)
                throw Failure(item.picture.error());
            if (first_pass)
                problems.push_back(item.picture.error());
            if (!before_) {
                waiting_.push_back(item.run); // nothing before it: the first that can be read is shown instead
                return;
            }
        } else {
            before_ = std::make_shared<PreparedPicture>(std::move(*item.picture));
        }
        for (const std::size_t w : waiting_)
            sink.write(*before_, runs[w].begin, runs[w].end, job_);
        waiting_.clear();
        sink.write(*before_, runs[item.run].begin, runs[item.run].end, job_);
    }

    const Timeline& film_;
    const ExportOrder& order_;
    Sizes sizes_;
    const PhotoSource& source_;
    const Job& job_;
    FrameLook look_;
    SharedCache* kept_ = nullptr;
    std::shared_ptr<PreparedPicture> before_;
    std::vector<std::size_t> waiting_;

public:
    const std::vector<FrameRange> runs;
    std::vector<Problem> problems;
};

}
