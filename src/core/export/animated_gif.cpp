#include "core/export/animated_gif.h"

#include "core/export/format.h"
#include "core/export/muxer.h"

extern "C" {
#include <libavfilter/buffersink.h>
#include <libavfilter/buffersrc.h>
}

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <optional>

namespace frenlo {

namespace {

using libav::check;
using libav::Owned;

/// A filter graph with named inputs "in" (pictures) and, for one palette for all, "palette".
class Graph
{
public:
    Graph(const std::string& description, const std::filesystem::path& file)
        : file_(file), graph_(avfilter_graph_alloc())
    {
        AVFilterInOut* open_inputs = nullptr;
        AVFilterInOut* open_outputs = nullptr;
        check(avfilter_graph_parse2(graph_.get(), description.c_str(), &open_inputs, &open_outputs),
              "the loop's colours cannot be prepared", file_);
        avfilter_inout_free(&open_inputs);
        avfilter_inout_free(&open_outputs);
        check(avfilter_graph_config(graph_.get(), nullptr), "the loop's colours cannot be prepared", file_);
    }

    static std::string source(const char* name, cv::Size size)
    {
        return "buffer@" + std::string(name) + "=video_size=" + std::to_string(size.width) + 'x' +
               std::to_string(size.height) + ":pix_fmt=" + std::to_string(AV_PIX_FMT_RGB32) + ":time_base=1/100";
    }

    /// Takes over the frame's content; null ends this input.
    void push(const char* input, AVFrame* frame)
    {
        check(av_buffersrc_add_frame(find("buffer@", input), frame), "a picture cannot be given its colours", file_);
    }

    /// The next picture that is ready, or nothing.
    Owned<AVFrame> pull()
    {
        Owned<AVFrame> frame(av_frame_alloc());
        const int got = av_buffersink_get_frame(find("buffersink@", "out"), frame.get());
        if (got == AVERROR(EAGAIN) || got == AVERROR_EOF)
            return nullptr;
        check(got, "a picture cannot be given its colours", file_);
        return frame;
    }

private:
    AVFilterContext* find(const char* filter, const char* name)
    {
        return avfilter_graph_get_filter(graph_.get(), (std::string(filter) + name).c_str());
    }

    std::filesystem::path file_;
    Owned<AVFilterGraph> graph_;
};

Owned<AVFrame> as_frame(const cv::Mat& picture, std::int64_t pts, const std::filesystem::path& file)
{
    Owned<AVFrame> frame(av_frame_alloc());
    frame->format = AV_PIX_FMT_RGB32;
    frame->width = picture.cols;
    frame->height = picture.rows;
    frame->pts = pts;
    check(av_frame_get_buffer(frame.get(), 0), "there is too little memory for the loop", file);
    // RGB32 is B G R A in memory on this byte order
    cv::Mat target(picture.size(), CV_8UC4, frame->data[0], static_cast<std::size_t>(frame->linesize[0]));
    picture.channels() == 4 ? picture.copyTo(target) : cv::cvtColor(picture, target, cv::COLOR_BGR2BGRA);
    return frame;
}

/// Loops for ever (GIF89a, looping application extension); colours chosen and dithered by FFmpeg's palettegen and
/// paletteuse.
class LoopSink : public FrameSink
{
public:
    explicit LoopSink(const Writing& w)
        : file_(w.file->target()), size_(w.size), timing_(loop_timing(w.runs)), preset_(*w.preset),
          muxer_(*w.file, "gif"), track_(muxer_.add_track("gif"))
    {
        AVCodecContext& c = track_.context();
        c.width = size_.width;
        c.height = size_.height;
        c.pix_fmt = AV_PIX_FMT_PAL8;
        c.time_base = {1, 100};
        AVDictionary* gif = nullptr;
        av_dict_set_int(&gif, "loop", 0, 0); // for ever
        if (!timing_.delays.empty()) {
            const auto& last = timing_.delays.back();
            av_dict_set_int(&gif, "final_delay", (last.end - last.begin - 1) % longest_loop_delay + 1, 0);
        }
        track_.open();
        muxer_.begin(&gif);
        av_dict_free(&gif);
    }

    [[nodiscard]] int passes() const override { return one_for_all() ? 2 : 1; }

    void begin_pass(int pass) override
    {
        next_ = 0;
        span_ = 0;
        looking_ = one_for_all() && pass == 0;
        const std::string in = Graph::source("in", size_);
        const std::string colours = "max_colors=" + std::to_string(preset_.colours);
        const std::string use = std::string("paletteuse=dither=") + (preset_.dither ? "sierra2_4a" : "none");
        if (looking_) {
            graph_.emplace(in + ",palettegen=stats_mode=full:" + colours + ",buffersink@out", file_);
            return;
        }
        if (!one_for_all()) {
            graph_.emplace(in + ",split[a][b];[a]palettegen=stats_mode=single:" + colours + "[p];[b][p]" + use +
                               ":new=1,buffersink@out",
                           file_);
            return;
        }
        graph_->push("in", nullptr);
        Owned<AVFrame> palette = graph_->pull();
        if (!palette)
            throw Failure({"the loop's colours could not be chosen", file_, "Try one palette for each picture"});
        graph_.emplace(in + "[pictures];" + Graph::source("palette", {16, 16}) + "[colours];[pictures][colours]" + use +
                           ",buffersink@out",
                       file_);
        palette->pts = 0;
        graph_->push("palette", palette.get());
        graph_->push("palette", nullptr);
    }

    void write(const PreparedPicture& picture, FrameIndex /*begin*/, FrameIndex /*end*/, const Job& job) override
    {
        job.check();
        const std::size_t span = span_++;
        if (next_ == timing_.delays.size() || timing_.delays[next_].span != span)
            return; // left out: too short
        const LoopDelay& delay = timing_.delays[next_++];
        graph_->push("in", as_frame(picture.picture, delay.begin, file_).get());
        if (looking_)
            return;
        while (auto coloured = graph_->pull())
            encode(*coloured);
    }

    void finish() override
    {
        graph_->push("in", nullptr);
        while (auto coloured = graph_->pull())
            encode(*coloured);
        muxer_.finish();
    }

private:
    [[nodiscard]] bool one_for_all() const { return preset_.palette == Palette::one_for_all; }

    /// Once, and again where the delay is longer than one GIF frame can say.
    void encode(AVFrame& frame)
    {
        const LoopDelay& delay = timing_.delays.at(encoded_++);
        for (std::int64_t at = delay.begin; at < delay.end; at += longest_loop_delay) {
            frame.pts = at;
            track_.encode(frame);
        }
    }

    std::filesystem::path file_; ///< its final name
    cv::Size size_;
    LoopTiming timing_;
    Preset preset_;
    libav::Muxer muxer_;
    libav::Track& track_;
    std::optional<Graph> graph_;
    bool looking_ = false;
    std::size_t span_ = 0;    ///< of the next picture written
    std::size_t next_ = 0;    ///< delay of the next picture that is not left out
    std::size_t encoded_ = 0; ///< delay of the next picture that comes out of the graph
};

}

LoopTiming loop_timing(std::span<const FrameRange> spans)
{
    constexpr std::int64_t shortest = 2;
    LoopTiming timing;
    std::int64_t begin = 0;
    for (std::size_t i = 0; i < spans.size(); ++i) {
        const std::int64_t end = spans[i].end.value;
        if (end - begin < shortest) {
            ++timing.left_out;
            continue;
        }
        timing.delays.push_back({i, begin, end});
        begin = end;
    }
    if (!timing.delays.empty()) // time of pictures left out at the end goes to the last one shown
        timing.delays.back().end = spans.back().end.value;
    return timing;
}

std::int64_t LoopTiming::pictures() const
{
    std::int64_t n = 0;
    for (const LoopDelay& d : delays)
        n += (d.end - d.begin + longest_loop_delay - 1) / longest_loop_delay;
    return n;
}

Format animated_gif()
{
    return {
        .key = "gif",
        .name = "GIF",
        .kind = Format::Kind::loop,
        .endings = {".gif"},
        .alpha = true,
        .colours = true,
        .clock = Rate(100),
        .most_side = 65'535,
        .bytes = [](const Preset& p,
                    const Amount& a) { return a.pixels * double(a.pictures) * 0.09 * std::log2(p.colours) + 2'000; },
        .writer = [](const Writing& w) -> std::unique_ptr<FrameSink> { return std::make_unique<LoopSink>(w); }};
}

}
