#pragma once
#include "app/work/task.h"
#include "app/work/viewing.h"
#include "core/steps/layers/layer_edits.h"

#include <QObject>

#include <filesystem>
#include <functional>
#include <optional>
#include <set>
#include <vector>

namespace frenlo::app {

/// What is done in Layers: each is one edit of the session, of the shot that is looked at, or of the Reel.
class LayersController : public QObject
{
    Q_OBJECT
public:
    LayersController(Background& background, Session& session, Viewing& viewing, QObject* parent = nullptr);

    [[nodiscard]] LayerHome home() const;
    /// The lowest first.
    [[nodiscard]] std::span<const Layer> layers() const { return layers_of(session_.project(), home()); }
    /// The one in hand, until the next edit; null where there are none.
    [[nodiscard]] const Layer* layer() const;
    void choose(LayerId layer);

    /// What follows belongs together: one pull, one change.
    void begin_change() { ++gesture_; }
    void add_picture(const std::filesystem::path& file);
    void add_text(const QString& text);
    void add_film(ShotId film);
    void add_drawing();
    void change(const std::function<void(Layer&)>& how, const QString& name);
    void move(int up);
    void remove();
    /// Where the layer is now: of one that moves, at this frame; else for all of its time.
    void change_place(const std::function<void(LayerKey&)>& how, const QString& name);
    void new_key_here();
    void remove_key_here();
    void add_stroke(const Stroke& stroke);
    void remove_last_stroke();
    void hold_drawing(int photos);
    void set_colour_out(const std::optional<ColourOut>& out, const QString& name);
    void set_text(const QString& text);

    /// Of the film, at the frame under the player; before its first frame and behind its last, those.
    [[nodiscard]] Seconds here() const;
    /// Where a layer is there.
    [[nodiscard]] LayerKey place(const Layer& layer) const;
    /// To the next key of the layer in hand, or the one before.
    void go_to_key(int by);
    /// What places of a layer count in, pixels.
    [[nodiscard]] cv::Size frame_of(const Layer& layer) const;
    /// What the layer shows, so large; empty where that is gone.
    [[nodiscard]] cv::Size picture_size(const Layer& layer) const;
    /// The part of its picture where there is something to see, shares of it; of text, its letters.
    [[nodiscard]] cv::Rect2d ink_of(const Layer& layer) const;
    /// The photo that a stroke is drawn on; none where there is none.
    [[nodiscard]] std::optional<PhotoId> photo_here() const;
    /// What was drawn there; null where nothing was.
    [[nodiscard]] const Drawing* drawing_here(const Layer& layer) const;
    /// The colour that is taken out of what the layer in hand shows; of the shot's own photos where none is in hand.
    [[nodiscard]] std::optional<ShotId> colour_home() const;
    [[nodiscard]] std::optional<ColourOut> colour_out() const;
    [[nodiscard]] std::optional<QString> text() const;
    [[nodiscard]] QString kind_text(const Layer& layer) const;
    [[nodiscard]] const Project& project() const { return session_.project(); }

Q_SIGNALS:
    void changed(); ///< the layers, or which one is in hand; not where the player is
    void failed(const QString& message);

private:
    void apply(const std::function<Project(const Project&)>& edit, const QString& name, bool together = false);
    void take(const std::function<WithLayer(const Project&)>& add, const QString& name);

    Session& session_;
    Viewing& viewing_;
    Task reading_;                                   ///< a picture that is brought in
    std::uint64_t gesture_ = std::uint64_t(9) << 60; ///< apart from those of other benches
    LayerId chosen_;
    std::set<LayerId> keyed_; ///< those that a key was set for: with their next change they begin to move
    mutable PhotoPtr inked_;  ///< whose ink this is
    mutable cv::Rect2d ink_;
};

}
