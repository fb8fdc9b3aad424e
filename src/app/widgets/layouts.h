#pragma once
#include "app/widgets/flow_layout.h"

#include <QString>
#include <QStringList>

#include <cstddef>
#include <initializer_list>
#include <optional>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QTreeWidget;
class QVBoxLayout;
class QWidget;

namespace frenlo::app {

/// Controls as every bench has them.
/// What a bench lays its rows into: where they need more room than there is, it scrolls.
QVBoxLayout* scrolled_column(QWidget* bench);
QWidget* scrolled(QWidget* inside);
/// The two halves of a bench's page.
QWidget* side_by_side(QWidget* left, QWidget* right);
/// Beside each other, from the left, going on in another line where there is no room.
FlowLayout* line_of(std::initializer_list<QWidget*> widgets, int spacing = 6);
/// The same as a widget, which can be hidden as one.
QWidget* one_row(std::initializer_list<QWidget*> widgets);
/// The same with a name before it, all names as wide; it can be hidden as one.
QWidget* named_row(const QString& name, std::initializer_list<QWidget*> widgets);
/// Rows below each other that can be hidden as one.
QWidget* rows_of(std::initializer_list<QWidget*> rows);
/// One of several; name is what a screen reader says.
QComboBox* choice(const QString& name, const QStringList& items, const QString& tip = {});
QLabel* heading(const QString& text);
QLabel* secondary(const QString& text);
/// A button that the mouse does not take the focus to, so that the Sheet's keys go on working.
QPushButton* tool(const QString& text, const QString& tip = {});
/// A line to type into; name is what a screen reader says.
QLineEdit* field(const QString& name, const QString& tip, int width);
/// A list of lines in columns, as wide as it is, the first column taking what the others leave.
QTreeWidget* line_list(const QString& name, const QStringList& columns, const QString& tip);
/// So many lines, those that are there staying.
void set_lines(QTreeWidget& list, std::size_t count);
/// The place of the line in hand; none where none is.
std::optional<std::size_t> chosen_line(const QTreeWidget& list);
/// An amber note, hidden while it has nothing to say.
QLabel* notice();
void say(QLabel* notice, const QString& text);
/// What the field is to say, unless somebody is typing into it.
void show_text(QLineEdit* field, const QString& text);
/// A field whose text could not be understood.
void mark_wrong(QWidget* field, bool wrong);

}
