#pragma once
#include "app/steps/pace/pace_controller.h"

#include <QElapsedTimer>
#include <QObject>

#include <vector>

namespace frenlo::app {

class Player;

/// Holds by tapping: the next photo begins at each tap, in time, to the sound under the shot where it has any.
class Tapping : public QObject
{
    Q_OBJECT
public:
    Tapping(Session& session, Viewing& viewing, Player& player, PaceController& pace_controller,
            QObject* parent = nullptr);
    ~Tapping() override;

    /// From the photo under the player on.
    void start();
    void tap();
    /// What was tapped becomes holds, in one step.
    void end();
    [[nodiscard]] bool running() const { return running_; }
    /// How many photos were tapped by now.
    [[nodiscard]] std::size_t taps() const { return taps_.size(); }

Q_SIGNALS:
    void changed();

private:
    [[nodiscard]] double now() const;
    void listen();

    Session& session_;
    Viewing& viewing_;
    Player& player_;
    PaceController& pace_controller_;
    bool running_ = false;
    bool listening_ = false;
    PhotoIndex first_;
    std::vector<double> taps_;
    QElapsedTimer since_;
};

}
