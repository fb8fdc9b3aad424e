#pragma once
#include "app/bench/steady/region_tool.h"
#include "app/picture/picture_view.h"
#include "app/work/steadier.h"

#include <QPointer>
#include <QWidget>

class QComboBox;
class QLabel;
class QLineEdit;
class QProgressBar;
class QPushButton;

namespace frenlo::app {

/// How the shot is steadied, where is looked, and measuring it.
class WayPart : public QWidget {
    Q_OBJECT
public:
    WayPart(Session& session, Viewing& viewing, Steadier& steadier, PictureView& picture, QLabel& notice, QWidget* parent = nullptr);
    void refresh();

private:
    [[nodiscard]] QWidget* still_row();
    [[nodiscard]] QWidget* smooth_row();
    [[nodiscard]] QWidget* region_row();
    void set_way(SteadyWay way);
    void take_smoothing();
    void measure(std::optional<PhotoIndex> reference);
    /// Begins or ends drawing on the picture.
    void draw(RegionTool::Use use, QPushButton* button);
    void drawn(RegionTool::Use use, const std::vector<cv::Rect2d>& boxes);
    void refresh_drawing();
    void refresh_region(const Shot& shot);
    void refresh_smooth(const Shot& shot);
    [[nodiscard]] Movement movement() const;

    Session& session_;
    Viewing& viewing_;
    Steadier& steadier_;
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
    QPushButton* look_at_;
    QPushButton* leave_out_;
    QPushButton* brush_;
    QPushButton* propose_;
    QPushButton* everywhere_;
    QPushButton* trusted_;
    QLabel* region_;
    QPushButton* measure_;
    QPushButton* as_shot_;
    QProgressBar* progress_;
    QLabel* reference_label_;
    QLabel* strength_label_;
    QWidget* still_row_;
    QWidget* smooth_row_;
    SteadyWay way_ = SteadyWay::still;
    ShotPtr seen_; ///< the shot that the fields were filled for
    QPointer<RegionTool> tool_;
    RegionTool::Use use_ = RegionTool::Use::only_show;
};

}
