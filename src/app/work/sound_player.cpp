#include "app/work/sound_player.h"

#include "core/sound/loudness.h"
#include "core/sound/sound_mix.h"

#include <QAudioFormat>
#include <QAudioSink>
#include <QElapsedTimer>
#include <QIODevice>
#include <QMediaDevices>

#include <algorithm>
#include <condition_variable>
#include <mutex>
#include <thread>
#include <vector>

namespace frenlo::app {

namespace {

constexpr int pair_bytes = sound_sides * int(sizeof(float));
constexpr std::int64_t ahead = sound_rate * 2 / 5; ///< pairs that are read before they are heard
constexpr std::int64_t chunk = sound_rate / 25;
constexpr int pump_ms = 15;

class DeviceOutput : public SoundOutput
{
public:
    explicit DeviceOutput(const QAudioDevice& device)
        : sink_(device, format()), io_((sink_.setBufferSize(sound_rate / 10 * pair_bytes), sink_.start()))
    {
    }
    ~DeviceOutput() override { sink_.stop(); }
    DeviceOutput(const DeviceOutput&) = delete;
    DeviceOutput& operator=(const DeviceOutput&) = delete;

    static QAudioFormat format()
    {
        QAudioFormat f;
        f.setSampleRate(sound_rate);
        f.setChannelCount(sound_sides);
        f.setSampleFormat(QAudioFormat::Float);
        return f;
    }
    [[nodiscard]] bool works() const { return io_ != nullptr && sink_.error() == QAudio::NoError; }

    std::int64_t room() override { return io_ ? sink_.bytesFree() / pair_bytes : 0; }
    void write(std::span<const float> pairs) override
    {
        io_->write(reinterpret_cast<const char*>(pairs.data()), qint64(pairs.size_bytes()));
        written_ += std::int64_t(pairs.size()) / sound_sides;
    }
    std::int64_t heard() override
    {
        // What the device took, without what still lies in its buffer.
        const std::int64_t waiting = (sink_.bufferSize() - sink_.bytesFree()) / pair_bytes;
        heard_ = std::max(heard_, std::min(written_, written_ - waiting));
        return heard_;
    }

private:
    QAudioSink sink_;
    QIODevice* io_;
    std::int64_t written_ = 0, heard_ = 0;
};

/// In place of a device: as much is heard as time goes by.
class NoOutput : public SoundOutput
{
public:
    std::int64_t room() override { return std::max<std::int64_t>(0, heard() + ahead / 4 - written_); }
    void write(std::span<const float> pairs) override
    {
        if (!time_.isValid())
            time_.start();
        written_ += std::int64_t(pairs.size()) / sound_sides;
    }
    std::int64_t heard() override
    {
        return time_.isValid()
                   ? std::min(written_, std::int64_t(time_.nsecsElapsed()) * (sound_rate / 1000) / 1'000'000)
                   : 0;
    }

private:
    QElapsedTimer time_;
    std::int64_t written_ = 0;
};

}

std::unique_ptr<SoundOutput> machine_output()
{
    const QAudioDevice device = QMediaDevices::defaultAudioOutput();
    if (!device.isNull() && device.isFormatSupported(DeviceOutput::format()))
        if (auto output = std::make_unique<DeviceOutput>(device); output->works())
            return output;
    return std::make_unique<NoOutput>();
}

/// Reads ahead in a thread of its own: it must neither wait for other work nor keep the window waiting.
class SoundPlayer::Reading
{
public:
    Reading(const Soundtrack& track, std::int64_t begin, std::int64_t end, std::int64_t from, bool loops)
        : begin_(begin), end_(end), at_(from), loops_(loops),
          thread_([this, track](const std::stop_token& stop) { run(track, stop); })
    {
    }
    ~Reading()
    {
        thread_.request_stop();
        more_.notify_all();
    }
    Reading(const Reading&) = delete;
    Reading& operator=(const Reading&) = delete;

    /// Up to so many pairs that are ready.
    std::vector<float> take(std::int64_t pairs)
    {
        const std::scoped_lock lock(mutex_);
        const auto n = std::min<std::size_t>(ready_.size(), std::size_t(pairs) * sound_sides);
        std::vector<float> taken(ready_.begin(), ready_.begin() + std::ptrdiff_t(n));
        ready_.erase(ready_.begin(), ready_.begin() + std::ptrdiff_t(n));
        more_.notify_all();
        return taken;
    }

private:
    void run(const Soundtrack& track, const std::stop_token& stop)
    {
        SoundMix mix(track);
        const Job job(stop);
        std::vector<float> pairs;
        while (!stop.stop_requested() && (loops_ || at_ < end_)) {
            {
                std::unique_lock lock(mutex_);
                if (!more_.wait(lock, stop, [&] { return std::int64_t(ready_.size()) / sound_sides < ahead; }))
                    return;
            }
            const std::int64_t n = std::min(chunk, end_ - at_);
            pairs.resize(std::size_t(n) * sound_sides);
            try {
                mix.read(at_, pairs, job);
            } catch (const Stopped&) {
                return;
            }
            at_ += n;
            if (at_ == end_ && loops_)
                at_ = begin_;
            const std::scoped_lock lock(mutex_);
            ready_.insert(ready_.end(), pairs.begin(), pairs.end());
        }
    }

    std::int64_t begin_, end_, at_;
    bool loops_;
    std::mutex mutex_;
    std::condition_variable_any more_;
    std::vector<float> ready_;
    std::jthread thread_; ///< the last: it uses the others
};

SoundPlayer::SoundPlayer(MakeOutput make_output, QObject* parent)
    : QObject(parent), make_output_(std::move(make_output))
{
    timer_.setTimerType(Qt::PreciseTimer);
    timer_.setInterval(pump_ms);
    connect(&timer_, &QTimer::timeout, this, &SoundPlayer::pump);
}

SoundPlayer::~SoundPlayer() = default;

void SoundPlayer::set_track(const Soundtrack& track)
{
    track_ = track;
}

bool SoundPlayer::start(const HeardRange& what)
{
    stop();
    const bool some = std::any_of(track_.sounds.begin(), track_.sounds.end(), [](const Sound& s) { return !s.muted; });
    const std::int64_t begin = sample_at(what.begin), end = sample_at(what.end);
    if (!some || begin >= end)
        return false;
    output_ = make_output_();
    reading_ = std::make_unique<Reading>(track_, begin, end, sample_at(what.from), what.loops);
    timer_.start();
    return true;
}

void SoundPlayer::stop()
{
    timer_.stop();
    touching_ = false;
    reading_.reset();
    output_.reset();
}

std::optional<std::int64_t> SoundPlayer::now_ns()
{
    if (!output_)
        return std::nullopt;
    return output_->heard() * 1'000'000'000 / sound_rate;
}

void SoundPlayer::touch(Seconds from, Seconds length)
{
    touching_ = start({from, Seconds{from.value + length.value}, from, false});
    touched_ = sample_at(length);
}

void SoundPlayer::pump()
{
    if (!output_ || !reading_)
        return;
    if (const std::int64_t room = output_->room(); room > 0)
        if (const auto pairs = reading_->take(room); !pairs.empty())
            output_->write(pairs);
    if (touching_ && output_->heard() >= touched_)
        stop();
}

}
