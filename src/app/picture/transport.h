#pragma once
#include "app/picture/onion_skin.h"
#include "app/picture/player.h"

#include <QTimer>
#include <QWidget>

class QComboBox;
class QLabel;
class QPushButton;

namespace frenlo::app {

class PictureView;

/// One line of player controls, with the clock and the rate really reached.
class Transport : public QWidget
{
    Q_OBJECT
public:
    Transport(Viewing& viewing, Player& player, PictureView& picture, QWidget* parent = nullptr);

private:
    void refresh();
    void refresh_onion();

    Viewing& viewing_;
    Player& player_;
    PictureView& picture_;
    QPushButton* play_;
    QPushButton* loop_;
    QPushButton* range_;
    QPushButton* onion_;
    QComboBox* speed_;
    QLabel* clock_;
    QLabel* total_;
    QLabel* rate_;
    QTimer rate_timer_;
};

}
