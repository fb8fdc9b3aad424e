#pragma once
#include <QString>

class QLabel;
class QLineEdit;
class QPushButton;
class QWidget;

namespace frenlo::app {

/// Controls as every bench has them.
/// The two halves of a bench's page.
QWidget* side_by_side(QWidget* left, QWidget* right);
QLabel* heading(const QString& text);
QLabel* secondary(const QString& text);
/// A button that the mouse does not take the focus to, so that the Sheet's keys go on working.
QPushButton* tool(const QString& text, const QString& tip = {});
/// A line to type into; name is what a screen reader says.
QLineEdit* field(const QString& name, const QString& tip, int width);
/// An amber note, hidden while it has nothing to say.
QLabel* notice();
void say(QLabel* notice, const QString& text);
/// A field whose text could not be understood.
void mark_wrong(QWidget* field, bool wrong);

}
