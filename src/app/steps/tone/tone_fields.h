#pragma once
#include "app/steps/tone/tone_controller.h"

#include <QWidget>

#include <utility>
#include <vector>

namespace frenlo::app {

class ValueField;

/// The values of the tone of the photo that is looked at.
class ToneFields : public QWidget
{
    Q_OBJECT
public:
    explicit ToneFields(ToneController& tone_controller, QWidget* parent = nullptr);
    void show_tone(const Tone& tone);
    /// Behind the last value.
    void add_button(QWidget* button);

private:
    std::vector<std::pair<ToneValue, ValueField*>> fields_;
};

}
