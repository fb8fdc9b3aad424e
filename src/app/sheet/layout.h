#pragma once
// Where things lie on the Sheet: pure geometry in logical pixels, y from the top of the whole page.
#include "core/time/schedule.h"

#include <QLine>
#include <QPoint>
#include <QRect>

#include <array>
#include <optional>
#include <vector>

namespace frenlo::app {

/// Part of a photo's hold within one row.
struct Cell
{
    std::size_t span = 0; ///< in the schedule
    int column = 0;
    int columns = 1;
    bool continues = false; ///< the photo began in a row above
    bool goes_on = false;   ///< and goes on in the row below
};

/// The cells of one row of frames_per_row frames, from left to right. Empty spans have no cell.
std::vector<Cell> cells_in_row(const Schedule& schedule, int row, int frames_per_row);

/// How long a row is: a quarter of a second, half, one, two, five. In quarters of a second.
enum class RowLength
{
    quarter = 1,
    half = 2,
    one = 4,
    two = 8,
    five = 20
};
inline constexpr std::array row_lengths{RowLength::quarter, RowLength::half, RowLength::one, RowLength::two,
                                        RowLength::five};
/// How rows are laid out.
struct RowLook
{
    RowLength length = RowLength::one;
    int tile_height = 0; ///< pixels; 0: as high as a photo held on twos needs to be whole, within reason
    int more_below = 0;  ///< more room below the tiles than figures need, pixels
    bool operator==(const RowLook&) const = default;
};
/// Columns of a row: the frames of that much nominal time, at least 1.
int frames_per_row(Rate rate, RowLength length);

/// The page of frames: one row is a fixed time.
class RowsLayout
{
public:
    /// shape: width over height of the photos.
    RowsLayout(const Schedule& schedule, const RowLook& look, int width, double shape);

    [[nodiscard]] int rows() const { return rows_; }
    [[nodiscard]] int frames_per_row() const { return per_row_; }
    [[nodiscard]] double column_width() const { return double(width_) / per_row_; }
    [[nodiscard]] int height() const { return top_gap + rows_ * pitch_ + 8; }
    [[nodiscard]] int pitch() const { return pitch_; }
    [[nodiscard]] int tile_height() const { return tile_height_; }
    /// Of a row of time: where its tiles are, and what lies below, to where a full row would end.
    [[nodiscard]] QRect tiles_rect(int row) const { return {left, row_top(row), width_, tile_height_}; }
    [[nodiscard]] QRect strip_rect(int row) const
    {
        return {left, row_top(row) + tile_height_, width_, pitch_ - tile_height_};
    }
    [[nodiscard]] int row_at(int y) const;
    [[nodiscard]] int row_top(int row) const { return top_gap + row * pitch_; }
    /// The tiles' part of a cell; numbers and meter lie below it.
    [[nodiscard]] QRect cell_rect(int row, const Cell& cell) const;
    [[nodiscard]] QRect frame_rect(FrameIndex frame) const;
    /// The frame under this point of the page, if there is one.
    [[nodiscard]] std::optional<FrameIndex> frame_at(QPoint p) const;
    /// The boundary between frames that is nearest to this point, counted as the frame after it: 0 to the page's
    /// frames.
    [[nodiscard]] FrameIndex boundary_at(QPoint p) const;
    /// Where a boundary is seen: at the end of the row of the frame before it, or at the start of that of the frame
    /// after.
    [[nodiscard]] QLine boundary_line(FrameIndex boundary, bool after_frame_before) const;
    /// How many columns lie between two points, rows counted.
    [[nodiscard]] double columns_between(QPoint from, QPoint to) const;
    /// Below the tiles of a row, where meter and figures are.
    [[nodiscard]] bool in_strip(QPoint p) const;

    static constexpr int left = 48;
    static constexpr int right = 16;
    static constexpr int top_gap = 14;
    static constexpr int below = 32; ///< meter, number and air

private:
    [[nodiscard]] int x_of(int column) const;

    std::int64_t frames_;
    int per_row_;
    int rows_;
    int width_;
    int tile_height_;
    int pitch_;
};

/// The page of photos in Sort: even tiles.
class GridLayout
{
public:
    GridLayout(std::int64_t photos, int width, int tile_width, double shape);

    [[nodiscard]] int columns() const { return columns_; }
    [[nodiscard]] int rows() const { return rows_; }
    [[nodiscard]] int height() const { return top_gap + rows_ * pitch_ + 8; }
    [[nodiscard]] int pitch() const { return pitch_; }
    [[nodiscard]] QSize tile() const { return tile_; }
    [[nodiscard]] QRect tile_rect(PhotoIndex photo) const;
    /// Photos in the rows that touch [top, bottom] of the page: half open.
    [[nodiscard]] std::pair<PhotoIndex, PhotoIndex> photos_between(int top, int bottom) const;
    [[nodiscard]] std::optional<PhotoIndex> photo_at(QPoint p) const;
    /// The photo that something dropped here comes before; one past the last behind all.
    [[nodiscard]] PhotoIndex gap_at(QPoint p) const;
    /// The line in front of a photo, where brackets and what is moved are drawn.
    [[nodiscard]] QLine gap_line(PhotoIndex before) const;

    static constexpr int left = 16;
    static constexpr int spacing = 6;
    static constexpr int top_gap = 12;
    static constexpr int below = 24; ///< the name

private:
    std::int64_t photos_;
    int columns_;
    int rows_;
    QSize tile_;
    int pitch_;
};

}
