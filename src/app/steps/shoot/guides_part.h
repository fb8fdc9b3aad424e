#pragma once
#include "app/steps/shoot/live_view.h"
#include "app/steps/shoot/reference.h"
#include "app/steps/shoot/shoot_controller.h"
#include "app/steps/shoot/take_key.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QSlider;

namespace frenlo::app {

/// What lies over the live picture beside photos: guides, a reference, paths; and the key that takes.
class GuidesPart : public QWidget
{
    Q_OBJECT
public:
    GuidesPart(ShootController& controller, LiveView& view, Reference& reference, TakeKey& key,
               QWidget* parent = nullptr);
    void refresh();
    /// A path was drawn.
    void take_drawn(const std::vector<cv::Point2d>& points);

private:
    QPushButton* guide(const QString& name, const QString& tip, bool LiveLook::*member);
    void change(const std::function<void(LiveLook&)>& how);
    void choose_reference();
    void refresh_path();
    void change_path(const std::function<void(MarkPath&)>& how);

    ShootController& controller_;
    LiveView& view_;
    Reference& reference_;
    TakeKey& key_;
    std::vector<std::pair<QPushButton*, bool LiveLook::*>> guides_;
    QComboBox* mask_;
    QPushButton* reference_file_;
    QComboBox* reference_way_;
    QSlider* reference_strength_;
    QPushButton* no_reference_;
    QPushButton* draw_;
    QComboBox* path_;
    QLineEdit* steps_;
    QComboBox* ease_;
    QPushButton* remove_;
    QPushButton* learn_;
};

}
