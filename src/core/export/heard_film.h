#pragma once
// Private to export/: what is heard with a film.
#include "core/export/export.h"
#include "core/sound/loudness.h"
#include "core/sound/sound_mix.h"

namespace frenlo {

/// The Reel's sound, brought to its loudness where that was asked for. Outlives what it gives to be written.
class HeardFilm
{
public:
    /// Measures, where it is to be brought to a loudness. Throws Stopped.
    HeardFilm(const Soundtrack& track, std::int64_t samples, const Job& job);
    HeardFilm(const HeardFilm&) = delete;
    HeardFilm& operator=(const HeardFilm&) = delete;

    [[nodiscard]] SoundToWrite to_write();
    /// Of files that could not be read.
    [[nodiscard]] const std::vector<Problem>& problems() const { return mix_.problems(); }

private:
    SoundMix mix_;
    Mastering mastering_;
    std::int64_t samples_;
    const Job& job_;
};

/// Null where nothing is heard: no sound, a format without it, a part of a film.
std::unique_ptr<HeardFilm> heard_film(const Project& project, const ExportOrder& order, Seconds length, const Job& job);

/// The markers of the Reel that lie in the film; the first chapter begins with it.
std::vector<Chapter> chapters_of(const Reel& reel, Seconds length);

}
