#pragma once
#include <string>

namespace frenlo::app {

/// The ICC profile of the monitor, where the desktop gives one: the property _ICC_PROFILE of X11's root window (ICC
/// Profiles in X Specification 0.4). Empty elsewhere.
std::string monitor_profile();

}
