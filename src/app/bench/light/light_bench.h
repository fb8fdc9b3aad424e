#pragma once
#include "app/picture/picture_view.h"
#include "app/work/lighter.h"
#include "app/work/strip_maker.h"

#include <QWidget>

class QLabel;

namespace frenlo::app {

class EveningPart;
class LookingPart;

/// Light: even the brightness of the shot, see what was measured, and decide about steps and single photos.
class LightBench : public QWidget {
    Q_OBJECT
public:
    LightBench(Session& session, Viewing& viewing, Lighter& lighter, StripMaker& strips, PictureView& picture, QWidget* parent = nullptr);

Q_SIGNALS:
    void show_photo(ShotIndex shot, PhotoIndex photo);

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh();
    void refresh_place();

    Viewing& viewing_;
    QLabel* notice_;
    EveningPart* evening_;
    LookingPart* looking_;
};

}
