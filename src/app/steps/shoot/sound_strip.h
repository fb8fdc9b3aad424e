#pragma once
#include "app/work/session.h"
#include "app/work/waveforms.h"

#include <QWidget>

namespace frenlo::app {

/// The sound and its words about the moment at which the next photo begins, where the Reel has any.
class SoundStrip : public QWidget
{
    Q_OBJECT
public:
    SoundStrip(Session& session, Waveforms& waveforms, QWidget* parent = nullptr);
    /// Times of the Reel, seconds: the next photo's begin and end.
    void show_time(double begin, double end);
    [[nodiscard]] bool has_sound() const;
    /// What is said while the next photo is held.
    [[nodiscard]] QString words_now() const;

    static constexpr int strip_height = 46;
    static constexpr double seconds_shown = 3;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    [[nodiscard]] double x_of(double seconds) const;

    Session& session_;
    Waveforms& waveforms_;
    double begin_ = 0, end_ = 0;
};

}
