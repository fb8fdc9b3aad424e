#pragma once
class QWidget;

namespace frenlo::app {

/// Help > Keys: all keys, in a window of its own that can stay open beside the work.
QWidget* make_keys_page(QWidget* parent);

}
