#pragma once
#include "app/sheet/sheet_view.h"

#include <QWidget>

class QComboBox;
class QHBoxLayout;
class QLabel;
class QPushButton;
class QSlider;
class QTabBar;

namespace frenlo::app {

/// The left half: a tab a shot, the page, and a line that says what is selected.
class SheetPanel : public QWidget
{
    Q_OBJECT
public:
    SheetPanel(Session& session, Viewing& viewing, PhotoLoader& loader, MovingParts& moving, QWidget* parent = nullptr);
    /// What the step in view puts beside the tabs; null for nothing.
    void set_tools(QWidget* tools);
    [[nodiscard]] SheetView& view() { return *view_; }

private:
    void refresh_tabs();
    void refresh_status();
    void refresh_tools();
    void refresh_zoom();
    [[nodiscard]] QString in_view() const;

    Session& session_;
    Viewing& viewing_;
    PhotoLoader& loader_;
    QTabBar* tabs_;
    QLabel* zoom_label_;
    QHBoxLayout* head_;
    QWidget* step_tools_ = nullptr;
    QComboBox* row_length_;
    QPushButton* fit_tiles_;
    QSlider* tile_size_;
    SheetView* view_;
    QLabel* chosen_;
    QLabel* whole_;
};

}
