#pragma once
#include "app/work/findings.h"
#include "app/work/viewing.h"

#include <QWidget>

class QLabel;
class QPushButton;
class QTreeWidget;
class QVBoxLayout;

namespace frenlo::app {

/// Sort: bring photos in, put them in order, see and settle problems.
class SortBench : public QWidget {
    Q_OBJECT
public:
    SortBench(Session& session, Viewing& viewing, Findings& findings, QWidget* parent = nullptr);

    /// X: set the selected photos aside, or bring them back when all of them are.
    void toggle_aside();

Q_SIGNALS:
    void bring_folder_in();
    void show_photo(ShotIndex shot, PhotoIndex photo);

private:
    void build_tools(QVBoxLayout* column);
    void refresh_tools();
    void refresh_shots();
    void refresh_findings();
    void set_aside_there(const ToLookAt& finding);

    Session& session_;
    Viewing& viewing_;
    Findings& findings_;
    QPushButton* aside_;
    QPushButton* by_name_;
    QPushButton* by_time_;
    QPushButton* reverse_;
    QTreeWidget* shots_;
    QVBoxLayout* findings_column_;
    QLabel* findings_heading_;
};

}
