#pragma once
#include "app/work/task.h"
#include "app/work/viewing.h"
#include "core/steps/tone/operations.h"
#include "core/steps/tone/tone_scopes.h"

#include <QObject>
#include <QPointF>

#include <memory>
#include <optional>

namespace frenlo::app {

/// What is done in Tone, and what is worked out in the background for looking at it.
class ToneController : public QObject
{
    Q_OBJECT
public:
    ToneController(Background& background, Session& session, Viewing& viewing, PreviewStore& store,
                   QObject* parent = nullptr);

    /// What is toned: the photo, or a part of the picture on top of it.
    void choose(const ToneWhere& where);
    [[nodiscard]] const ToneWhere& where() const { return where_; }
    /// Whether what is set in an area or a state is seen in the photo that is looked at.
    [[nodiscard]] bool seen_here() const;

    /// What follows belongs together: one pull, one change. The photo that it is done to stays the same.
    void begin_change();
    /// A value of the photo that is looked at, which is an anchor photo then.
    void set(ToneValue value, double to);
    void set(const Tone& tone, const QString& name);
    /// What lies here is grey, in shares of the photo as shot.
    void make_grey(QPointF place);
    void drop_anchor();
    void same_for_all();
    void copy_to_selection();
    void copy_to_shots(const std::vector<ShotId>& shots);
    /// Measures the light first where it is not known.
    void set_blend(ToneBlend blend);
    void measure_light();
    void as_shot();

    /// Of the photo that is looked at; nothing while there is none.
    [[nodiscard]] std::optional<Tone> tone() const;
    [[nodiscard]] bool measuring() const { return measure_.running(); }
    void stop() { measure_.stop(); }

    /// Looks at the photo that is shown, and at the flicker of the shot, if that is not known; looked() follows.
    void look();
    [[nodiscard]] const ToneScopes& scopes() const { return scopes_; }
    [[nodiscard]] const std::optional<ToneFigures>& figures() const { return figures_; }

Q_SIGNALS:
    void changed(); ///< measuring runs, or no longer
    void looked();
    void failed(const QString& message);

private:
    [[nodiscard]] PhotoIndex photo() const { return viewing_.shown_photo(); }
    [[nodiscard]] ShotPtr shot_now() const;
    void look_at_flicker();

    Background& background_;
    Session& session_;
    Viewing& viewing_;
    PreviewStore& store_;
    Task measure_, flicker_, grey_;
    std::uint64_t gesture_ = std::uint64_t(1) << 61; ///< apart from those of the Sheet
    ToneWhere where_;
    std::optional<PhotoIndex> changing_;
    ShotPtr looked_at_, figures_of_;
    PhotoIndex looked_photo_;
    bool looking_ = false;
    ToneScopes scopes_;
    std::optional<ToneFigures> figures_;
};

}
