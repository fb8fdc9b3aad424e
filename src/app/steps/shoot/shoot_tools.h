#pragma once
#include "app/steps/shoot/live_view.h"
#include "app/steps/shoot/shoot_controller.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QPushButton;
class QSlider;

namespace frenlo::app {

/// The line below the live picture: taking, playing what was taken last, and what is seen through the live picture.
class ShootTools : public QWidget
{
    Q_OBJECT
public:
    ShootTools(ShootController& controller, CameraDesk& desk, LiveView& view, QWidget* parent = nullptr);
    /// What takes a photo, for its button.
    void set_key(const QString& key);
    /// Whether the live picture is shown, or a photo of the film.
    void set_live(bool on);
    /// What is seen with the live picture: the next of the list.
    void choose_next();

Q_SIGNALS:
    void live_wanted(bool on);
    void play_wanted();

private:
    void refresh();
    void refresh_look();
    void choose(int index);

    ShootController& controller_;
    CameraDesk& desk_;
    LiveView& view_;
    QString key_;
    QPushButton* take_;
    QPushButton* retake_;
    QPushButton* aside_;
    QPushButton* live_;
    QPushButton* play_;
    QComboBox* over_;
    QSlider* strength_;
    QLabel* clock_;
};

}
