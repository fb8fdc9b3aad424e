#include "app/sheet/fit.h"

#include <algorithm>
#include <cmath>

namespace frenlo::app {

namespace {

constexpr int lowest = 42, highest = 360; ///< tiles, pixels
constexpr double narrowest = 24;          ///< of the usual hold, where the whole shot is to be seen
constexpr double readable = 40;           ///< and where it is scrolled

/// Columns that the middle one of the holds takes.
double usual_hold(const Schedule& schedule)
{
    std::vector<std::int64_t> frames;
    for (const FrameSpan& s : schedule.spans())
        if (s.frames() > 0)
            frames.push_back(s.frames());
    if (frames.empty())
        return 1;
    const auto middle = frames.begin() + std::ptrdiff_t(frames.size() / 2);
    std::nth_element(frames.begin(), middle, frames.end());
    return double(*middle);
}

}

RowLook fitting_rows(const Schedule& schedule, QSize page, double shape, int more_below)
{
    const double hold = usual_hold(schedule), width = std::max(1, page.width() - RowsLayout::left - RowsLayout::right);
    RowLook best{}, scrolled{RowLength::quarter, lowest, more_below};
    double best_area = 0;
    for (const RowLength length : row_lengths) {
        const int per_row = frames_per_row(schedule.rate(), length);
        const auto rows = std::max<std::int64_t>(1, (schedule.frames() + per_row - 1) / per_row);
        const double tile = std::min(hold, double(per_row)) * width / per_row;
        const double whole = tile / std::max(0.1, shape); // as high as a photo that is seen whole
        if (tile >= readable)
            scrolled = {length, int(std::clamp(std::lround(whole), long(lowest), long(highest))), more_below};
        const auto room = (page.height() - RowsLayout::top_gap - 8) / rows - RowsLayout::below - more_below;
        // Higher than twice its width a tile is a slit.
        const int high = int(std::clamp(std::min(double(room), 2 * tile), 0.0, double(highest)));
        const double area = std::min(tile, high * shape) * high;
        if (high >= lowest && tile >= narrowest && area > best_area) {
            best_area = area;
            best = {length, high, more_below};
        }
    }
    return best_area > 0 ? best : scrolled;
}

int fitting_tile_width(std::int64_t photos, QSize page, double shape)
{
    constexpr int smallest = 72, largest = 320;
    for (int width = largest; width > smallest; width -= 4)
        if (GridLayout(photos, page.width(), width, shape).height() <= page.height())
            return width;
    return smallest;
}

}
