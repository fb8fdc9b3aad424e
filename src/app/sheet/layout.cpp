#include "app/sheet/layout.h"

#include <algorithm>
#include <cmath>

namespace frenlo::app {

std::vector<Cell> cells_in_row(const Schedule& schedule, int row, int frames_per_row)
{
    std::vector<Cell> cells;
    const FrameIndex begin(std::int64_t(row) * frames_per_row);
    const FrameIndex end = std::min(begin + frames_per_row, FrameIndex(schedule.frames()));
    if (begin >= end)
        return cells;
    const auto spans = schedule.spans();
    for (std::size_t i = schedule.span_at(begin); i < spans.size() && spans[i].begin < end; ++i) {
        const FrameIndex from = std::max(spans[i].begin, begin);
        const FrameIndex to = std::min(spans[i].end, end);
        if (from < to)
            cells.push_back({i, int(from - begin), int(to - from), spans[i].begin<begin, spans[i].end> end});
    }
    return cells;
}

int frames_per_row(Rate rate, RowLength length)
{
    return std::max(1, static_cast<int>(std::lround(rate.nominal() * int(length) / 4.0)));
}

RowsLayout::RowsLayout(const Schedule& schedule, const RowLook& look, int width, double shape)
    : frames_(schedule.frames()), per_row_(app::frames_per_row(schedule.rate(), look.length)),
      rows_(static_cast<int>((frames_ + per_row_ - 1) / per_row_)), width_(std::max(width - left - right, per_row_))
{
    const double two_columns = 2.0 * width_ / per_row_;
    tile_height_ = look.tile_height > 0
                       ? look.tile_height
                       : std::clamp(static_cast<int>(std::lround(two_columns / std::max(0.1, shape))), 42, 240);
    pitch_ = tile_height_ + below + look.more_below;
}

int RowsLayout::row_at(int y) const
{
    return std::max(0, (y - top_gap) / pitch_);
}

int RowsLayout::x_of(int column) const
{
    return left + static_cast<int>(std::lround(double(column) * width_ / per_row_));
}

QRect RowsLayout::cell_rect(int row, const Cell& cell) const
{
    const int x = x_of(cell.column);
    return {x, row_top(row), std::max(1, x_of(cell.column + cell.columns) - x - 1), tile_height_};
}

QRect RowsLayout::frame_rect(FrameIndex frame) const
{
    return cell_rect(int(frame.value / per_row_), {0, int(frame.value % per_row_), 1, false, false});
}

std::optional<FrameIndex> RowsLayout::frame_at(QPoint p) const
{
    if (p.x() < left || p.x() >= left + width_ || p.y() < top_gap)
        return std::nullopt;
    const int row = row_at(p.y());
    const int column = std::min(per_row_ - 1, static_cast<int>(double(p.x() - left) * per_row_ / width_));
    const std::int64_t frame = std::int64_t(row) * per_row_ + column;
    if (frame >= frames_)
        return std::nullopt;
    return FrameIndex(frame);
}

FrameIndex RowsLayout::boundary_at(QPoint p) const
{
    const int row = std::clamp(row_at(p.y()), 0, std::max(0, rows_ - 1));
    const double column = std::clamp(double(p.x() - left) * per_row_ / width_, 0.0, double(per_row_));
    return std::min(FrameIndex(std::int64_t(row) * per_row_ + std::lround(column)), FrameIndex(frames_));
}

QLine RowsLayout::boundary_line(FrameIndex boundary, bool after_frame_before) const
{
    const bool behind = (after_frame_before && boundary.value > 0) || boundary.value >= frames_;
    const std::int64_t frame = behind ? boundary.value - 1 : boundary.value;
    const int row = int(frame / per_row_);
    const int x = x_of(int(frame % per_row_) + (behind ? 1 : 0)) - (behind ? 1 : 0);
    return {x, row_top(row), x, row_top(row) + tile_height_};
}

double RowsLayout::columns_between(QPoint from, QPoint to) const
{
    return double(to.x() - from.x()) * per_row_ / width_ + double(row_at(to.y()) - row_at(from.y())) * per_row_;
}

bool RowsLayout::in_strip(QPoint p) const
{
    const int into = (p.y() - top_gap) % pitch_;
    return p.y() >= top_gap && into > tile_height_ && p.x() >= left - 4;
}

GridLayout::GridLayout(std::int64_t photos, int width, int tile_width, double shape) : photos_(photos)
{
    const int room = std::max(width - 2 * left, tile_width);
    columns_ = std::max(1, (room + spacing) / (tile_width + spacing));
    const int wide = (room + spacing) / columns_ - spacing;
    tile_ = QSize(wide, std::clamp(static_cast<int>(std::lround(wide / std::max(0.1, shape))), 24, wide * 3 / 2));
    rows_ = static_cast<int>((photos_ + columns_ - 1) / columns_);
    pitch_ = tile_.height() + below;
}

QRect GridLayout::tile_rect(PhotoIndex photo) const
{
    const int column = static_cast<int>(photo.value % columns_);
    const int row = static_cast<int>(photo.value / columns_);
    return {QPoint(left + column * (tile_.width() + spacing), top_gap + row * pitch_), tile_};
}

std::pair<PhotoIndex, PhotoIndex> GridLayout::photos_between(int top, int bottom) const
{
    const std::int64_t first = std::max(0, (top - top_gap) / pitch_);
    const std::int64_t last = std::max(0, (bottom - top_gap) / pitch_ + 1);
    return {PhotoIndex(std::min(photos_, first * columns_)), PhotoIndex(std::min(photos_, last * columns_))};
}

std::optional<PhotoIndex> GridLayout::photo_at(QPoint p) const
{
    if (p.x() < left || p.y() < top_gap)
        return std::nullopt;
    const int column = (p.x() - left) / (tile_.width() + spacing);
    if (column >= columns_)
        return std::nullopt;
    const std::int64_t photo = std::int64_t((p.y() - top_gap) / pitch_) * columns_ + column;
    if (photo >= photos_)
        return std::nullopt;
    return PhotoIndex(photo);
}

PhotoIndex GridLayout::gap_at(QPoint p) const
{
    const int row = std::clamp((p.y() - top_gap) / pitch_, 0, std::max(0, rows_ - 1));
    const double column = double(p.x() - left) / (tile_.width() + spacing);
    const int nearest = std::clamp(static_cast<int>(std::lround(column)), 0, columns_);
    return PhotoIndex(std::min(photos_, std::int64_t(row) * columns_ + nearest));
}

QLine GridLayout::gap_line(PhotoIndex before) const
{
    // Behind the last tile of a row rather than before the first of the next one, where there is none.
    const bool behind = before.value == photos_ && photos_ > 0;
    const QRect tile = tile_rect(behind ? before - 1 : before);
    const int x = behind ? tile.right() + spacing / 2 + 1 : tile.left() - spacing / 2 - 1;
    return {x, tile.top(), x, tile.bottom()};
}

}
