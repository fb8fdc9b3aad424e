#pragma once
#include "app/picture/compare.h"
#include "app/picture/onion_skin.h"
#include "app/picture/picture_step.h"
#include "app/picture/picture_tool.h"
#include "app/work/photo_loader.h"
#include "app/work/viewing.h"

#include <QPointer>
#include <QTimer>
#include <QWidget>

namespace frenlo::app {

/// The large picture on its neutral surround. File name and state stand beside the photo, never on it.
class PictureView : public QWidget
{
    Q_OBJECT
public:
    static constexpr int caption_height = 26; ///< of the line above the photo, pixels
    static constexpr int air = 12;            ///< around it

    PictureView(Viewing& viewing, PhotoLoader& loader, QWidget* parent = nullptr);

    /// Of the picture, device pixels: what to ask the loader for.
    [[nodiscard]] cv::Size picture_size() const;
    /// Where the picture lies in the widget.
    [[nodiscard]] QRectF place() const;
    /// Whether the picture that should be seen is the one that is painted.
    [[nodiscard]] bool shows_what_it_should() const;
    /// Every pixel of the photo, a part of it at a time, instead of the whole; dragging moves the part.
    void set_full_size(bool on);
    [[nodiscard]] bool full_size() const { return full_size_; }
    /// The photo against the one that the step compares with (compare.h).
    void set_comparing(Compare how);
    [[nodiscard]] Compare comparing() const { return compare_; }
    void set_blinking(bool on) { set_comparing(on ? Compare::blink : Compare::off); }
    /// What is drawn or pointed at on the photo; null for none. Not owned; a tool that is deleted is gone.
    void set_tool(PictureTool* tool);
    /// What the step in view brings; null for nothing. Not owned, and there as long as it is set.
    void set_step(const PictureStep* step);
    [[nodiscard]] PictureTool* tool() const { return tool_; }
    /// Shows the one before for as long as this is so.
    void show_before(bool on);
    /// Shows the photo without what was made of it, for as long as this is so.
    void show_as_shot(bool on);
    [[nodiscard]] bool shows_as_shot() const { return as_shot_; }
    [[nodiscard]] bool blinking() const { return compare_ == Compare::blink; }
    /// Photos of the film before and after the one that is shown, over it. Not while it plays.
    [[nodiscard]] const OnionSkin& onion_skin() const { return onion_; }
    void set_onion_skin(const OnionSkin& skin);
    /// The photos that are needed beside the one that is shown: for comparing, for the onion skin.
    [[nodiscard]] std::vector<PhotoIndex> also_wanted() const;
    /// The pictures that are needed, the one that is shown first.
    [[nodiscard]] std::vector<FrameRequest> requests() const;
    /// How exactly it plays, below the picture; empty for nothing.
    void set_timing_line(const QString& text);
    void set_playing(bool playing);

    [[nodiscard]] QSize sizeHint() const override { return {660, 430}; }

Q_SIGNALS:
    void resized(); ///< other pictures are wanted
    void painted(); ///< what should be seen is on the screen
    void onion_skin_changed();
    void comparing_changed();
    void tool_changed(); ///< another one, or none

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void tabletEvent(QTabletEvent* event) override;

private:
    [[nodiscard]] QRect whole_room() const;
    [[nodiscard]] QRect room() const; ///< for the photo that is shown
    /// The photo that is seen beside it, and where there is room for that.
    [[nodiscard]] std::optional<PhotoIndex> beside() const;
    [[nodiscard]] QRect room_beside() const;
    [[nodiscard]] FrameRequest request_beside() const;
    void paint_beside(QPainter& painter, const QColor& ink) const;
    [[nodiscard]] QRectF place_in(const QRect& room, QSizeF size) const;
    [[nodiscard]] FrameRequest request_of(PhotoIndex photo) const;
    [[nodiscard]] PhotoIndex compared_photo() const; ///< -1 where there is none
    /// What is compared with what is shown, side by side or one through the other; nothing where there is nothing.
    [[nodiscard]] std::optional<FrameRequest> compared() const;
    [[nodiscard]] bool whole_photo() const; ///< in its own shape, without what was made of it
    [[nodiscard]] QString state_text() const;
    [[nodiscard]] QPointF share_of(QPointF in_widget) const;
    /// Photos that the onion skin shows, each with how far away it is, the farthest first; those before below 0.
    [[nodiscard]] std::vector<std::pair<PhotoIndex, int>> onion_photos() const;
    [[nodiscard]] bool onion_shows() const;
    void paint_onion(QPainter& painter, const QRectF& where) const;
    [[nodiscard]] QString onion_text() const;
    void look();
    void look_at_middle(QPointF middle);
    /// The photo to paint: the one that is looked at, or the one before.
    [[nodiscard]] PhotoIndex photo_now() const;
    [[nodiscard]] PhotoIndex there_still(PhotoIndex photo) const;

    Viewing& viewing_;
    PhotoLoader& loader_;
    QImage shown_; ///< stays until the next one is there, so that playing never flashes
    bool current_ = false;
    QTimer blink_;
    Compare compare_ = Compare::off;
    double split_ = 0.5;
    QPointer<PictureTool> tool_;
    const PictureStep* step_ = nullptr;
    bool before_ = false; ///< the one before is shown
    bool full_size_ = false;
    OnionSkin onion_;
    bool playing_ = false;
    bool as_shot_ = false;
    QString timing_line_;
    QPointF middle_{0.5, 0.5}; ///< at full size: what of the photo is in the middle, 0 to 1
    QPoint dragged_from_;
};

}
