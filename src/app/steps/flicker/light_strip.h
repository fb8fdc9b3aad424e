#pragma once
#include "app/steps/flicker/strip_maker.h"

#include <QWidget>

class QLabel;
class QSlider;

namespace frenlo::app {

/// One column of each photo of the shot, all side by side: as shot above, evened below. A click goes to the photo, a
/// slider chooses the column.
class LightStrip : public QWidget
{
    Q_OBJECT
public:
    LightStrip(Viewing& viewing, StripMaker& strips, QWidget* parent = nullptr);
    /// Makes it where it is not there yet.
    void show_shot();
    void show_place(PhotoIndex photo);
    [[nodiscard]] const Strip& strip() const { return strips_.strip(); }

Q_SIGNALS:
    void photo_chosen(PhotoIndex photo);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    [[nodiscard]] QRect room() const;

    Viewing& viewing_;
    StripMaker& strips_;
    QSlider* column_;
    PhotoIndex place_{-1};
};

}
