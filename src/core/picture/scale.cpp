#include "core/picture/scale.h"

#include "core/base/zimg_memory.h"
#include "core/source/transfer.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>
#include <exception>
#include <memory>
#include <new>
#include <stdexcept>
#include <string>
#include <vector>
#include <zimg.h>

namespace frenlo {

namespace {

using zimg::alignment, zimg::FreeGraph, zimg::Memory, zimg::memory_of;

/// Some lines of the picture's planes, over and over, as many as the library wants to look at.
class Lines
{
public:
    Lines(unsigned count, unsigned mask, int width, int planes, std::size_t value_bytes)
        : step_((std::size_t(width) * value_bytes / alignment + 2) * alignment), mask_(mask),
          lines_(mask == ZIMG_BUFFER_MAX ? count : mask + 1)
    {
        for (int i = 0; i < planes; ++i)
            planes_.push_back(memory_of(step_ * lines_));
    }
    template <class Buffer>
    [[nodiscard]] Buffer buffer() const
    {
        Buffer b{};
        b.version = ZIMG_API_VERSION;
        for (std::size_t i = 0; i < planes_.size(); ++i) {
            b.plane[i].data = planes_[i].get();
            b.plane[i].stride = std::ptrdiff_t(step_);
            b.plane[i].mask = mask_;
        }
        return b;
    }
    template <class Value>
    [[nodiscard]] Value* line(int plane, unsigned y) const
    {
        return reinterpret_cast<Value*>(planes_[std::size_t(plane)].get() + std::size_t(y & mask_) * step_);
    }

private:
    std::size_t step_;
    unsigned mask_;
    std::size_t lines_;
    std::vector<Memory> planes_;
};

/// Of the line y the pixels [begin, end): the library works in columns where that is faster.
using OnLine = std::function<void(unsigned y, unsigned begin, unsigned end, const Lines& lines)>;

[[noreturn]] void cannot()
{
    std::array<char, 200> text{};
    zimg_get_last_error(text.data(), text.size());
    throw std::runtime_error(std::string("the picture cannot be scaled: ") + text.data());
}

struct Kind
{
    zimg_pixel_type_e type;
    std::size_t bytes;
    bool alpha;
};

/// fill: writes a line of the source; take: reads one of the result.
void run(const Kind& kind, cv::Size from, const cv::Rect2d& part, cv::Size to, const OnLine& fill, const OnLine& take)
{
    zimg_image_format source, target;
    zimg_image_format_default(&source, ZIMG_API_VERSION);
    source.width = unsigned(from.width);
    source.height = unsigned(from.height);
    source.pixel_type = kind.type;
    source.depth = unsigned(kind.bytes * 8);
    source.color_family = ZIMG_COLOR_RGB;
    source.matrix_coefficients = ZIMG_MATRIX_RGB;
    source.pixel_range = ZIMG_RANGE_FULL;
    source.alpha = kind.alpha ? ZIMG_ALPHA_PREMULTIPLIED : ZIMG_ALPHA_NONE;
    target = source;
    target.width = unsigned(to.width);
    target.height = unsigned(to.height);
    source.active_region = {part.x, part.y, part.width, part.height};
    zimg_graph_builder_params params;
    zimg_graph_builder_params_default(&params, ZIMG_API_VERSION);
    params.resample_filter = ZIMG_RESIZE_LANCZOS;
    params.filter_param_a = 3;
    params.cpu_type = ZIMG_CPU_AUTO_64B;
    const std::unique_ptr<zimg_filter_graph, FreeGraph> graph(zimg_filter_graph_build(&source, &target, &params));
    std::size_t bytes = 0;
    unsigned lines_in = 0, lines_out = 0;
    if (!graph || zimg_filter_graph_get_tmp_size(graph.get(), &bytes) != 0 ||
        zimg_filter_graph_get_input_buffering(graph.get(), &lines_in) != 0 ||
        zimg_filter_graph_get_output_buffering(graph.get(), &lines_out) != 0)
        cannot();
    const int planes = kind.alpha ? 4 : 3;
    struct Call
    {
        const Lines lines;
        const OnLine& each;
        std::exception_ptr failed{};
        static int back(void* user, unsigned y, unsigned begin, unsigned end)
        {
            auto& call = *static_cast<Call*>(user);
            try {
                call.each(y, begin, end, call.lines);
                return 0;
            } catch (...) { // may not pass through the library; goes on behind it
                call.failed = std::current_exception();
                return 1;
            }
        }
    };
    Call in{Lines(source.height, zimg_select_buffer_mask(lines_in), from.width, planes, kind.bytes), fill},
        out{Lines(target.height, zimg_select_buffer_mask(lines_out), to.width, planes, kind.bytes), take};
    const Memory work = memory_of(bytes);
    const auto from_buffer = in.lines.buffer<zimg_image_buffer_const>();
    const auto to_buffer = out.lines.buffer<zimg_image_buffer>();
    const int failed =
        zimg_filter_graph_process(graph.get(), &from_buffer, &to_buffer, work.get(), Call::back, &in, Call::back, &out);
    for (const Call* call : {&in, &out})
        if (call->failed)
            std::rethrow_exception(call->failed);
    if (failed != 0)
        cannot();
}

}

std::optional<cv::Rect2d> scaled_part(cv::Size source, const cv::Matx33d& to_source, cv::Size size)
{
    const cv::Matx33d& t = to_source;
    if (t(0, 1) != 0 || t(1, 0) != 0 || t(2, 0) != 0 || t(2, 1) != 0 || t(2, 2) != 1 || t(0, 0) <= 0 || t(1, 1) <= 0)
        return std::nullopt;
    cv::Rect2d part(t(0, 2) + 0.5 - t(0, 0) / 2, t(1, 2) + 0.5 - t(1, 1) / 2, t(0, 0) * size.width,
                    t(1, 1) * size.height);
    constexpr double nothing = 1e-6; // pixels: what sums of fractions leave
    if (part.x < -nothing || part.y < -nothing || part.br().x > source.width + nothing ||
        part.br().y > source.height + nothing)
        return std::nullopt;
    const cv::Rect2d whole({0, 0}, cv::Size2d(source));
    return part & whole;
}

namespace {

/// Between the library's planes and pixels of four values, of which the last is in no plane where all is opaque.
void into_planes(const float* p, unsigned y, unsigned begin, unsigned end, bool opaque, const Lines& lines)
{
    auto *b = lines.line<float>(0, y), *g = lines.line<float>(1, y), *r = lines.line<float>(2, y);
    for (unsigned x = begin; x < end; ++x) {
        const float* v = p + 4 * std::size_t(x - begin);
        b[x] = v[0];
        g[x] = v[1];
        r[x] = v[2];
    }
    if (opaque)
        return;
    auto* a = lines.line<float>(3, y);
    for (unsigned x = begin; x < end; ++x)
        a[x] = p[4 * std::size_t(x - begin) + 3];
}

void out_of_planes(float* p, unsigned y, unsigned begin, unsigned end, bool opaque, const Lines& lines)
{
    const auto *b = lines.line<float>(0, y), *g = lines.line<float>(1, y), *r = lines.line<float>(2, y);
    for (unsigned x = begin; x < end; ++x) {
        float* v = p + 4 * std::size_t(x - begin);
        v[0] = b[x];
        v[1] = g[x];
        v[2] = r[x];
        v[3] = 1;
    }
    if (opaque)
        return;
    const auto* a = lines.line<float>(3, y);
    for (unsigned x = begin; x < end; ++x)
        p[4 * std::size_t(x - begin) + 3] = a[x];
}

}

namespace {

/// In linear light of 16 bit. take: as the library gives its lines.
void scale_eight(const cv::Mat& bgr, const cv::Rect2d& part, cv::Size size, const OnLine& take)
{
    CV_Assert(bgr.type() == CV_8UC3);
    static const std::array<std::uint16_t, 256> linear = [] {
        std::array<std::uint16_t, 256> t{};
        for (std::size_t i = 0; i < t.size(); ++i)
            t[i] = std::uint16_t(std::lround(linear_of(double(i) / 255) * 65'535));
        return t;
    }();
    run(
        {ZIMG_PIXEL_WORD, sizeof(std::uint16_t), false}, bgr.size(), part, size,
        [&](unsigned y, unsigned begin, unsigned end, const Lines& lines) {
            auto *b = lines.line<std::uint16_t>(0, y), *g = lines.line<std::uint16_t>(1, y),
                 *r = lines.line<std::uint16_t>(2, y);
            const auto* p = bgr.ptr<std::uint8_t>(int(y)) + std::size_t(begin) * 3;
            for (unsigned x = begin; x < end; ++x, p += 3) {
                b[x] = linear[p[0]];
                g[x] = linear[p[1]];
                r[x] = linear[p[2]];
            }
        },
        take);
}

constexpr float one = 1.0F / 65'535;

CanvasRows rows_of_sixteen(const cv::Mat& linear)
{
    return {linear.size(),
            [linear](int y, int begin, int end, float* to) {
                const auto* p = linear.ptr<std::uint16_t>(y) + std::ptrdiff_t(begin) * 3;
                for (int x = begin; x < end; ++x, p += 3, to += 4) {
                    to[0] = float(p[0]) * one;
                    to[1] = float(p[1]) * one;
                    to[2] = float(p[2]) * one;
                    to[3] = 1;
                }
            },
            true,
            {}};
}

}

void scale(const CanvasRows& source, const cv::Rect2d& part, cv::Size size, const TakeRow& take)
{
    std::vector<float> row(std::size_t(std::max(source.size.width, size.width)) * 4);
    if (!source.eight.empty()) {
        scale_eight(source.eight, part, size, [&](unsigned y, unsigned begin, unsigned end, const Lines& lines) {
            const auto *b = lines.line<std::uint16_t>(0, y), *g = lines.line<std::uint16_t>(1, y),
                       *r = lines.line<std::uint16_t>(2, y);
            float* to = row.data();
            for (unsigned x = begin; x < end; ++x, to += 4) {
                to[0] = float(b[x]) * one;
                to[1] = float(g[x]) * one;
                to[2] = float(r[x]) * one;
                to[3] = 1;
            }
            take(int(y), int(begin), int(end), row.data());
        });
        return;
    }
    run(
        {ZIMG_PIXEL_FLOAT, sizeof(float), !source.opaque}, source.size, part, size,
        [&](unsigned y, unsigned begin, unsigned end, const Lines& lines) {
            source.row(int(y), int(begin), int(end), row.data());
            into_planes(row.data(), y, begin, end, source.opaque, lines);
        },
        [&](unsigned y, unsigned begin, unsigned end, const Lines& lines) {
            out_of_planes(row.data(), y, begin, end, source.opaque, lines);
            take(int(y), int(begin), int(end), row.data());
        });
}

CanvasRows scaled_rows(const CanvasRows& source, const cv::Rect2d& part, cv::Size size)
{
    if (!source.eight.empty()) {
        cv::Mat linear(size, CV_16UC3);
        scale_eight(source.eight, part, size, [&](unsigned y, unsigned begin, unsigned end, const Lines& lines) {
            const auto *b = lines.line<std::uint16_t>(0, y), *g = lines.line<std::uint16_t>(1, y),
                       *r = lines.line<std::uint16_t>(2, y);
            auto* p = linear.ptr<std::uint16_t>(int(y)) + std::size_t(begin) * 3;
            for (unsigned x = begin; x < end; ++x, p += 3) {
                p[0] = b[x];
                p[1] = g[x];
                p[2] = r[x];
            }
        });
        return rows_of_sixteen(linear);
    }
    Canvas out(size);
    scale(source, part, size, [&](int y, int begin, int end, const float* row) {
        std::copy_n(row, std::ptrdiff_t(end - begin) * 4, out.ptr<float>(y) + std::ptrdiff_t(begin) * 4);
    });
    return {size,
            [out](int y, int begin, int end, float* to) {
                std::copy_n(out.ptr<float>(y) + std::ptrdiff_t(begin) * 4, std::ptrdiff_t(end - begin) * 4, to);
            },
            source.opaque,
            {}};
}

cv::Mat scaled_eight(const cv::Mat& bgr, const cv::Rect2d& part, cv::Size size)
{
    const std::uint8_t* encoded = encoded_table().data();
    cv::Mat out(size, CV_8UC3);
    scale_eight(bgr, part, size, [&](unsigned y, unsigned begin, unsigned end, const Lines& lines) {
        const auto *b = lines.line<std::uint16_t>(0, y), *g = lines.line<std::uint16_t>(1, y),
                   *r = lines.line<std::uint16_t>(2, y);
        auto* p = out.ptr<std::uint8_t>(int(y)) + std::size_t(begin) * 3;
        for (unsigned x = begin; x < end; ++x, p += 3) {
            p[0] = encoded[b[x]];
            p[1] = encoded[g[x]];
            p[2] = encoded[r[x]];
        }
    });
    return out;
}

}
