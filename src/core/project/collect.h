#pragma once
#include "core/base/job.h"
#include "core/project/project.h"

#include <filesystem>
#include <vector>

namespace frenlo {

struct Collected
{
    std::filesystem::path project;   ///< the file that was written
    std::int64_t files = 0;          ///< photos and sounds that are there now
    std::int64_t copied = 0;         ///< of them, those that were not there yet
    std::uintmax_t bytes = 0;        ///< of all
    std::vector<Problem> problems{}; ///< files that are gone or cannot be read: they keep their old places
};

/// All that a project is made of in one folder, to be moved or kept: each photo as "photos/<shot>/<its name>", each
/// sound as "sounds/<its name>", and the project beside them, which names them by relative paths. Every copy is
/// compared with its original, byte for byte. What is there already with the same bytes is not copied again, so that
/// what was stopped or killed goes on; a file that is another one stays, and the photo gets a number. name: of the
/// project's file, without ending; one that is there is replaced only where it is a collection's. Throws Failure,
/// before anything is copied where there is too little room; Stopped.
Collected collect_project(const Project& project, const std::filesystem::path& folder, const std::string& name,
                          const Job& job);

}
