#pragma once
#include "core/project/edits.h"
#include "core/steps/sort/scan.h"

#include <string>

namespace frenlo {

enum class Division
{
    one_shot,    ///< all photos make one shot
    found_shots, ///< as scan found them
    card         ///< one unsorted card with the shots found as its parts; a plain shot where all photos are one
};

/// Adds what a scan found. Photos that cannot be read come along, set aside, with their flaw, at their place in the
/// order. hold: none takes what suits each shot's kind. name: of the one shot or card; empty takes it from the first
/// folder. Clips come behind, each a shot of its own with its file's timing; taking: how, none as suits each.
Project add_scanned(const Project& project, const ScanResult& found, std::optional<Hold> hold, Division division,
                    const std::string& name = {}, const std::optional<ClipTaking>& taking = {});

/// The same for a scan that goes on: what it found so far is in the project already, as the shot or card that holds the
/// first of these photos, and is replaced by what is known now. What the user did to photos meanwhile stays. A project
/// without that shot is not changed: the user took it back. hold: as it was added with.
Project update_scanned(const Project& project, const ScanResult& found, const std::string& name,
                       std::optional<Hold> hold = std::nullopt);

}
