#pragma once
#include <QWidget>

class QLabel;
class QVBoxLayout;

namespace frenlo::app {

/// What is seen before there are photos: what to do first, what was done lately, and the demo.
class StartPage : public QWidget
{
    Q_OBJECT
public:
    explicit StartPage(QWidget* parent = nullptr);
    void set_recent(const QStringList& files);

Q_SIGNALS:
    void bring_folder_in();
    void bring_run_in();
    void shoot(); ///< with a camera
    void open_project();
    void open_recent(const QString& file);
    void show_demo();
    void show_demo_card();

private:
    QVBoxLayout* recent_;
    QLabel* recent_heading_;
};

}
