#include "core/steps/reel/bring_sound_in.h"

#include "core/sound/peaks.h"
#include "core/sound/sound_reader.h"

namespace frenlo {

Sound whole_sound(const std::filesystem::path& file, Seconds at, const Job& job)
{
    const Seconds length{Fraction(peaks_of(file, job).samples, sound_rate)};
    if (length == Seconds{})
        throw Failure({"the sound has no length", file, "Choose another file"});
    Sound sound;
    sound.file = std::filesystem::absolute(file).lexically_normal();
    sound.file_length = length;
    sound.at = at;
    sound.end = length;
    return sound;
}

}
