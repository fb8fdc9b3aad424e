#pragma once
#include <filesystem>

namespace frenlo {

/// Frenlo's own folders, after the XDG base directory specification: $XDG_CACHE_HOME/frenlo or ~/.cache/frenlo, and so
/// on.
std::filesystem::path cache_folder();
std::filesystem::path state_folder();
std::filesystem::path data_folder();

}
