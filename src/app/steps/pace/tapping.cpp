#include "app/steps/pace/tapping.h"

#include "app/picture/player.h"
#include "core/sound/sound_mix.h"
#include "core/timeline/reel_timeline.h"

namespace frenlo::app {

Tapping::Tapping(Session& session, Viewing& viewing, Player& player, PaceController& pace_controller, QObject* parent)
    : QObject(parent), session_(session), viewing_(viewing), player_(player), pace_controller_(pace_controller)
{
    const auto give_up = [this] { // what was tapped was for another shot
        taps_.clear();
        end();
    };
    connect(&viewing, &Viewing::step_changed, this, give_up);
    connect(&session, &Session::started, this, give_up);
}

Tapping::~Tapping()
{
    if (listening_ && player_.heard())
        player_.heard()->stop();
}

void Tapping::start()
{
    if (running_ || !viewing_.shot() || viewing_.on_reel() || viewing_.schedule().frames() == 0)
        return;
    player_.stop();
    first_ = viewing_.schedule().photo_at(viewing_.playhead());
    viewing_.go_to_photo(first_);
    taps_.clear();
    running_ = true;
    listen();
    since_.start();
    Q_EMIT changed();
}

/// The sound that lies under the shot in the Reel, from where this photo begins in it.
void Tapping::listen()
{
    listening_ = false;
    if (!player_.heard())
        return;
    const auto reel = reel_of(session_.project());
    const Rate rate = session_.project().delivered_at;
    for (const ReelPart& part : reel->parts())
        if (part.item.shot == viewing_.shot()->id) {
            const Fraction in_shot = Fraction(viewing_.playhead().value - viewing_.timeline().kept_begin.value);
            const Seconds from{(Fraction(part.frames.begin.value) + in_shot) / rate.value()};
            const Seconds end = sound_length(session_.project().reel.sound);
            listening_ = from.value < end.value && player_.heard()->start({from, end, from, false});
            return;
        }
}

double Tapping::now() const
{
    constexpr double nano = 1e-9;
    if (listening_)
        if (const auto heard = player_.heard()->now_ns())
            return double(*heard) * nano;
    return double(since_.nsecsElapsed()) * nano;
}

void Tapping::tap()
{
    if (!running_)
        return;
    taps_.push_back(now());
    const FrameIndex before = viewing_.playhead();
    viewing_.step_photos(1);
    if (viewing_.playhead() == before) { // the last photo: it ends where it was tapped
        end();
        return;
    }
    Q_EMIT changed();
}

void Tapping::end()
{
    if (!running_)
        return;
    running_ = false;
    if (listening_ && player_.heard())
        player_.heard()->stop();
    listening_ = false;
    if (!taps_.empty())
        pace_controller_.hold_as_tapped(first_, taps_);
    Q_EMIT changed();
}

}
