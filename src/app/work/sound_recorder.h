#pragma once
#include <QElapsedTimer>
#include <QObject>
#include <QTimer>

#include <cstdint>
#include <filesystem>
#include <functional>
#include <memory>
#include <vector>

namespace frenlo::app {

/// Where sound comes from: samples of one side at 48 kHz.
class SoundInput
{
public:
    virtual ~SoundInput() = default;
    /// What came since the last call.
    virtual std::vector<float> take() = 0;
};

/// The machine's own; where it has none, a made-up one in which somebody knocks once a second.
std::unique_ptr<SoundInput> machine_input();
[[nodiscard]] bool has_microphone();

/// Records a guide track and writes it as WAV, 16 bit, one side.
class SoundRecorder : public QObject
{
    Q_OBJECT
public:
    using MakeInput = std::function<std::unique_ptr<SoundInput>()>;
    explicit SoundRecorder(MakeInput make_input = machine_input, QObject* parent = nullptr);
    ~SoundRecorder() override;

    void start();
    [[nodiscard]] bool running() const { return input_ != nullptr; }
    /// Ends, and writes what was recorded under a new name in the folder: "Guide.wav", "Guide-2.wav". Nothing where
    /// nothing came. Throws Failure.
    std::filesystem::path stop(const std::filesystem::path& folder);

Q_SIGNALS:
    void changed();

private:
    void collect();

    MakeInput make_input_;
    std::unique_ptr<SoundInput> input_;
    std::vector<float> samples_;
    QTimer timer_;
};

}
