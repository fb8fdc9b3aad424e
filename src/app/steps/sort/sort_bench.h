#pragma once
#include "app/steps/sort/filing_page.h"
#include "app/steps/sort/finding_list.h"
#include "app/steps/sort/shot_list.h"
#include "app/steps/sort/swap_page.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QPushButton;
class QStackedWidget;

namespace frenlo::app {

class ClipPart;

/// Sort: bring photos in, find shots, put them in order, see and settle problems. Swapping photos and putting files in
/// order take the bench for as long as they last.
class SortBench : public QWidget
{
    Q_OBJECT
public:
    SortBench(Background& background, Session& session, Viewing& viewing, Findings& findings,
              SortController& sort_controller, Filer& filer, QWidget* parent = nullptr);

    [[nodiscard]] SwapPage& swap_page() { return *swap_; }

Q_SIGNALS:
    void bring_folder_in();
    void ask_better_set();
    void find_again();
    void show_photo(ShotIndex shot, PhotoIndex photo);
    void failed(const QString& message);

private:
    QWidget* main_page();
    QWidget* backdrop_part();
    void refresh();
    void take_backdrop();

    Session& session_;
    Viewing& viewing_;
    QStackedWidget* pages_;
    ShotList* shots_;
    FindingList* list_;
    SwapPage* swap_;
    FilingPage* filing_;
    ClipPart* clip_;
    QPushButton* swap_button_;
    QPushButton* file_button_;
    QPushButton* one_;
    QWidget* backdrop_line_ = nullptr;
    QComboBox* backdrop_;
};

}
