#pragma once
#include "app/work/session.h"
#include "app/work/task.h"
#include "app/work/viewing.h"
#include "core/sound/loudness.h"
#include "core/steps/reel/reel_edits.h"

#include <QObject>
#include <QString>

#include <array>
#include <optional>

namespace frenlo::app {

/// Of files that are nothing but sound; videos, which have some, are photos first.
inline constexpr std::array sound_endings{QLatin1String(".wav"), QLatin1String(".flac"), QLatin1String(".mp3"),
                                          QLatin1String(".ogg"), QLatin1String(".oga"),  QLatin1String(".opus"),
                                          QLatin1String(".m4a"), QLatin1String(".aac"),  QLatin1String(".aiff")};

/// What takes long with the Reel's sound: bringing it in, finding beats, measuring its loudness.
class SoundController : public QObject
{
    Q_OBJECT
public:
    SoundController(Background& background, Session& session, QObject* parent = nullptr);

    /// Under the Reel, from this time on. One after another.
    void bring_in(const std::vector<std::filesystem::path>& files, Seconds at);
    /// Another file in the place of one that is gone; what is heard of it stays, as far as it goes.
    void replace_file(SoundId sound, const std::filesystem::path& file);
    void find_beats();
    void measure_loudness();
    void stop();
    [[nodiscard]] bool busy() const { return task_.running(); }
    /// As last measured; nothing where the sound was changed since.
    [[nodiscard]] const std::optional<Loudness>& loudness() const { return loudness_; }

Q_SIGNALS:
    void changed();
    void failed(const QString& message);

private:
    void bring_next();
    void follow_project();

    Session& session_;
    Task task_;
    std::vector<std::filesystem::path> waiting_;
    Seconds at_;
    std::optional<Loudness> loudness_;
    Soundtrack measured_; ///< what loudness_ is of
};

}
