#pragma once
#include "app/steps/sort/sort_controller.h"

#include <QWidget>

class QPushButton;

namespace frenlo::app {

class PictureView;

/// The line under the picture in Sort: first and last of a shot, aside, split, join, blink; and the step that goes on.
class SortTools : public QWidget
{
    Q_OBJECT
public:
    SortTools(Session& session, Viewing& viewing, SortController& sort_controller, PictureView& picture,
              QWidget* parent = nullptr);

private:
    void refresh();

    Session& session_;
    Viewing& viewing_;
    SortController& sort_controller_;
    QPushButton* first_;
    QPushButton* last_;
    QPushButton* aside_;
    QPushButton* split_;
    QPushButton* join_;
    QPushButton* blink_;
    QPushButton* make_;
};

}
