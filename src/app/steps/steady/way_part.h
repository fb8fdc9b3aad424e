#pragma once
#include "app/steps/steady/steady_controller.h"
#include "app/widgets/region_row.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QProgressBar;
class QPushButton;

namespace frenlo::app {

/// How the shot is steadied, where is looked, and measuring it.
class WayPart : public QWidget
{
    Q_OBJECT
public:
    WayPart(Session& session, Viewing& viewing, SteadyController& steady_controller, PictureView& picture,
            QLabel& notice, QWidget* parent = nullptr);
    void refresh();

private:
    [[nodiscard]] QWidget* still_row();
    [[nodiscard]] QWidget* smooth_row();
    void set_way(SteadyWay way);
    void take_smoothing();
    void measure(std::optional<PhotoIndex> reference);
    /// Begins or ends showing what is trusted, or drawing a target, on the picture.
    void draw(RegionTool::Use use, QPushButton* button);
    void refresh_drawing();
    void stop_drawing();
    void refresh_region(const Shot& shot);
    void refresh_smooth(const Shot& shot);
    [[nodiscard]] Movement movement() const;

    Session& session_;
    Viewing& viewing_;
    SteadyController& steady_controller_;
    PictureView& picture_;
    QLabel& notice_;
    QPushButton* still_;
    QPushButton* smooth_;
    QComboBox* movement_;
    QLabel* reference_;
    QPushButton* this_one_;
    QLineEdit* strength_;
    QLineEdit* lost_;
    QPushButton* target_;
    QPushButton* no_target_;
    RegionRow* region_;
    QPushButton* propose_;
    QPushButton* trusted_;
    QPushButton* measure_;
    QPushButton* as_shot_;
    QProgressBar* progress_;
    QLabel* reference_label_;
    QLabel* strength_label_;
    QWidget* still_row_;
    QWidget* smooth_row_;
    SteadyWay way_ = SteadyWay::still;
    ShotPtr seen_; ///< the shot that the fields were filled for
    std::unique_ptr<RegionTool> tool_;
    RegionTool::Use use_ = RegionTool::Use::only_show;
};

}
