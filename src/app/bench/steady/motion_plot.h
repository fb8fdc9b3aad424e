#pragma once
#include "app/work/viewing.h"

#include <QWidget>

class QCustomPlot;

namespace frenlo::app {

/// How the photos of the shot had moved: across, down (pixels) and turned (degrees), one after the other. A click goes to
/// the photo.
class MotionPlot : public QWidget {
    Q_OBJECT
public:
    explicit MotionPlot(QWidget* parent = nullptr);
    /// Draws what was measured; the photos that lines are drawn for, with their numbers from 1.
    void show_shot(const Shot& shot);
    /// A line at the photo under the player.
    void show_place(PhotoIndex photo);
    [[nodiscard]] int points() const { return int(photos_.size()); }

Q_SIGNALS:
    void photo_chosen(PhotoIndex photo);

protected:
    void changeEvent(QEvent* event) override;

private:
    void take_colours();
    void choose(QPoint at);

    QCustomPlot* plot_;
    std::vector<PhotoIndex> photos_;
};

}
