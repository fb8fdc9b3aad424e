#pragma once
#include "app/steps/step_page.h"

#include <vector>

namespace frenlo::app {

/// Help > Keys: all keys, in a window of its own that can stay open beside the work.
QWidget* make_keys_page(const std::vector<KeyHelp>& keys, QWidget* parent);

}
