#include "core/export/writing.h"

#include <tbb/global_control.h>

#include <algorithm>

namespace frenlo {

namespace {

/// As many as x264 itself takes: half as many again as there are cores, since its threads wait for each other.
int encoder_threads()
{
    const auto cores = tbb::global_control::active_value(tbb::global_control::max_allowed_parallelism);
    return std::max(1, static_cast<int>(cores == 1 ? 1 : cores * 3 / 2));
}

}

Writing writing_of(const ExportOrder& order, const ExportPlan& plan, const Filming& filming)
{
    return {.size = plan.size,
            .rate = plan.rate,
            .runs = filming.runs,
            .preset = &order.preset,
            .threads = encoder_threads()};
}

void write_file(AtomicFile& file, const Project& project, const ExportOrder& order, const ExportPlan& plan,
                Filming& filming, HeardFilm* heard, KeptPalette* palette)
{
    Writing writing = writing_of(order, plan, filming);
    writing.alpha = filming.transparent();
    writing.file = &file;
    writing.palette = palette;
    if (heard)
        writing.sound = heard->to_write();
    if (order.reel && format_of(order.preset).chapters)
        writing.chapters = chapters_of(project.reel, plan.length);
    filming.run(*format_of(order.preset).writer(writing));
}

void write_stills(const std::filesystem::path& folder, const StillNames& names, const ExportOrder& order,
                  const ExportPlan& plan, Filming& filming)
{
    Writing writing = writing_of(order, plan, filming);
    writing.folder = folder;
    writing.names = names;
    writing.first_number = plan.first_number;
    filming.run(*format_of(order.preset).writer(writing));
}

}
