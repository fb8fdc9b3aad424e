#pragma once
#include "app/steps/pace/pace_controller.h"

#include <QWidget>

class QLabel;
class QPushButton;
class QStackedWidget;

namespace frenlo::app {

class FlowPart;
class HoldPart;
class InBetweenSearch;
class LoopSearch;
class OrderPart;
class RangePart;
class RatePart;
class SpeedPart;
class Tapping;
class Thinning;
class TimingFiles;

/// Pace: how long each photo stays and the rates; what is kept, in what order and how often.
class PaceBench : public QWidget
{
    Q_OBJECT
public:
    PaceBench(Session& session, Viewing& viewing, PaceController& pace_controller, Thinning& thinning,
              LoopSearch& loops, InBetweenSearch& in_betweens, Tapping& tapping, TimingFiles& files,
              QWidget* parent = nullptr);

Q_SIGNALS:
    void resolved(); ///< the keys can go back to the Sheet

private:
    void show_page(int page);
    void refresh();
    void refresh_lost(const Shot& shot);

    Viewing& viewing_;
    QLabel* notice_;
    QLabel* whole_;
    QPushButton* first_page_;
    QPushButton* second_page_;
    QPushButton* third_page_;
    QStackedWidget* pages_;
    HoldPart* hold_;
    RatePart* rate_;
    RangePart* range_;
    OrderPart* order_;
    FlowPart* flow_;
    SpeedPart* speed_;
};

}
