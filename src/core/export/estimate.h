#pragma once
#include "core/export/export.h"

namespace frenlo {

/// What an export will take, found out from some of its pictures.
struct ExportEstimate
{
    std::uintmax_t bytes = 0;
    double seconds = 0;        ///< until it is written, at the speed that was found; without reading it back
    std::int64_t pictures = 0; ///< that were rendered for it
};

/// Renders and writes some stretches of the film as the export will, into the system's folder for temporary files,
/// where nothing stays. A size limit is not looked at. Throws Failure, Stopped.
ExportEstimate estimate_export(const Project& project, const ExportOrder& order, const PhotoSource& source,
                               const Job& job);

/// The plan with what was found out: its size, and whether that fits where the file goes to.
ExportPlan with_estimate(ExportPlan plan, const ExportOrder& order, const ExportEstimate& estimate);

}
