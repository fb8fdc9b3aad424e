#include "app/steps/flicker/light_rows.h"

#include "core/steps/flicker/flicker_edits.h"

#include <algorithm>

namespace frenlo::app {

std::vector<LightRange> light_rows(const Shot& shot, const Schedule& schedule, int frames_per_row)
{
    if (!deflicker_of(shot) || frames_per_row < 1)
        return {};
    constexpr LightRange nothing{100, -100};
    std::vector<LightRange> rows(std::size_t((schedule.frames() + frames_per_row - 1) / frames_per_row), nothing);
    for (const FrameSpan& span : schedule.spans()) {
        const auto& light = light_of(shot.photos[span.photo.at()]);
        if (span.frames() == 0 || !light || light->change.outlier)
            continue;
        LightRange& row = rows[std::size_t(span.begin.value / frames_per_row)];
        for (const double stops : {light->change.stops, *light_now(shot, span.photo)}) {
            row.darkest = std::min(row.darkest, stops);
            row.brightest = std::max(row.brightest, stops);
        }
    }
    const double least = std::max(0.05, 4 * deflicker_of(shot)->before.shared);
    for (LightRange& row : rows) {
        const double middle = (row.darkest + row.brightest) / 2,
                     half = std::max(least, row.brightest - row.darkest) / 2;
        row = {middle - half, middle + half};
    }
    return rows;
}

}
