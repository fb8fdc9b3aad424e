#include "app/work/sound_recorder.h"

#include "core/sound/sound_reader.h"
#include "core/sound/wav.h"

#include <QAudioDevice>
#include <QAudioFormat>
#include <QAudioSource>
#include <QIODevice>
#include <QMediaDevices>

#include <algorithm>
#include <cmath>
#include <cstring>

namespace frenlo::app {

namespace {

QAudioFormat one_side()
{
    QAudioFormat f;
    f.setSampleRate(sound_rate);
    f.setChannelCount(1);
    f.setSampleFormat(QAudioFormat::Float);
    return f;
}

class DeviceInput : public SoundInput
{
public:
    explicit DeviceInput(const QAudioDevice& device) : source_(device, one_side()), io_(source_.start()) {}
    ~DeviceInput() override { source_.stop(); }
    DeviceInput(const DeviceInput&) = delete;
    DeviceInput& operator=(const DeviceInput&) = delete;

    std::vector<float> take() override
    {
        const QByteArray bytes = io_ ? io_->readAll() : QByteArray();
        std::vector<float> samples(std::size_t(bytes.size()) / sizeof(float));
        std::memcpy(samples.data(), bytes.constData(), samples.size() * sizeof(float));
        return samples;
    }

private:
    QAudioSource source_;
    QIODevice* io_;
};

class MadeUpInput : public SoundInput
{
public:
    MadeUpInput() { time_.start(); }
    std::vector<float> take() override
    {
        const std::int64_t until = std::int64_t(time_.nsecsElapsed()) * (sound_rate / 1000) / 1'000'000;
        std::vector<float> samples;
        for (; at_ < until; ++at_) {
            const auto since = double(at_ % sound_rate); // a knock on wood
            samples.push_back(float(0.4 * std::exp(-since / 700) * std::sin(0.06 * since)));
        }
        return samples;
    }

private:
    QElapsedTimer time_;
    std::int64_t at_ = 0;
};

}

bool has_microphone()
{
    const QAudioDevice device = QMediaDevices::defaultAudioInput();
    return !device.isNull() && device.isFormatSupported(one_side());
}

std::unique_ptr<SoundInput> machine_input()
{
    if (has_microphone())
        return std::make_unique<DeviceInput>(QMediaDevices::defaultAudioInput());
    return std::make_unique<MadeUpInput>();
}

SoundRecorder::SoundRecorder(MakeInput make_input, QObject* parent)
    : QObject(parent), make_input_(std::move(make_input))
{
    constexpr int collect_ms = 50;
    timer_.setInterval(collect_ms);
    connect(&timer_, &QTimer::timeout, this, &SoundRecorder::collect);
}

SoundRecorder::~SoundRecorder() = default;

void SoundRecorder::start()
{
    samples_.clear();
    input_ = make_input_();
    timer_.start();
    Q_EMIT changed();
}

void SoundRecorder::collect()
{
    if (!input_)
        return;
    const auto more = input_->take();
    samples_.insert(samples_.end(), more.begin(), more.end());
}

std::filesystem::path SoundRecorder::stop(const std::filesystem::path& folder)
{
    collect();
    timer_.stop();
    input_.reset();
    Q_EMIT changed();
    if (samples_.empty())
        return {};
    std::error_code ec;
    std::filesystem::path file = folder / "Guide.wav";
    for (int n = 2; std::filesystem::exists(file, ec); ++n)
        file = folder / ("Guide-" + std::to_string(n) + ".wav");
    write_new_wav(file, samples_, sound_rate);
    return file;
}

}
