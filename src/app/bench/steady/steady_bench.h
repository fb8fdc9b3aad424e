#pragma once
#include "app/work/steadier.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QListWidget;
class QProgressBar;
class QPushButton;

namespace frenlo::app {

class MotionPlot;

/// Steady: hold the photos of the shot still on a reference photo, see what was measured, and what to look at.
class SteadyBench : public QWidget {
    Q_OBJECT
public:
    SteadyBench(Session& session, Viewing& viewing, Steadier& steadier, QWidget* parent = nullptr);

Q_SIGNALS:
    void show_photo(ShotIndex shot, PhotoIndex photo);

private:
    QWidget* measuring_part();
    QWidget* looking_part();
    void refresh();
    void refresh_photo();
    void refresh_frame(const Shot& shot);
    void fill_doubts(const Shot& shot);
    [[nodiscard]] Movement movement() const;

    Session& session_;
    Viewing& viewing_;
    Steadier& steadier_;
    QComboBox* movement_;
    QLabel* reference_;
    QPushButton* this_one_;
    QPushButton* measure_;
    QProgressBar* progress_;
    QPushButton* inside_all_;
    QPushButton* whole_;
    QLabel* frame_;
    QPushButton* as_shot_;
    QLabel* state_;
    QLabel* photo_;
    QPushButton* nudge_;
    QLabel* doubts_heading_;
    QListWidget* doubts_;
    MotionPlot* plot_;
};

}
