#pragma once
#include "app/picture/picture_view.h"
#include "app/steps/steady/steady_controller.h"

#include <QWidget>

class QLabel;
class QPushButton;
class QStackedWidget;

namespace frenlo::app {

class CropPart;
class LookPart;
class PhotoPart;
class WayPart;

/// Steady: hold the photos of the shot still or smooth the camera's path, see what was measured, and what to look at.
class SteadyBench : public QWidget
{
    Q_OBJECT
public:
    SteadyBench(Session& session, Viewing& viewing, SteadyController& steady_controller, PictureView& picture,
                QWidget* parent = nullptr);
    void show_page(int page);

Q_SIGNALS:
    void show_photo(ShotIndex shot, PhotoIndex photo);

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh();
    void refresh_photo();

    Viewing& viewing_;
    QLabel* notice_;
    QPushButton* first_page_;
    QPushButton* second_page_;
    QLabel* state_;
    QStackedWidget* pages_;
    WayPart* way_;
    CropPart* crop_;
    PhotoPart* photo_;
    LookPart* look_;
};

}
