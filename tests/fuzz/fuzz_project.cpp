// A project file of any bytes: read as a project or refused with a Failure, and what was read is written and read back.
#include "core/project/project_file.h"

#include <cstdint>
#include <cstdlib>

using namespace frenlo;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    const std::filesystem::path file("/nowhere/p.frenlo");
    try {
        const Project first = project_from_json(text, file).project;
        if (!(project_from_json(project_to_json(first, file), file).project == first))
            std::abort();
    } catch (const Failure&) { // refused with a message: as it should be
    }
    return 0;
}
