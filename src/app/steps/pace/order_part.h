#pragma once
#include "app/steps/pace/pace_controller.h"
#include "app/steps/pace/thinning.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QSpinBox;

namespace frenlo::app {

/// In what order and how often photos are played, and which are left out: every Nth, at marks, without movement.
/// And steps that are too large.
class OrderPart : public QWidget
{
    Q_OBJECT
public:
    OrderPart(Session& session, Viewing& viewing, PaceController& pace_controller, Thinning& thinning, QLabel& notice,
              QWidget* parent = nullptr);
    void refresh();

private:
    QWidget* marks_row();
    void take_times();
    void refresh_thinning();
    void refresh_part();

    Session& session_;
    Viewing& viewing_;
    PaceController& pace_controller_;
    Thinning& thinning_;
    QLabel& notice_;
    QPushButton* backwards_;
    QPushButton* there_and_back_;
    QComboBox* turning_;
    QSpinBox* times_;
    QLineEdit* at_least_;
    QLabel* times_words_;
    QSpinBox* keep_every_;
    QLabel* marks_;
    QSpinBox* at_each_;
    QPushButton* at_marks_;
    QPushButton* look_;
    QLabel* found_;
    QPushButton* select_;
    QPushButton* aside_;
    QWidget* steps_row_ = nullptr;
    QLabel* steps_;
    QPushButton* next_step_;
    QPushButton* fill_;
    QPushButton* part_;
};

}
