#include "core/interchange/timing_file.h"

#include "core/base/atomic_file.h"
#include "core/base/problem.h"
#include "core/interchange/dopesheet.h"
#include "core/interchange/edit_lists.h"

#include <fstream>
#include <iterator>

namespace frenlo {

void write_timing(const Project& project, std::optional<ShotIndex> shot, const std::filesystem::path& file,
                  bool replace)
{
    const auto text = [&]() -> std::string {
        const std::string ending = file.extension().string();
        if (ending == ".otio")
            return otio_text(project, shot);
        if (ending == ".edl")
            return edl_text(project, shot);
        if (ending != ".csv")
            throw Failure({"its ending does not say what the file is to be", file,
                           "End it in .csv for a dopesheet, .otio or .edl for an edit list"});
        if (!shot)
            throw Failure({"a dopesheet is of a shot", file, "Choose a shot, or write the Reel as .otio or .edl"});
        return dopesheet_csv(dopesheet(project, *shot));
    }();
    replace ? write_whole_file(file, text) : write_new_file(file, text);
}

Project read_holds(const Project& project, ShotIndex shot, const std::filesystem::path& file)
{
    std::ifstream in(file, std::ios::binary);
    const std::string text((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>());
    if (!in.is_open() || in.bad())
        throw Failure({"it cannot be read", file, "Look whether it is there and may be read"});
    try {
        return holds_from_csv(project, shot, text);
    } catch (const Failure& failure) {
        Problem problem = failure.problem();
        problem.file = file;
        throw Failure(problem);
    }
}

}
