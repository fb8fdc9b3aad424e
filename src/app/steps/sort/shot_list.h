#pragma once
#include "app/steps/sort/sort_controller.h"

#include <QWidget>

class QLabel;
class QLineEdit;
class QTreeWidget;
class QTreeWidgetItem;

namespace frenlo::app {

/// The shots of the project or, on an unsorted card, those found on it; named in place.
class ShotList : public QWidget
{
    Q_OBJECT
public:
    ShotList(Session& session, Viewing& viewing, SortController& sort_controller, QWidget* parent = nullptr);

Q_SIGNALS:
    void show_photo(ShotIndex shot, PhotoIndex photo);

private:
    void fill();
    void fill_with_parts(const Shot& card);
    void mark_current();
    void name(int row, const QString& text);
    void take_pause();
    void refresh_pause();
    QTreeWidgetItem* add(const QString& name, const QString& files, const QString& count, const QString& tip);

    Session& session_;
    Viewing& viewing_;
    SortController& sort_controller_;
    QLabel* heading_;
    QTreeWidget* list_;
    QWidget* pause_line_;
    QLineEdit* pause_;
};

}
