#pragma once
#include "app/steps/frame/frame_controller.h"

#include <QWidget>

#include <vector>

class QCheckBox;
class QComboBox;
class QLineEdit;

namespace frenlo::app {

class ValueField;

/// What lies over the frame: bars, fades, grain, and the miniature.
class LooksPart : public QWidget
{
    Q_OBJECT
public:
    LooksPart(Viewing& viewing, FrameController& frame_controller, QWidget* parent = nullptr);
    void refresh(const Shot& shot);

private:
    QWidget* over_the_frame();
    QWidget* miniature_part();
    [[nodiscard]] Seconds length_in(const QLineEdit& line, bool& understood) const;

    Viewing& viewing_;
    FrameController& frame_controller_;
    QComboBox* bars_;
    QLineEdit* fade_in_;
    QLineEdit* fade_out_;
    ValueField* grain_ = nullptr;
    QCheckBox* grain_held_;
    QCheckBox* miniature_;
    QWidget* miniature_more_ = nullptr;
    std::vector<ValueField*> miniature_fields_;
};

}
