#pragma once

class QWidget;

namespace frenlo::app {

/// The guide (docs/guide.md), to be read beside the window.
QWidget* make_guide(QWidget* parent);

/// Version, licence, what Frenlo stands on, and what this machine can do for it.
QWidget* make_about(QWidget* parent);

}
