#pragma once
#include <string>
#include <utility>
#include <vector>

namespace frenlo {

/// The libraries that do the work, each with the version that is in use here; the window's own are not among them.
std::vector<std::pair<std::string, std::string>> libraries_in_use();

/// What this machine has for it: cores, memory.
std::string machine_text();

}
