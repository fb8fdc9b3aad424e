#pragma once
#include "app/picture/picture_view.h"
#include "app/steps/flicker/flicker_controller.h"
#include "app/steps/flicker/strip_maker.h"

#include <QWidget>

class QLabel;

namespace frenlo::app {

class DeflickerPart;
class LookingPart;

/// Light: even the brightness of the shot, see what was measured, and decide about steps and single photos.
class FlickerBench : public QWidget
{
    Q_OBJECT
public:
    FlickerBench(Session& session, Viewing& viewing, FlickerController& flicker_controller, StripMaker& strips,
                 PictureView& picture, QWidget* parent = nullptr);

Q_SIGNALS:
    void show_photo(ShotIndex shot, PhotoIndex photo);

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh();
    void refresh_place();

    Viewing& viewing_;
    QLabel* notice_;
    DeflickerPart* deflicker_;
    LookingPart* looking_;
};

}
