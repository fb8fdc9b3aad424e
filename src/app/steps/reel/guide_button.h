#pragma once
#include "app/picture/player.h"
#include "app/steps/reel/sound_controller.h"
#include "app/work/sound_recorder.h"

#include <QPushButton>

namespace frenlo::app {

/// Records a guide track: while it does, the Reel plays, so that what is said or knocked lies at its frame.
class GuideButton : public QPushButton
{
    Q_OBJECT
public:
    GuideButton(Session& session, Viewing& viewing, Player& player, SoundController& controller,
                QWidget* parent = nullptr);

Q_SIGNALS:
    void told(const QString& message);

private:
    void start();
    void end();

    Session& session_;
    Viewing& viewing_;
    Player& player_;
    SoundController& controller_;
    SoundRecorder recorder_;
    Seconds recorded_at_;
};

}
