#pragma once
#include "core/base/job.h"
#include "core/project/project.h"
#include "core/project/relocation.h"

#include <filesystem>
#include <functional>
#include <vector>

namespace frenlo {

enum class FilingWay
{
    copy, ///< the originals stay where they are
    move,
    take_back ///< undoes a copy: removes what is still the same as its original
};

struct FilingStep
{
    std::filesystem::path from;
    std::filesystem::path to;
    bool operator==(const FilingStep&) const = default;
};

/// Which file goes where, known in full before anything is touched.
struct FilingPlan
{
    FilingWay way = FilingWay::copy;
    std::vector<FilingStep> steps; ///< photos and their sidecars
    std::uintmax_t bytes = 0;      ///< to be written on the disk of the target
    std::vector<Problem> problems; ///< where there are any, the plan cannot run
};

/// The photos of each shot's film, in order, as "Paper_ferry/Paper_ferry_0001.jpg" below the folder; four digits, five
/// where there are more than 9,999 (common practice, no source). Sidecars (XMP, ISO 16684-1: "x.xmp" and "x.jpg.xmp")
/// go along. Photos that are set aside stay.
FilingPlan plan_filing(const Project& project, const std::filesystem::path& folder, FilingWay way);

/// The plan that undoes a plan.
FilingPlan reversed(const FilingPlan& plan);

struct Filing
{
    FilingPlan done; ///< the steps that were carried out: all, or those before the problem or the stop
    std::optional<Problem> problem;
    bool stopped = false;
};

/// Carries the plan out, a file after the other; never overwrites. Its journal lies in journal_folder from before the
/// first step on, so that after a kill finish_filings() can finish it. Throws Failure where it cannot begin.
/// after_each: for tests, after every change on disk.
Filing run_filing(const FilingPlan& plan, const std::filesystem::path& journal_folder, const Job& job,
                  const std::function<void()>& after_each = {});

struct FinishedFiling
{
    std::size_t files = 0;
    std::vector<Problem> problems; ///< files that could not be dealt with; they stay where they are
};

/// Finishes what a killed process left half done. Filings of running processes are left alone.
std::vector<FinishedFiling> finish_filings(const std::filesystem::path& journal_folder, const Job& job,
                                           const std::function<void()>& after_each = {});

/// What the journals know of files that were moved; the newest move counts.
Moved moved_files(const std::filesystem::path& journal_folder);

/// $XDG_STATE_HOME/frenlo/filings or ~/.local/state/frenlo/filings.
std::filesystem::path usual_filing_folder();

}
