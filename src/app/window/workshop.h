#pragma once
#include "app/picture/player.h"
#include "app/sheet/moving_parts.h"
#include "app/window/places.h"
#include "app/work/photo_loader.h"
#include "app/work/session.h"
#include "app/work/sound_player.h"
#include "app/work/viewing.h"
#include "app/work/waveforms.h"
#include "core/base/shared_cache.h"

namespace frenlo::app {

/// What all parts of the window work with, in the order in which each needs those before it.
struct Workshop
{
    Workshop(const Places& places, std::vector<StepInfo> steps)
        : memory(usual_cache_bytes()), store(places.previews, PreviewStore::usual_limit, &memory),
          session(background, places.recovery, &store), viewing(session, std::move(steps)), loader(background, store),
          moving(background, viewing, store), player(viewing), waveforms(background, places.previews / "sounds")
    {
        player.set_heard(&sound);
        QObject::connect(&session, &Session::changed, &sound,
                         [this] { sound.set_track(session.project().reel.sound); });
        QObject::connect(&session, &Session::started, &sound,
                         [this] { sound.set_track(session.project().reel.sound); });
    }
    ~Workshop() { player.set_heard(nullptr); }
    Workshop(const Workshop&) = delete;
    Workshop& operator=(const Workshop&) = delete;

    SharedCache memory;
    PreviewStore store;
    Background background;
    Session session;
    Viewing viewing;
    PhotoLoader loader;
    MovingParts moving;
    Player player;
    SoundPlayer sound;
    Waveforms waveforms;
};

}
