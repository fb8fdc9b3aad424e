#pragma once
#include "app/steps/steady/steady_controller.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QPushButton;

namespace frenlo::app {

class MotionPlot;

/// What is left of the picture, what costs it, and how the photos had moved.
class CropPart : public QWidget
{
    Q_OBJECT
public:
    CropPart(Viewing& viewing, SteadyController& steady_controller, QWidget* parent = nullptr);
    void refresh();
    void refresh_place();

Q_SIGNALS:
    void photo_chosen(PhotoIndex photo);

private:
    Viewing& viewing_;
    SteadyController& steady_controller_;
    QPushButton* inside_all_;
    QPushButton* whole_;
    QPushButton* mirrored_;
    QComboBox* shape_;
    QLabel* crop_;
    QPushButton* costliest_;
    PhotoIndex costliest_photo_;
    QLabel* idea_;
    MotionPlot* plot_;
};

}
