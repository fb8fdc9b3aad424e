#pragma once
#include "app/picture/picture_view.h"
#include "app/steps/steady/points_tool.h"
#include "app/steps/steady/steady_controller.h"

#include <QWidget>

#include <memory>

class QComboBox;
class QLabel;
class QListWidget;
class QPushButton;

namespace frenlo::app {

/// How the photo under the player lies, and what to do where that is wrong.
class PhotoPart : public QWidget
{
    Q_OBJECT
public:
    PhotoPart(Viewing& viewing, SteadyController& steady_controller, PictureView& picture, QWidget* parent = nullptr);
    void refresh();

private:
    [[nodiscard]] PhotoIndex here() const; ///< -1: none
    /// The photo that the one here is aligned to, as chosen; -1: none.
    [[nodiscard]] PhotoIndex other() const;
    void set_points(bool on);
    void take_points();
    void refresh_points();

    Viewing& viewing_;
    SteadyController& steady_controller_;
    PictureView& picture_;
    QLabel* lies_;
    QPushButton* nudge_;
    QPushButton* points_;
    QPushButton* take_points_;
    QComboBox* against_;
    QComboBox* movement_;
    QPushButton* align_;
    QPushButton* as_shot_;
    std::unique_ptr<PointsTool> tool_;
    PhotoIndex points_of_{-1};
};

/// Comparing the photo with the reference, and the photos to look at.
class LookPart : public QWidget
{
    Q_OBJECT
public:
    LookPart(Viewing& viewing, PictureView& picture, QWidget* parent = nullptr);
    void refresh();

Q_SIGNALS:
    void photo_chosen(PhotoIndex photo);

private:
    void compare(Compare how);

    Viewing& viewing_;
    PictureView& picture_;
    QPushButton* blink_;
    QPushButton* split_;
    QPushButton* through_;
    QPushButton* difference_;
    QLabel* left_;
    QLabel* heading_;
    QListWidget* doubts_;
};

}
