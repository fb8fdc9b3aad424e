#include "core/picture/stages.h"

namespace frenlo {

StagePhoto part_of_plane(cv::Size size, const cv::Rect2d& part)
{
    const double across = part.width / size.width, down = part.height / size.height;
    return {size, {across, 0, part.x + across / 2, 0, down, part.y + down / 2, 0, 0, 1}};
}

CanvasRows staged(CanvasRows rows, const StageValues& stages, const Transform& to_plane)
{
    if (stages.entries().empty())
        return rows;
    std::vector<RowStage> all;
    for (const auto& s : stages.entries())
        all.push_back(s.type->rows(s.value.get(), {rows.size, to_plane}));
    return {rows.size,
            [row = rows.row, all = std::move(all)](int y, int begin, int end, float* bgra) {
                row(y, begin, end, bgra);
                for (const RowStage& stage : all)
                    stage(y, begin, end, bgra);
            },
            rows.opaque};
}

}
