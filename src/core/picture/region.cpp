#include "core/picture/region.h"

#include <algorithm>

namespace frenlo {

std::vector<cv::Rect2d> boxes_of(const std::vector<bool>& cells, int columns)
{
    struct Run
    {
        int begin, end, top, bottom; // cells
    };
    std::vector<Run> runs;
    const int rows = columns > 0 ? int(cells.size()) / columns : 0;
    for (int row = 0; row < rows; ++row)
        for (int column = 0; column < columns;) {
            int end = column;
            while (end < columns && cells[std::size_t(row) * std::size_t(columns) + std::size_t(end)])
                ++end;
            if (end == column) {
                ++column;
                continue;
            }
            // The same run below another one is one box.
            const auto above = std::find_if(runs.begin(), runs.end(), [&](const Run& r) {
                return r.begin == column && r.end == end && r.bottom == row;
            });
            if (above != runs.end())
                ++above->bottom;
            else
                runs.push_back({column, end, row, row + 1});
            column = end;
        }
    std::vector<cv::Rect2d> boxes;
    boxes.reserve(runs.size());
    for (const Run& r : runs)
        boxes.emplace_back(double(r.begin) / columns, double(r.top) / rows, double(r.end - r.begin) / columns,
                           double(r.bottom - r.top) / rows);
    return boxes;
}

}
