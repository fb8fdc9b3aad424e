#pragma once
#include "app/steps/pace/pace_controller.h"

#include <QWidget>

#include <vector>

class QLabel;
class QLineEdit;
class QPushButton;

namespace frenlo::app {

/// How long the chosen photos stay, each or together, and the film's ends.
class HoldPart : public QWidget
{
    Q_OBJECT
public:
    /// notice: where it says what it could not understand.
    HoldPart(Session& session, Viewing& viewing, PaceController& pace_controller, QLabel& notice,
             QWidget* parent = nullptr);
    void refresh();

private:
    void refresh_hold(const Shot& shot);
    void take_hold();
    void take_together(bool evenly);
    void take_speed();
    void take_end(QLineEdit* field, bool first);

    Session& session_;
    Viewing& viewing_;
    PaceController& pace_controller_;
    QLabel& notice_;
    QLabel* heading_;
    QPushButton* all_photos_; ///< beside it, where some are selected
    std::vector<std::pair<int, QPushButton*>> holds_;
    QLineEdit* hold_;
    QLabel* hold_length_;
    QLabel* together_label_ = nullptr;
    QLineEdit* together_;
    QLineEdit* speed_;
    QLineEdit* first_;
    QLineEdit* last_;
};

}
