#pragma once
#include "app/picture/player.h"

#include <QTimer>
#include <QWidget>

class QLabel;
class QPushButton;

namespace frenlo::app {

/// One line of player controls, with the clock and the rate really reached.
class Transport : public QWidget {
    Q_OBJECT
public:
    Transport(Viewing& viewing, Player& player, QWidget* parent = nullptr);

private:
    void refresh();

    Viewing& viewing_;
    Player& player_;
    QPushButton* play_;
    QPushButton* loop_;
    QLabel* clock_;
    QLabel* total_;
    QLabel* rate_;
    QTimer rate_timer_;
};

}
