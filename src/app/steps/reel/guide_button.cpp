#include "app/steps/reel/guide_button.h"

#include <QStandardPaths>

namespace frenlo::app {

GuideButton::GuideButton(Session& session, Viewing& viewing, Player& player, SoundController& controller,
                         QWidget* parent)
    : QPushButton(tr("Record a guide…"), parent), session_(session), viewing_(viewing), player_(player),
      controller_(controller)
{
    setFocusPolicy(Qt::TabFocus);
    setCheckable(true);
    setToolTip(tr("A guide track from the microphone, from the frame under the player on, while the Reel plays; press "
                  "again to end it"));
    connect(this, &QPushButton::clicked, this, [this] {
        if (recorder_.running())
            end();
        else
            start();
    });
}

void GuideButton::start()
{
    recorded_at_ = length_of(viewing_.playhead().value, session_.project().delivered_at);
    recorder_.start();
    player_.set_loop(false);
    player_.play();
    setText(tr("End recording"));
}

void GuideButton::end()
{
    player_.stop();
    setText(tr("Record a guide…"));
    const auto folder = session_.file().empty()
                            ? from_qt(QStandardPaths::writableLocation(QStandardPaths::MusicLocation))
                            : session_.file().parent_path();
    try {
        if (const auto file = recorder_.stop(folder); !file.empty()) {
            controller_.bring_in({file}, recorded_at_);
            Q_EMIT told(
                has_microphone()
                    ? tr("Recorded as %1.").arg(to_qt(file))
                    : tr("This machine has no microphone: %1 holds made-up knocks, one a second.").arg(to_qt(file)));
        }
    } catch (const Failure& failure) {
        Q_EMIT told(QString::fromStdString(failure.what()));
    }
}

}
