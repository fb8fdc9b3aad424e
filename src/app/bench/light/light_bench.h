#pragma once
#include "app/work/lighter.h"

#include <QWidget>

class QCheckBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QProgressBar;
class QPushButton;

namespace frenlo::app {

class LightPlot;

/// Light: even the brightness of the shot, see what was measured, and decide about steps.
class LightBench : public QWidget {
    Q_OBJECT
public:
    LightBench(Session& session, Viewing& viewing, Lighter& lighter, QWidget* parent = nullptr);

Q_SIGNALS:
    void show_photo(ShotIndex shot, PhotoIndex photo);

protected:
    void showEvent(QShowEvent* event) override;

private:
    QWidget* evening_part();
    QWidget* looking_part();
    void even();
    void refresh();
    void refresh_place();
    void fill_list(const Shot& shot);

    Session& session_;
    Viewing& viewing_;
    Lighter& lighter_;
    QLineEdit* window_;
    QLineEdit* strength_;
    QCheckBox* each_colour_;
    QCheckBox* camera_steps_;
    QPushButton* even_;
    QPushButton* as_shot_;
    QProgressBar* progress_;
    QLabel* flicker_;
    QLabel* photo_;
    QListWidget* list_;
    QLabel* notice_;
    LightPlot* plot_;
    ShotPtr seen_; ///< the shot that the fields were filled for
};

}
