#pragma once
#include "app/sheet/reel_rows.h"
#include "app/sheet/row_hands.h"
#include "app/work/viewing.h"
#include "core/project/sounds.h"
#include "core/timeline/reel_timeline.h"

namespace frenlo::app {

/// Hands on the Reel's page: films are carried by their names to another place, the ends of joins are pulled, sounds
/// are carried along and pulled open and shut at both ends. What is carried falls on frames, and on cuts, beats,
/// markers and other sounds that are near.
class ReelHands : public RowHands
{
public:
    ReelHands(Session& session, const Viewing& viewing, ReelRows& rows)
        : session_(session), viewing_(viewing), rows_(rows)
    {
        rows.set_hands(this);
    }

    [[nodiscard]] std::optional<Held> at(QPointF place, const MeterRow& row, const QWidget& on) const override;
    void carry(const Held& held, double from, double to, double reach, std::uint64_t gesture) override;
    void let_go(const Held& held) override;

    [[nodiscard]] std::optional<std::int64_t> drop() const override { return drop_; }

private:
    void carry_film(ReelItemId film, double to);
    void pull_join(ReelItemId film, double to, std::uint64_t gesture);
    void carry_sound(int kind, SoundId id, double by, double reach, std::uint64_t gesture);
    /// The nearest of what is worth to be met, frames; the nearest frame where nothing is near.
    [[nodiscard]] double snapped(double frame, double reach, SoundId but) const;
    [[nodiscard]] Seconds time_of(double frame) const;
    [[nodiscard]] double frame_of(Seconds time) const;

    Session& session_;
    const Viewing& viewing_;
    ReelRows& rows_;
    std::optional<std::int64_t> drop_;
    std::optional<ReelItemId> before_; ///< the film that the carried one is to stand before; none: it becomes the last
    std::optional<Sound> as_taken_;    ///< the sound, before it was carried
};

}
