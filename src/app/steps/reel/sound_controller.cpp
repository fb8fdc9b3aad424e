#include "app/steps/reel/sound_controller.h"

#include "core/sound/beats.h"
#include "core/sound/sound_mix.h"
#include "core/steps/reel/bring_sound_in.h"

#include <cmath>

namespace frenlo::app {

namespace {

/// read is given a mix of the track, and must be done with it when it returns. Throws Failure where a file cannot be
/// read.
template <class Use>
auto with_mix(const Soundtrack& track, const Job& job, const Use& use)
{
    SoundMix mix(track);
    auto result =
        use([&](std::int64_t at, std::span<float> out) { mix.read(at, out, job); }, sample_at(sound_length(track)));
    if (!mix.problems().empty())
        throw Failure(mix.problems().front());
    return result;
}

}

SoundController::SoundController(Background& background, Session& session, QObject* parent)
    : QObject(parent), session_(session), task_(background, Rank::measure)
{
    connect(&task_, &Task::changed, this, &SoundController::changed);
    connect(&task_, &Task::failed, this, &SoundController::failed);
    connect(&session, &Session::changed, this, &SoundController::follow_project);
    connect(&session, &Session::started, this, &SoundController::follow_project);
}

void SoundController::follow_project()
{
    if (loudness_ && !(session_.project().reel.sound == measured_)) {
        loudness_.reset();
        Q_EMIT changed();
    }
}

void SoundController::bring_in(const std::vector<std::filesystem::path>& files, Seconds at)
{
    waiting_.insert(waiting_.end(), files.begin(), files.end());
    at_ = at;
    bring_next();
}

void SoundController::bring_next()
{
    if (waiting_.empty() || task_.running())
        return;
    const std::filesystem::path file = waiting_.front();
    waiting_.erase(waiting_.begin());
    task_.start(
        {}, [file, at = at_](const Job& job) { return whole_sound(file, at, job); },
        [this](const Sound& sound) {
            session_.apply([&](const Project& p) { return add_sound(p, sound); }, tr("Add a sound"));
            QMetaObject::invokeMethod(this, &SoundController::bring_next, Qt::QueuedConnection);
        });
}

void SoundController::replace_file(SoundId sound, const std::filesystem::path& file)
{
    task_.start(
        {}, [file](const Job& job) { return whole_sound(file, {}, job); },
        [this, sound](const Sound& found) {
            session_.apply(
                [&](const Project& p) {
                    return change_sound(p, sound, [&](Sound& s) {
                        s.file = found.file;
                        s.file_length = found.file_length;
                    });
                },
                tr("Find the sound again"));
        });
}

void SoundController::find_beats()
{
    task_.start(
        {},
        [track = session_.project().reel.sound](const Job& job) {
            return with_mix(track, job, [&](const ReadSound& read, std::int64_t samples) {
                return found_beats(read, samples, job);
            });
        },
        [this](const std::vector<double>& beats) {
            if (beats.empty()) {
                Q_EMIT failed(tr("No beats were heard. Tap them with T while it plays."));
                return;
            }
            session_.apply(
                [&](const Project& p) {
                    return change_reel(p, [&](Reel& r) {
                        r.sound.beats.clear();
                        for (const double b : beats)
                            r.sound.beats.push_back({Fraction(std::llround(b * sound_rate), sound_rate)});
                    });
                },
                tr("Find beats"));
        });
}

void SoundController::measure_loudness()
{
    task_.start(
        {},
        [track = session_.project().reel.sound](const Job& job) {
            return std::pair(track, with_mix(track, job, [&](const ReadSound& read, std::int64_t samples) {
                                 return loudness_of(read, samples, job);
                             }));
        },
        [this](const std::pair<Soundtrack, Loudness>& found) {
            measured_ = found.first;
            loudness_ = found.second;
            follow_project();
            Q_EMIT changed();
        });
}

void SoundController::stop()
{
    waiting_.clear();
    task_.stop();
}

}
