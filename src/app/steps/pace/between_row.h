#pragma once
#include "core/time/schedule.h"

#include <QWidget>

class QPushButton;

namespace frenlo::app {

/// What frames show that lie between two photos: one of these ways.
class BetweenRow : public QWidget
{
    Q_OBJECT
public:
    explicit BetweenRow(QWidget* parent = nullptr);
    void show_way(Between between);

Q_SIGNALS:
    void chosen(Between between);

private:
    QPushButton* repeat_;
    QPushButton* mix_;
    QPushButton* motion_;
};

}
