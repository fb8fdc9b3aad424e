#pragma once
#include "app/picture/picture_view.h"
#include "app/steps/flicker/flicker_controller.h"
#include "app/steps/flicker/strip_maker.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QListWidget;
class QPushButton;
class QStackedWidget;

namespace frenlo::app {

class LightPlot;
class LightStrip;

/// What was measured: the course of the light or a strip of the whole shot, what stands out and where the light changes
/// at once, and what is done about each.
class LookingPart : public QWidget
{
    Q_OBJECT
public:
    LookingPart(Viewing& viewing, FlickerController& flicker_controller, StripMaker& strips, PictureView& picture,
                QWidget* parent = nullptr);
    void refresh();
    void refresh_place();

Q_SIGNALS:
    void photo_chosen(PhotoIndex photo);

private:
    void show_page(int page);
    void fill_list(const Shot& shot);

    Viewing& viewing_;
    FlickerController& flicker_controller_;
    PictureView& picture_;
    QPushButton* plot_page_;
    QPushButton* strip_page_;
    QPushButton* split_;
    QStackedWidget* pages_;
    LightPlot* plot_;
    LightStrip* strip_;
    QListWidget* list_;
    QLabel* photo_;
    QComboBox* remedy_;
};

}
