#pragma once
#include "app/steps/shoot/shoot_controller.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace frenlo::app {

/// Where photos go, and what each of them is to be.
class TakePart : public QWidget
{
    Q_OBJECT
public:
    TakePart(Session& session, Viewing& viewing, ShootController& controller, QLabel& notice,
             QWidget* parent = nullptr);
    void refresh();

private:
    void change(const std::function<void(ShootPlan&)>& how);
    void take_hold();
    void take_average();
    void choose_folder();

    Session& session_;
    Viewing& viewing_;
    ShootController& controller_;
    QLabel& notice_;
    QComboBox* into_;
    QLineEdit* name_;
    QLineEdit* folder_;
    QComboBox* where_;
    QLineEdit* hold_;
    QLabel* rate_;
    QLineEdit* averaged_;
    QComboBox* bracket_;
    QPushButton* trial_;
    QComboBox* format_;
    QPushButton* left_lying_;
};

}
