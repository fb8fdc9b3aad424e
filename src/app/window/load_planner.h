#pragma once
#include "app/picture/picture_view.h"
#include "app/picture/player.h"
#include "app/sheet/sheet_view.h"

#include <QObject>
#include <QTimer>

namespace frenlo::app {

/// Tells the loader what is wanted whenever something else is on the screen, or plays next (wanted.h).
class LoadPlanner : public QObject
{
    Q_OBJECT
public:
    LoadPlanner(Viewing& viewing, PhotoLoader& loader, Player& player, PictureView& picture, SheetView& sheet);

private:
    void plan();
    void follow_playhead();

    Viewing& viewing_;
    PhotoLoader& loader_;
    Player& player_;
    PictureView& picture_;
    SheetView& sheet_;
    ShotPtr prepared_for_;
    FrameIndex planned_at_;
    QTimer when_idle_;
};

}
