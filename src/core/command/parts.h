#pragma once
// Areas and states as a call names them: by their names.
#include "core/picture/areas.h"

#include <string>

namespace frenlo::command {

/// Throws WrongCall, with the names that there are, where there is none of this name. Empty: none.
std::optional<AreaId> named_area(const Shot& shot, const std::string& name);
std::optional<StateId> named_state(const Shot& shot, const std::string& name);

}
