#pragma once

namespace frenlo::app {

/// Makes the Sheet's photos known to screen readers, as the items of a list: which photo, how long it is held, what its
/// state is. Once for the application; further calls do nothing.
void install_sheet_accessibility();

}
