#pragma once
#include "core/base/job.h"
#include "core/document/project.h"
#include "core/media/preset.h"
#include "core/photo/photo_source.h"

#include <filesystem>
#include <optional>
#include <vector>

namespace frenlo {

enum class OnBadPhoto { stop, hold_before };

/// What to write, of which shot, where.
struct ExportOrder
{
    ShotIndex shot;
    std::filesystem::path file; ///< stills: with %0Nd in the name, added where it is missing
    Preset preset; ///< with any field changed by the user
    std::optional<Between> between{}; ///< where it should not be the shot's own
    OnBadPhoto on_bad_photo = OnBadPhoto::stop;
};

/// What an export will be, known before anything is rendered.
struct ExportPlan
{
    std::filesystem::path file; ///< stills: with the number pattern
    Rate rate{24};
    std::int64_t frames = 0;
    Seconds length;
    cv::Size size;
    std::uintmax_t estimated_bytes = 0; ///< an experience value, good to a factor of about two
    std::uintmax_t free_bytes = 0;
    std::vector<Problem> problems; ///< what the user should know and may accept
};

struct ExportReport
{
    ExportPlan plan;
    std::int64_t files = 1;
    std::uintmax_t bytes = 0;
    bool checked = false; ///< the written file was read back: frames, size and length are as planned
    std::vector<Problem> problems;
};

/// Throws Failure for what cannot be done at all: an empty film, a target that is one of the photos, a wrong ending.
ExportPlan plan_export(const Project& project, const ExportOrder& order);

/// Renders, writes and reads back. The file appears under its name when it is complete, and not before. Pictures are
/// rendered on all cores and written in order; memory holds a few pictures a core. Throws Failure, Stopped.
ExportReport run_export(const Project& project, const ExportOrder& order, const PhotoSource& source, const Job& job);

}
