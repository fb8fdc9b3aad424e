#pragma once
#include "app/steps/pace/pace_controller.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QPushButton;
class QStackedWidget;

namespace frenlo::app {

class BetweenRow;
class CadenceView;

/// The two rates, what becomes of frames between them, and the choice that another delivery rate asks for.
class RatePart : public QWidget
{
    Q_OBJECT
public:
    RatePart(Session& session, Viewing& viewing, PaceController& pace_controller, QLabel& notice,
             QWidget* parent = nullptr);
    void refresh();

Q_SIGNALS:
    void resolved(); ///< what was asked is answered: the keys can go back to the Sheet

private:
    QWidget* make_usual();
    QWidget* make_choice();
    void ask_delivered();
    void answer(RateIntent intent);
    void leave();
    void show_result(QPushButton* button, QLabel* result, RateIntent intent);
    void take_paced();

    Session& session_;
    Viewing& viewing_;
    PaceController& pace_controller_;
    QLabel& notice_;
    QComboBox* delivered_;
    QStackedWidget* pages_;
    QComboBox* paced_;
    BetweenRow* between_;
    CadenceView* cadence_;
    QLabel* cadence_words_;
    QPushButton* even_; ///< offered where photos do not stay for whole frames
    std::optional<Rate> even_at_;
    QLabel* question_;
    QPushButton* same_photos_;
    QLabel* same_photos_result_;
    QPushButton* same_time_;
    QLabel* same_time_result_;
    std::optional<Rate> asked_; ///< a delivery rate that waits for an intent
};

}
