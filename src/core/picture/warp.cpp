#include "core/picture/warp.h"

#include "core/picture/scale.h"
#include "core/picture/warp_loops.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <limits>
#include <memory>
#include <numeric>
#include <vector>

namespace frenlo {

namespace {

constexpr double spare = 1.25; ///< pixels a result pixel that a photo made smaller keeps for the warp

/// Into [-1/2, length - 1/2]: the nearest there, or back and forth between the edges.
double within(double x, double length, Edges edges)
{
    if (edges == Edges::mirrored && (x < -0.5 || x > length - 0.5)) {
        x = std::fmod(std::abs(x + 0.5), 2 * length);
        x = (x > length ? 2 * length - x : x) - 0.5;
    }
    // Not std::clamp: what is no number, as where a transform lets a point vanish, must land somewhere too.
    return x > -0.5 ? (x < length - 0.5 ? x : length - 0.5) : -0.5;
}

int row_within(int row, int rows, Edges edges)
{
    if (row >= 0 && row < rows)
        return row;
    return edges == Edges::mirrored ? int(std::lround(within(row, rows, edges))) : std::clamp(row, 0, rows - 1);
}

/// How the result lies in the source, worked out once.
struct View
{
    cv::Matx33d t;
    cv::Size size;
    Edges edges;

    [[nodiscard]] double weight(double x, double y) const { return t(2, 0) * x + t(2, 1) * y + t(2, 2); }
    [[nodiscard]] double down(double x, double y) const { return (t(1, 0) * x + t(1, 1) * y + t(1, 2)) / weight(x, y); }
    /// Where the result's columns meet this row of the source: a x + b over c x + d.
    [[nodiscard]] cv::Vec4d along(double row) const
    {
        const double r = t(1, 1) - row * t(2, 1), p = row * t(2, 0) - t(1, 0), q = row * t(2, 2) - t(1, 2);
        return {t(0, 0) * r + t(0, 1) * p, t(0, 1) * q + t(0, 2) * r, t(2, 0) * r + t(2, 1) * p,
                t(2, 1) * q + t(2, 2) * r};
    }
};

/// How many pixels of the source a pixel of the result covers across, along a row of the source, and down.
cv::Vec2d widths(const View& v)
{
    const cv::Point2d m(v.size.width / 2.0, v.size.height / 2.0);
    const cv::Vec4d row = v.along(v.down(m.x, m.y));
    const double below = row[2] * m.x + row[3];
    return {std::abs((row[0] * row[3] - row[1] * row[2]) / (below * below)),
            std::abs(v.down(m.x, m.y + 1) - v.down(m.x, m.y))};
}

double sane(double wide)
{
    return wide >= 1 ? std::min(wide, 64.0) : 1; // 1 where it is no number, too
}

/// The rows of the source, as wide as the result, kept as long as they are looked at.
class Shelf
{
public:
    Shelf(const CanvasRows& source, const View& view, const Kernel& kernel, int rows)
        : source_(source), view_(view), kernel_(kernel), places_(view.size.width), pad_(kernel.taps + 1),
          padded_(1, source.size.width + 2 * pad_), kept_(rows, view.size.width + 2), which_(std::size_t(rows), none)
    {
        kept_.setTo(0);
    }

    /// row: may lie outside the source, where its edge goes on or it is mirrored.
    const float* row(int row)
    {
        const auto slot = std::size_t(row % kept_.rows + (row < 0 ? kept_.rows : 0)) % std::size_t(kept_.rows);
        auto* to = kept_.ptr<float>(int(slot));
        if (which_[slot] == row)
            return to;
        which_[slot] = row;
        fill(row_within(row, source_.size.height, view_.edges));
        place(row);
        loops().across(kernel_, places_, padded_.ptr<float>(0), to);
        return to;
    }

private:
    void fill(int row)
    {
        if (row == filled_)
            return;
        filled_ = row;
        const int width = source_.size.width;
        auto* pixels = padded_.ptr<cv::Vec4f>(0);
        source_.row(row, 0, width, padded_.ptr<float>(0) + 4 * std::ptrdiff_t(pad_));
        for (int i = 0; i < pad_; ++i) {
            pixels[i] = pixels[pad_ + row_within(i - pad_, width, view_.edges)];
            pixels[pad_ + width + i] = pixels[pad_ + row_within(width + i, width, view_.edges)];
        }
    }
    void place(int row)
    {
        const cv::Vec4d a = view_.along(row);
        const double width = source_.size.width;
        Line line{a[0], a[1], a[2], a[3], -0.5, width - 0.5, pad_ - kernel_.before};
        if (line.c == 0 && line.d != 0) // the same line for all rows is worked out once
            line = {a[0] / a[3], a[1] / a[3], 0, 1, line.low, line.high, line.moved};
        if (line == placed_)
            return;
        placed_ = line;
        if (view_.edges != Edges::mirrored) {
            loops().locate(line, view_.size.width, places_.pixel.data(), places_.phase.data());
            return;
        }
        for (int x = 0; x < view_.size.width; ++x) {
            const double at = within((line.a * x + line.b) / (line.c * x + line.d), width, view_.edges);
            const Line here{0, at, 0, 1, line.low, line.high, line.moved};
            loops().locate(here, 1, &places_.pixel[std::size_t(x)], &places_.phase[std::size_t(x)]);
        }
    }

    static constexpr int none = std::numeric_limits<int>::min();
    const CanvasRows& source_;
    const View& view_;
    const Kernel& kernel_;
    Places places_;
    Line placed_{};
    int pad_;
    Canvas padded_; ///< a row of the source
    int filled_ = none;
    Canvas kept_;
    std::vector<int> which_; ///< row is in a slot
};

/// Half as large, by the mean of two by two.
CanvasRows halved(CanvasRows rows)
{
    const cv::Size size((rows.size.width + 1) / 2, (rows.size.height + 1) / 2);
    auto two = std::make_shared<Canvas>(2, rows.size.width + 1);
    const bool opaque = rows.opaque;
    return {size,
            [rows = std::move(rows), two](int y, int begin, int end, float* to) {
                const int last = std::min(2 * end, rows.size.width);
                for (int i = 0; i < 2; ++i) {
                    auto* row = two->ptr<cv::Vec4f>(i);
                    rows.row(std::min(2 * y + i, rows.size.height - 1), 2 * begin, last, two->ptr<float>(i));
                    row[last - 2 * begin] = row[last - 2 * begin - 1]; // beside an odd width
                }
                const auto *a = two->ptr<cv::Vec4f>(0), *b = two->ptr<cv::Vec4f>(1);
                for (std::ptrdiff_t x = 0; x < end - begin; ++x, to += 4)
                    for (int c = 0; c < 4; ++c)
                        to[c] = (a[2 * x][c] + a[2 * x + 1][c] + b[2 * x][c] + b[2 * x + 1][c]) / 4;
            },
            opaque,
            {}};
}

/// Along a row of the result, where it lies in the source's rows, kept from running away.
Line line_down(const View& v, int y, int rows)
{
    const double farthest = v.edges == Edges::mirrored ? 4.0 * rows : 2.0 * rows;
    return {v.t(1, 0), v.t(1, 1) * y + v.t(1, 2), v.t(2, 0), v.t(2, 1) * y + v.t(2, 2), -farthest, farthest, 0};
}

struct Span
{
    int first, last;
};
Span span_of(const Places& places)
{
    const auto [low, high] = std::minmax_element(places.pixel.begin(), places.pixel.end());
    return {*low, *high};
}

/// How many rows of the source a row of the result spans at most. Between its ends a line is steady where no point of
/// it vanishes; where one does, all that is let near.
int rows_spanned(const View& v, int rows)
{
    int most = 0;
    for (int y = 0; y < v.size.height; ++y) {
        const Line l = line_down(v, y, rows);
        const double last = v.size.width - 1.0, begin = l.d, end = l.c * last + l.d;
        if (!(begin * end > 0))
            return int(l.high - l.low) + 1;
        const double a = std::clamp(l.b / begin, l.low, l.high),
                     b = std::clamp((l.a * last + l.b) / end, l.low, l.high);
        most = std::max(most, int(std::abs(b - a)) + 2);
    }
    return most;
}

void warp_upright(const CanvasRows& source, const View& view, const TakeRow& take)
{
    const cv::Vec2d wide = widths(view);
    const Kernel over(sane(wide[0])), down(sane(wide[1]));
    const bool straight = view.t(1, 0) == 0 && view.t(2, 0) == 0; // each row of the result is one of the source's
    const bool upwards = view.down(0, view.size.height) < view.down(0, 0);
    const int spanned = straight ? 1 : rows_spanned(view, source.size.height);
    Shelf shelf(source, view, over, spanned + down.taps + 1);
    Places places(straight ? 1 : view.size.width);
    std::vector<const float*> rows;
    std::vector<float> line(std::size_t(view.size.width) * 4 + 8);
    for (int i = 0; i < view.size.height; ++i) {
        const int y = upwards ? view.size.height - 1 - i : i;
        loops().locate(line_down(view, y, source.size.height), int(places.pixel.size()), places.pixel.data(),
                       places.phase.data());
        const Span s = span_of(places);
        rows.clear();
        for (int row = s.first - down.before; row <= s.last - down.before + down.taps; ++row)
            rows.push_back(shelf.row(row));
        if (straight)
            loops().down_straight(down, places.phase.front(), rows.data(), view.size.width, line.data());
        else
            loops().down_slanted(down, places, s.first, rows.data(), line.data());
        take(y, 0, view.size.width, line.data());
    }
}

cv::Rect looked_at(const View& view, cv::Size source, double margin)
{
    cv::Rect2d box;
    bool first = true;
    for (const double x : {-0.5, view.size.width - 0.5})
        for (const double y : {-0.5, view.size.height - 0.5}) {
            const double w = view.weight(x, y);
            const cv::Point2d p((view.t(0, 0) * x + view.t(0, 1) * y + view.t(0, 2)) / w, view.down(x, y));
            if (!(w > 0) || !(std::abs(p.x) < 1e6) || !(std::abs(p.y) < 1e6))
                return {{0, 0}, source};
            const cv::Rect2d here(p.x - margin, p.y - margin, 2 * margin, 2 * margin);
            box = first ? here : box | here;
            first = false;
        }
    const cv::Rect whole({0, 0}, source);
    const cv::Rect part = whole & cv::Rect(cv::Point(int(std::floor(box.x)), int(std::floor(box.y))),
                                           cv::Point(int(std::ceil(box.br().x)), int(std::ceil(box.br().y))));
    return view.edges == Edges::mirrored && part.area() != whole.area() &&
                   !(whole.contains(box.tl()) && whole.contains(box.br()))
               ? whole
               : part;
}

/// By the best filter, whole pixels of it, only what the result looks at. What is left to the warp is little, so is
/// what it costs.
std::optional<Smaller> reduced(const CanvasRows& source, const View& view, const cv::Vec2d& wide)
{
    const double by = std::min(wide[0], wide[1]) / spare;
    if (!(by > 1.1)) // and where it is no number
        return std::nullopt;
    const cv::Rect part = looked_at(view, source.size, 8 * by);
    const cv::Size size(int(std::ceil(part.width / by)), int(std::ceil(part.height / by)));
    if (std::min(size.width, size.height) < 2 || part.empty())
        return std::nullopt;
    const double across = double(size.width) / part.width, down = double(size.height) / part.height;
    return Smaller{
        scaled_rows(source, part, size),
        cv::Matx33d(across, 0, (0.5 - part.x) * across - 0.5, 0, down, (0.5 - part.y) * down - 0.5, 0, 0, 1) * view.t};
}

/// Halved until what is left needs no other filter than the best one's own.
Smaller halved_first(const CanvasRows& source, const cv::Matx33d& to_source, const View& view)
{
    constexpr double much = 4; // source pixels a result pixel: beyond, means of four do for the finest
    Smaller now{source, to_source};
    for (cv::Vec2d wide = widths(view);
         std::min(wide[0], wide[1]) > much && std::min(now.rows.size.width, now.rows.size.height) > 8; wide /= 2) {
        const cv::Matx33d half(0.5, 0, -0.25, 0, 0.5, -0.25, 0, 0, 1);
        now = {halved(now.rows), half * now.to_source};
    }
    return now;
}

}

Smaller smaller_first(const CanvasRows& source, const cv::Matx33d& to_source, cv::Size size, Edges edges)
{
    const Smaller half = halved_first(source, to_source, {to_source, size, edges});
    if (const auto part = scaled_part(half.rows.size, half.to_source, size);
        part && part->width >= size.width && part->height >= size.height)
        return half.to_source == cv::Matx33d::eye() ? half
                                                    : Smaller{scaled_rows(half.rows, *part, size), cv::Matx33d::eye()};
    const View view{half.to_source, size, edges};
    auto smaller = reduced(half.rows, view, widths(view));
    return smaller ? *smaller : half;
}

namespace {

/// small: it was made as small as it can be.
void warp_made_smaller(const CanvasRows& source, const cv::Matx33d& to_source, cv::Size size, Edges edges,
                       const TakeRow& take, bool small)
{
    const View view{to_source, size, edges};
    if (to_source == cv::Matx33d::eye() && source.size == size) {
        std::vector<float> line(std::size_t(size.width) * 4);
        for (int y = 0; y < size.height; ++y) {
            source.row(y, 0, size.width, line.data());
            take(y, 0, size.width, line.data());
        }
        return;
    }
    if (const auto part = scaled_part(source.size, to_source, size)) {
        scale(source, *part, size, take);
        return;
    }
    if (const auto smaller = small ? std::nullopt : reduced(source, view, widths(view))) {
        warp_made_smaller(smaller->rows, smaller->to_source, size, edges, take, true);
        return;
    }
    const double across_down = std::abs(view.down(size.width / 2.0 + 1, size.height / 2.0) -
                                        view.down(size.width / 2.0, size.height / 2.0)),
                 down_down = std::abs(view.down(size.width / 2.0, size.height / 2.0 + 1) -
                                      view.down(size.width / 2.0, size.height / 2.0));
    if (!(across_down > down_down)) {
        warp_upright(source, view, take);
        return;
    }
    // Nearer to a quarter turn: the result is made lying, and turned.
    const cv::Matx33d lying(0, 1, 0, -1, 0, size.height - 1.0, 0, 0,
                            1); // of pixels of the lying result to the upright's
    Canvas on_its_side(cv::Size(size.height, size.width));
    warp_upright(source, {to_source * lying, on_its_side.size(), edges}, [&](int y, int, int, const float* row) {
        std::copy_n(row, std::size_t(on_its_side.cols) * 4, on_its_side.ptr<float>(y));
    });
    Canvas upright;
    cv::rotate(on_its_side, upright, cv::ROTATE_90_COUNTERCLOCKWISE);
    for (int y = 0; y < size.height; ++y)
        take(y, 0, size.width, upright.ptr<float>(y));
}

}

void warp(const CanvasRows& source, const cv::Matx33d& to_source, cv::Size size, Edges edges, const TakeRow& take)
{
    const Smaller half = halved_first(source, to_source, {to_source, size, edges});
    warp_made_smaller(half.rows, half.to_source, size, edges, take, false);
}

Canvas warped(const CanvasRows& source, const cv::Matx33d& to_source, cv::Size size, Edges edges)
{
    Canvas out(size);
    warp(source, to_source, size, edges, [&](int y, int begin, int end, const float* row) {
        std::copy_n(row, std::ptrdiff_t(end - begin) * 4, out.ptr<float>(y) + std::ptrdiff_t(begin) * 4);
    });
    return out;
}

}
