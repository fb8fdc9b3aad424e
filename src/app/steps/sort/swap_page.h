#pragma once
#include "app/work/session.h"
#include "app/work/viewing.h"
#include "core/source/matching.h"

#include <QWidget>

class QLabel;
class QPushButton;

namespace frenlo::app {

/// Swap photos: what of a better set matches is shown before it is done.
class SwapPage : public QWidget
{
    Q_OBJECT
public:
    SwapPage(Session& session, Viewing& viewing, QWidget* parent = nullptr);

    /// Shows a plan for the shot as it was when the plan was made.
    void show_plan(const ShotPtr& shot, const SwapPlan& plan, const QString& folder);

Q_SIGNALS:
    void ready();
    void closed();

private:
    void swap();

    Session& session_;
    Viewing& viewing_;
    ShotPtr shot_;
    SwapPlan plan_;
    QLabel* heading_;
    QLabel* summary_;
    QLabel* note_;
    QPushButton* go_;
};

}
