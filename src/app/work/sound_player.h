#pragma once
#include "app/picture/heard.h"
#include "core/project/sounds.h"

#include <QObject>
#include <QTimer>

#include <cstdint>
#include <functional>
#include <memory>
#include <span>

namespace frenlo::app {

/// Where sound goes to: pairs of floats (sound_reader.h).
class SoundOutput
{
public:
    virtual ~SoundOutput() = default;
    /// How many pairs can be handed over now.
    [[nodiscard]] virtual std::int64_t room() = 0;
    virtual void write(std::span<const float> pairs) = 0;
    /// How many of them were heard.
    [[nodiscard]] virtual std::int64_t heard() = 0;
};

/// The machine's own; where it has none, one that hears nothing in the same time.
std::unique_ptr<SoundOutput> machine_output();

/// Plays a soundtrack, and is the clock of the picture meanwhile. What is heard is read in a thread of its own, a part
/// of a second ahead.
class SoundPlayer : public QObject, public Heard
{
    Q_OBJECT
public:
    using MakeOutput = std::function<std::unique_ptr<SoundOutput>()>;
    explicit SoundPlayer(MakeOutput make_output = machine_output, QObject* parent = nullptr);
    ~SoundPlayer() override;

    /// What start() plays.
    void set_track(const Soundtrack& track);

    bool start(const HeardRange& what) override;
    void stop() override;
    [[nodiscard]] std::optional<std::int64_t> now_ns() override;
    void touch(Seconds from, Seconds length) override;

private:
    class Reading;
    void pump();

    MakeOutput make_output_;
    Soundtrack track_;
    std::unique_ptr<SoundOutput> output_;
    std::unique_ptr<Reading> reading_;
    QTimer timer_;
    bool touching_ = false;
    std::int64_t touched_ = 0; ///< pairs, until it ends by itself
};

}
