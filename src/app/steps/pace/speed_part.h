#pragma once
#include "app/steps/pace/pace_controller.h"
#include "app/steps/pace/speed_plot.h"

#include <QWidget>

#include <functional>

class QCheckBox;
class QComboBox;
class QLabel;
class QPushButton;

namespace frenlo::app {

class ValueField;

/// How fast the shot goes, over its photos.
class SpeedPart : public QWidget
{
    Q_OBJECT
public:
    SpeedPart(Viewing& viewing, PaceController& pace_controller, QWidget* parent = nullptr);
    void refresh();

private:
    void refresh_point();
    void change_point(const std::function<void(SpeedPoint&)>& how, const QString& name); ///< the one in hand
    [[nodiscard]] const SpeedPoint* point() const; ///< in hand; null where none is

    Viewing& viewing_;
    PaceController& pace_controller_;
    SpeedPlot* plot_;
    QCheckBox* keep_length_;
    QPushButton* clear_;
    QWidget* point_row_;
    QLabel* where_;
    ValueField* percent_;
    QComboBox* ease_;
    QPushButton* remove_;
    SpeedCourse course_;
    std::uint64_t gesture_ = std::uint64_t(3) << 40; ///< apart from the Sheet's
};

}
