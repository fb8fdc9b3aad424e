#pragma once
#include "app/work/viewing.h"

#include <QWidget>

class QCustomPlot;

namespace frenlo::app {

/// Brightness over the photos of the shot, stops: as shot and evened, with what stands out and where the light changes at
/// once. A click goes to the photo.
class LightPlot : public QWidget {
    Q_OBJECT
public:
    explicit LightPlot(QWidget* parent = nullptr);
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
