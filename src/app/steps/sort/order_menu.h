#pragma once
class QPushButton;

namespace frenlo::app {

class SortController;

/// The order of the photos of the shot, beside the Sheet's tabs.
QPushButton* make_order_button(SortController& controller);

}
