#include "core/picture/stages.h"

#include <algorithm>

namespace frenlo {

StagePhoto part_of_plane(cv::Size size, const cv::Rect2d& part)
{
    const double across = part.width / size.width, down = part.height / size.height;
    return {.size = size,
            .to_plane = {across, 0, part.x + across / 2, 0, down, part.y + down / 2, 0, 0, 1},
            .to_photo = {1.0 / size.width, 0, 0.5 / size.width, 0, 1.0 / size.height, 0.5 / size.height, 0, 0, 1}};
}

namespace {

/// An overview after this stage, from that before it.
std::function<Canvas()> after_stage(std::function<Canvas()> before, const StageValues::Entry& stage,
                                    const StagePhoto& photo)
{
    if (!before)
        return {};
    return [before = std::move(before), stage, to_plane = photo.to_plane, to_photo = photo.to_photo, lens = photo.lens,
            other = photo.other] {
        Canvas small = before();
        StagePhoto whole = part_of_plane(small.size());
        whole.to_plane = to_plane * to_photo.inv() * whole.to_photo;
        whole.lens = lens;
        whole.overview = before;
        whole.rows = [seen = small.clone()](int y, int begin, int end, float* bgra) {
            std::copy_n(seen.ptr<float>(y) + std::ptrdiff_t(begin) * 4, std::ptrdiff_t(end - begin) * 4, bgra);
        };
        whole.other = other;
        const RowStage rows = stage.type->rows(stage.value.get(), whole);
        for (int y = 0; y < small.rows; ++y)
            rows(y, 0, small.cols, small.ptr<float>(y));
        return small;
    };
}

}

bool make_transparent(const StageValues& stages)
{
    return std::any_of(stages.entries().begin(), stages.entries().end(),
                       [](const StageValues::Entry& e) { return e.type->transparent; });
}

bool make_smooth_light(const StageValues& stages)
{
    return std::any_of(stages.entries().begin(), stages.entries().end(),
                       [](const StageValues::Entry& e) { return !e.type->in_places(e.value.get()); });
}

RowStage all_stages(const StageValues& stages, const StagePhoto& photo)
{
    std::vector<RowStage> all;
    StagePhoto now = photo;
    for (const auto& s : stages.entries()) {
        all.push_back(s.type->rows(s.value.get(), now));
        now.overview = after_stage(std::move(now.overview), s, photo);
        if (now.rows)
            now.rows = [rows = std::move(now.rows), stage = all.back()](int y, int begin, int end, float* bgra) {
                rows(y, begin, end, bgra);
                stage(y, begin, end, bgra);
            };
    }
    return [all = std::move(all)](int y, int begin, int end, float* bgra) {
        for (const RowStage& stage : all)
            stage(y, begin, end, bgra);
    };
}

CanvasRows staged(CanvasRows rows, const StageValues& stages, const StagePhoto& photo)
{
    if (stages.entries().empty())
        return rows;
    StagePhoto known = photo;
    known.rows = rows.row;
    return {rows.size,
            [row = rows.row, all = all_stages(stages, known)](int y, int begin, int end, float* bgra) {
                row(y, begin, end, bgra);
                all(y, begin, end, bgra);
            },
            rows.opaque && !make_transparent(stages),
            {}};
}

}
