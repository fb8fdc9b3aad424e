#pragma once
// Private to project/: a project as JSON, and back.
#include "core/base/field_json.h"
#include "core/project/project.h"

#include <filesystem>
#include <string>
#include <string_view>

namespace frenlo {

/// A photo a line, paths relative to the folder.
std::string project_text(const Project& project, const std::filesystem::path& folder);

/// Photo by photo, so that a hundred thousand of them take little more memory than they take as values. Throws Failure
/// where it is no project, damaged, or of a newer version; file is named by it.
Project project_of_text(std::string_view text, const std::filesystem::path& folder, const std::filesystem::path& file);

/// What the version of a file is, or a Failure that says what is wrong with it.
void check_is_project(std::string_view text, const std::filesystem::path& file);

/// JSON Schema 2020-12 of project files, from the tables of fields.
Json project_schema();

}
