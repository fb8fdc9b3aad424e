#pragma once
#include "app/theme/colours.h"

class QApplication;
class QWidget;

namespace frenlo::app {

/// Loads the shipped fonts and sets style, palette and style sheet of the whole application.
void apply_theme(QApplication& application, ThemeName name);

/// How a button stands out: most do not; the one that goes on with the job does; chosen ones are outlined.
void make_primary(QWidget* button);

/// A button that opens a menu.
void make_menu_button(QWidget* button);

/// A label that says something worth a look: amber ground, with its triangle in the text.
void make_notice(QWidget* label);
/// A label in the second ink.
void make_secondary(QWidget* label);
/// A bold label above a group of controls.
void make_heading(QWidget* label);

/// "▲ ": shape before colour.
QString look_at_this(const QString& text);

/// The steps of spacing, pixels.
inline constexpr int gap = 8;
inline constexpr int wide_gap = 16;

}
