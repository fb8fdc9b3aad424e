#include "core/base/folders.h"

#include <cstdlib>

namespace frenlo {

namespace {

std::filesystem::path folder(const char* variable, const char* below_home)
{
    const char* base = std::getenv(variable);
    if (base && *base)
        return std::filesystem::path(base) / "frenlo";
    const char* home = std::getenv("HOME");
    return std::filesystem::path(home && *home ? home : "/tmp") / below_home / "frenlo";
}

}

std::filesystem::path cache_folder()
{
    return folder("XDG_CACHE_HOME", ".cache");
}

std::filesystem::path state_folder()
{
    return folder("XDG_STATE_HOME", ".local/state");
}

std::filesystem::path data_folder()
{
    return folder("XDG_DATA_HOME", ".local/share");
}

}
