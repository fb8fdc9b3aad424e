#pragma once
#include "app/sheet/sheet_view.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QPushButton;
class QSlider;
class QTabBar;

namespace frenlo::app {

/// The left half: a tab a shot, the page, and a line that says what is selected.
class SheetPanel : public QWidget {
    Q_OBJECT
public:
    SheetPanel(Session& session, Viewing& viewing, PhotoLoader& loader, SortController& sort_controller, PaceController& pace_controller, QWidget* parent = nullptr);
    [[nodiscard]] SheetView& view() { return *view_; }

private:
    void refresh_tabs();
    void refresh_status();
    void build_order_menu();
    void refresh_tools();

    Session& session_;
    Viewing& viewing_;
    PhotoLoader& loader_;
    SortController& sort_controller_;
    QTabBar* tabs_;
    QLabel* zoom_label_;
    QPushButton* order_;
    QComboBox* row_length_;
    QSlider* tile_size_;
    SheetView* view_;
    QLabel* chosen_;
    QLabel* whole_;
};

}
