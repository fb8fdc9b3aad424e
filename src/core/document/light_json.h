#pragma once
// Private to document/: what Light measured, in the project file. Reading throws std::exception for what cannot be.
#include "core/document/project.h"

#include <nlohmann/json_fwd.hpp>

namespace frenlo {

nlohmann::ordered_json photo_light_to_json(const PhotoLight& light);
PhotoLight photo_light_from(const nlohmann::ordered_json& j);
nlohmann::ordered_json lighting_to_json(const Lighting& lighting);
Lighting lighting_from(const nlohmann::ordered_json& j);

}
