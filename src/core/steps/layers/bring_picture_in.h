#pragma once
#include "core/project/project.h"

#include <filesystem>

namespace frenlo {

/// A picture on the disk as a shot of one photo, for a layer. Throws Failure where it is none, cannot be read, or has
/// several pictures.
Shot picture_shot(const std::filesystem::path& file);

}
