#pragma once
#include "app/work/viewing.h"

#include <QWidget>

#include <vector>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace frenlo::app {

/// Pace: how long each photo stays, and the rates.
class PaceBench : public QWidget {
    Q_OBJECT
public:
    PaceBench(Session& session, Viewing& viewing, QWidget* parent = nullptr);

    /// Sets the hold of the selected photos, of all where none is selected.
    void set_hold_of_chosen(Hold hold);

private:
    QWidget* hold_part();
    QWidget* rate_part();
    void refresh();
    void refresh_hold(const Shot& shot);
    void take_hold_field();
    void take_delivered();
    void take_paced();

    Session& session_;
    Viewing& viewing_;
    QLabel* hold_heading_;
    std::vector<std::pair<int, QPushButton*>> holds_;
    QLineEdit* hold_;
    QLabel* hold_length_;
    QComboBox* delivered_;
    QComboBox* paced_;
    QLabel* result_;
    QLabel* between_;
};

}
