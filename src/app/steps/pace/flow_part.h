#pragma once
#include "app/steps/pace/in_between_search.h"
#include "app/steps/pace/pace_controller.h"
#include "app/steps/pace/tapping.h"
#include "app/steps/pace/timing_files.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QPushButton;
class QSpinBox;

namespace frenlo::app {

class BetweenRow;
class ValueField;

/// What frames show that lie between two photos, in the shot and after single photos; longer with in-betweens, holds
/// that live, and the timing as a table.
class FlowPart : public QWidget
{
    Q_OBJECT
public:
    FlowPart(Viewing& viewing, PaceController& pace_controller, InBetweenSearch& search, Tapping& tapping,
             TimingFiles& files, QWidget* parent = nullptr);
    void refresh();
    void follow_playhead();

private:
    void refresh_search();
    void refresh_joint(const Shot& shot);
    void refresh_tapping();
    [[nodiscard]] std::vector<PhotoIndex> chosen() const; ///< the selected photos, or the one under the player

    Viewing& viewing_;
    PaceController& pace_controller_;
    InBetweenSearch& search_;
    Tapping& tapping_;
    TimingFiles& files_;
    BetweenRow* between_;
    QLabel* made_;
    QPushButton* check_;
    QPushButton* next_;
    QLabel* found_;
    QLabel* which_;
    QComboBox* here_;
    QPushButton* twice_;
    QPushButton* four_times_;
    QPushButton* as_taken_;
    QPushButton* tap_;
    QPushButton* vary_;
    QSpinBox* by_;
    QWidget* joint_row_ = nullptr;
    QSpinBox* joint_;
    QLabel* joint_note_;
    ValueField* shutter_;
    std::uint64_t gesture_ = std::uint64_t(12) << 60; ///< apart from those of other benches
    QPushButton* write_;
    QPushButton* read_;
    QPushButton* print_;
    std::uint32_t seed_ = 0; ///< another one each time
};

}
