#pragma once
#include "app/steps/tone/tone_controller.h"

#include <QWidget>

class QLabel;
class QPushButton;

namespace frenlo::app {

/// Which photos are anchors, what lies between them, and which more would help.
class AnchorRow : public QWidget
{
    Q_OBJECT
public:
    AnchorRow(Viewing& viewing, ToneController& tone_controller, QWidget* parent = nullptr);
    void refresh();
    [[nodiscard]] bool both_shown() const;
    /// What is done about anchors, to stand beside other buttons.
    [[nodiscard]] QPushButton* menu() const { return menu_; }

Q_SIGNALS:
    void photo_chosen(PhotoIndex photo);
    void show_both_changed();

private:
    void fill_menu();
    [[nodiscard]] QString state_text(const Shot& shot, PhotoIndex photo) const;

    Viewing& viewing_;
    ToneController& tone_controller_;
    QLabel* state_;
    QPushButton* menu_;
    QPushButton* both_;
    QLabel* between_;
    QPushButton* by_time_;
    QPushButton* by_light_;
};

}
