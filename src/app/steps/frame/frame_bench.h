#pragma once
#include "app/picture/picture_view.h"
#include "app/steps/frame/frame_controller.h"
#include "app/steps/frame/frame_tool.h"
#include "app/work/background.h"

#include <QWidget>

#include <memory>
#include <vector>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace frenlo {
class PreviewStore;
}

namespace frenlo::app {

class FlowLayout;
class LevelPart;
class LooksPart;
class Player;
class ValueField;

/// Frame: shape, the box on the picture, the drift through views, and looks.
class FrameBench : public QWidget
{
    Q_OBJECT
public:
    FrameBench(Background& background, Session& session, Viewing& viewing, FrameController& frame_controller,
               PictureView& picture, Player& player, PreviewStore& store, QWidget* parent = nullptr);

Q_SIGNALS:
    void show_photo(ShotIndex shot, PhotoIndex photo);
    void failed(const QString& message);

protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    QWidget* shape_part();
    QWidget* dresses_part();
    void fill_also_menu();
    void refresh_dresses(const Shot& shot);
    QWidget* photo_part();
    QWidget* drift_part();
    void refresh();
    void refresh_views(const Shot& shot);
    void show_tool();
    void take_own_shape();
    void fill_menu();

    Session& session_;
    Viewing& viewing_;
    FrameController& frame_controller_;
    PictureView& picture_;
    Player& player_;
    std::unique_ptr<FrameTool> tool_;
    QLabel* note_;
    QPushButton* boxes_;
    QPushButton* others_;
    QPushButton* as_shot_;
    std::vector<QPushButton*> shapes_;
    QPushButton* also_;
    QComboBox* dresses_;
    std::vector<FilmShape> dressed_for_; ///< the lines of the choice
    QLineEdit* own_shape_;
    QPushButton* fill_;
    QPushButton* inside_;
    QComboBox* beyond_;
    FlowLayout* view_row_;
    std::vector<QPushButton*> views_;
    QWidget* drift_more_ = nullptr; ///< what there is to set where it drifts
    QPushButton* other_way_;
    QPushButton* none_;
    QPushButton* drop_;
    ValueField* view_size_;
    ValueField* view_turn_;
    QComboBox* ease_;
    LevelPart* level_;
    LooksPart* looks_;
};

}
