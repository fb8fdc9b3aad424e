#pragma once
#include "app/steps/sort/filer.h"

#include <QWidget>

class QLabel;
class QLineEdit;
class QPushButton;
class QTreeWidget;

namespace frenlo::app {

/// Files in order: the whole plan is seen before anything happens; then it runs, and can be taken back.
class FilingPage : public QWidget
{
    Q_OBJECT
public:
    FilingPage(Session& session, Filer& filer, QWidget* parent = nullptr);
    /// Proposes a folder and plans.
    void begin();

Q_SIGNALS:
    void closed();

private:
    void choose_folder();
    void write_sidecars_beside();
    void plan();
    void show_plan();
    void go();
    void refresh_buttons();

    Session& session_;
    Filer& filer_;
    FilingPlan plan_;
    bool done_ = false; ///< and it can be taken back
    std::uint64_t plan_number_ = 0;
    QLineEdit* folder_;
    QPushButton* copy_;
    QPushButton* move_;
    QTreeWidget* list_;
    QLabel* summary_;
    QLabel* note_;
    QPushButton* go_;
    QPushButton* take_back_;
    QPushButton* sidecars_;
};

}
