#pragma once
#include "core/export/preset.h"

#include <filesystem>
#include <string>
#include <vector>

namespace frenlo {

/// Where the user's own presets are kept: presets.json in Frenlo's folder of what is kept for all projects.
std::filesystem::path usual_presets_file();

/// The user's own, by name; none where there is no file. Of a format that this Frenlo does not know: left out, and left
/// in the file. Throws Failure where it cannot be read.
std::vector<Preset> load_presets(const std::filesystem::path& file);
/// In place of one of the same name. Throws Failure where the name is empty, has a slash in it, or is one of Frenlo's
/// own.
std::vector<Preset> keep_preset(const std::filesystem::path& file, const Preset& preset);
std::vector<Preset> forget_preset(const std::filesystem::path& file, const std::string& name);

/// By its name, of Frenlo's or of these.
const Preset* find_preset(std::string_view name, std::span<const Preset> own);

}
