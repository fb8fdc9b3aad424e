#pragma once
#include "app/work/photo_loader.h"
#include "app/work/viewing.h"

#include <QWidget>

namespace frenlo::app {

/// The large picture on its neutral surround. File name and state stand beside the photo, never on it.
class PictureView : public QWidget {
    Q_OBJECT
public:
    PictureView(Viewing& viewing, PhotoLoader& loader, QWidget* parent = nullptr);

    /// Of the picture, device pixels: what to ask the loader for.
    [[nodiscard]] cv::Size picture_size() const;
    /// Whether the picture that should be seen is the one that is painted.
    [[nodiscard]] bool shows_what_it_should() const;
    [[nodiscard]] QSize sizeHint() const override { return {660, 430}; }

Q_SIGNALS:
    void resized();

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    [[nodiscard]] QRect room() const;
    [[nodiscard]] PictureRequest request() const;
    void look();

    Viewing& viewing_;
    PhotoLoader& loader_;
    QImage shown_; ///< stays until the next one is there, so that playing never flashes
    bool current_ = false;
};

}
