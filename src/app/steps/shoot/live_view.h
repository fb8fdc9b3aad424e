#pragma once
#include "app/steps/shoot/camera_desk.h"
#include "app/steps/shoot/live_look.h"

#include <QElapsedTimer>
#include <QImage>
#include <QTimer>
#include <QWidget>

#include <optional>
#include <vector>

namespace frenlo::app {

/// A photo that is played before the live picture.
struct PlayedPhoto
{
    QImage image;
    double seconds = 0;
};

/// The live picture of the camera on the neutral surround, with what helps to take the next photo: the last photos
/// through it, guides, paths. What is said stands beside it, never on it.
class LiveView : public QWidget
{
    Q_OBJECT
public:
    static constexpr int caption_height = 26, air = 12;

    explicit LiveView(CameraDesk& desk, QWidget* parent = nullptr);

    [[nodiscard]] const LiveLook& look() const { return look_; }
    void set_look(const LiveLook& look);
    /// The last photos of the film before the next one, the newest first.
    void set_photos(std::vector<QImage> photos);
    /// A film or picture at the frame of the next photo.
    void set_reference(const QImage& image);
    /// paths and the number of the next photo, from 0.
    void set_paths(std::vector<MarkPath> paths, std::int64_t next);
    /// In the corners above: which photo comes next; what is to be known of the last one.
    void set_texts(const QString& next, const QString& news);
    /// What lies below, while it is visible; lay_out() follows a change of that.
    void set_strip(QWidget* strip);
    void lay_out();

    /// Plays the photos, then the live picture for so long, round and round.
    void play(std::vector<PlayedPhoto> photos, double live_seconds);
    void stop_playing();
    [[nodiscard]] bool playing() const { return !played_.empty(); }
    /// What plays now: a photo's position, or their count for the live picture.
    [[nodiscard]] std::size_t played_now() const;

    /// While it is on, a path is drawn by dragging, or a point of one moved.
    void set_drawing(bool on);
    [[nodiscard]] bool drawing() const { return drawing_; }
    /// The photo is taken: it is seen for a moment.
    void flash(const QString& text);
    /// Where the live picture lies in the widget.
    [[nodiscard]] QRectF place() const;

    [[nodiscard]] QSize sizeHint() const override { return {660, 430}; }

Q_SIGNALS:
    void look_changed();
    void drawn(const std::vector<cv::Point2d>& points);
    void path_changed(std::size_t path, const MarkPath& to);
    void painted(); ///< a live picture is on the screen

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;

private:
    [[nodiscard]] QRect room() const;
    [[nodiscard]] QPointF share_of(QPointF at) const;
    [[nodiscard]] QPointF at_share(cv::Point2d share) const;
    void wish();
    void mix_onion();
    void paint_picture(QPainter& painter, const QRectF& where);
    void paint_reference(QPainter& painter, const QRectF& where) const;
    void paint_guides(QPainter& painter, const QRectF& where) const;
    void paint_rulers(QPainter& painter, const QRectF& where) const;
    void paint_paths(QPainter& painter) const;
    void paint_magnifier(QPainter& painter, const QRectF& where) const;
    void paint_histogram(QPainter& painter, const QRectF& where) const;
    void paint_captions(QPainter& painter) const;
    [[nodiscard]] QString state_text() const;

    CameraDesk& desk_;
    LiveLook look_;
    std::vector<QImage> photos_;
    QImage onion_; ///< the photos that are seen through, one over another, of the picture's size
    QImage reference_;
    std::vector<MarkPath> paths_;
    std::int64_t next_ = 0;
    QString next_text_, news_;
    QWidget* strip_ = nullptr;
    QTimer blink_;
    bool blinked_ = false;
    std::vector<PlayedPhoto> played_;
    double live_seconds_ = 0;
    QElapsedTimer played_since_;
    QTimer play_;
    bool drawing_ = false;
    std::vector<cv::Point2d> stroke_;
    std::optional<std::pair<std::size_t, std::size_t>> pulled_point_; ///< path, point
    QPointF pulled_from_;
    bool pulling_ = false;
    QString flash_;
    QTimer flash_ends_;
    QPointF magnified_{0.5, 0.5}; ///< the middle of what the magnifier shows, in shares
    QSize wished_for_;            ///< of the live picture when the wish was made
    double best_sharpness_ = 0;   ///< that was seen since the magnifier was switched on
};

}
