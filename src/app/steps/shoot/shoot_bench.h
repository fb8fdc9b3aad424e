#pragma once
#include "app/steps/shoot/guides_part.h"

#include <QWidget>

class QLabel;
class QPushButton;
class QStackedWidget;

namespace frenlo::app {

class CameraPart;
class SeriesPart;
class TakePart;

/// Shoot: what is taken and where it goes; the camera and its settings; what lies over the live picture.
class ShootBench : public QWidget
{
    Q_OBJECT
public:
    ShootBench(Session& session, Viewing& viewing, ShootController& controller, CameraDesk& desk, LiveView& view,
               Reference& reference, TakeKey& key, QWidget* parent = nullptr);
    void refresh();
    void add_told(const QString& what);

private:
    void show_page(int page);

    CameraDesk& desk_;
    QLabel* notice_;
    QLabel* state_;
    std::vector<QPushButton*> tabs_;
    QStackedWidget* pages_;
    TakePart* take_;
    SeriesPart* series_;
    CameraPart* camera_;
    GuidesPart* guides_;
};

}
