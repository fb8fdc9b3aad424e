#pragma once
#include "app/steps/tone/tone_controller.h"

#include <QWidget>

#include <vector>

class QComboBox;
class QLabel;

namespace frenlo::app {

/// Which part is toned: all of the picture, an area, a state. Hidden where there are neither.
class WhereRow : public QWidget
{
    Q_OBJECT
public:
    WhereRow(Viewing& viewing, ToneController& controller, QWidget* parent = nullptr);
    void refresh();

private:
    Viewing& viewing_;
    ToneController& controller_;
    QComboBox* choice_;
    QLabel* note_;
    std::vector<ToneWhere> places_; ///< of the lines of the choice
    QStringList names_;
};

}
