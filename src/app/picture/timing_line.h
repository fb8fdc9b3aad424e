#pragma once
#include "app/picture/picture_view.h"
#include "app/picture/player.h"

#include <QTimer>

namespace frenlo::app {

/// How exactly the player keeps time, below the picture, while it is switched on.
class TimingLine : public QObject
{
    Q_OBJECT
public:
    TimingLine(Player& player, PictureView& picture, QObject* parent = nullptr);
    void set_on(bool on);

private:
    void refresh();

    Player& player_;
    PictureView& picture_;
    QTimer timer_;
};

}
