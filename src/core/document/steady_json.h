#pragma once
// Private to document/: what Steady measured, in the project file. Reading throws std::exception for what cannot be.
#include "core/document/project.h"

#include <nlohmann/json_fwd.hpp>

namespace frenlo {

nlohmann::ordered_json alignment_to_json(const Alignment& alignment);
Alignment alignment_from(const nlohmann::ordered_json& j);
nlohmann::ordered_json region_to_json(const Region& region);
Region region_from(const nlohmann::ordered_json& j);
nlohmann::ordered_json steadying_to_json(const Steadying& steady);
/// The size is empty where the file does not say it yet: it is that of the photos then.
Steadying steadying_from(const nlohmann::ordered_json& j);

}
