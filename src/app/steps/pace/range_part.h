#pragma once
#include "app/steps/pace/loop_search.h"
#include "app/steps/pace/pace_controller.h"

#include <QWidget>

class QLabel;
class QLineEdit;
class QPushButton;
class QSlider;

namespace frenlo::app {

/// What of the shot is kept: by photo numbers, with a fixed length, slid, as a version of its own; and every Nth photo.
class RangePart : public QWidget
{
    Q_OBJECT
public:
    RangePart(Session& session, Viewing& viewing, PaceController& pace_controller, LoopSearch& loops, QLabel& notice,
              QWidget* parent = nullptr);
    void refresh();

private:
    void take_photos();
    void take_length();
    void slide_to(int position);

    Session& session_;
    Viewing& viewing_;
    PaceController& pace_controller_;
    LoopSearch& loops_;
    QLabel& notice_;
    QLineEdit* from_;
    QLineEdit* to_;
    QPushButton* all_;
    QLineEdit* length_;
    QLabel* length_words_;
    QSlider* slide_;
    QPushButton* version_;
    QPushButton* loop_;
    QLabel* loop_words_;
    std::uint64_t gesture_ = std::uint64_t(1) << 40; ///< apart from the Sheet's
};

}
