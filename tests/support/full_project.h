#pragma once
#include "core/project/project.h"

namespace frenlo::test {

/// A project in which every field has a value that is not its default; its photos lie in /films/harbour.
Project full_project();

}
