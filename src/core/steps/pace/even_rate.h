#pragma once
#include "core/project/project.h"

namespace frenlo {

/// Of the usual rates the nearest to the one that is delivered at, the higher of two, at which every photo of the film
/// stays for whole frames: 30 for photos of 0.1 s at 24. None where they do so already, where there is no such rate,
/// and where something else decides how long photos stay (a speed course, frames made between photos).
std::optional<Rate> even_rate(const Project& project, const Shot& shot);

}
