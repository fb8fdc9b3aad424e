#pragma once
// Private to document/: the timing of a shot in the project file.
#include "core/timing/pacing.h"

#include <nlohmann/json_fwd.hpp>

namespace frenlo {

/// Adds what differs from a plain shot, with the names of docs/project.schema.json.
void put_pacing(nlohmann::ordered_json& shot, const Pacing& pacing);

/// Throws std::exception for what cannot be.
Pacing pacing_from(const nlohmann::ordered_json& shot);

}
