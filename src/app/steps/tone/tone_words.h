#pragma once
#include "core/steps/tone/tone_values.h"

#include <QString>

namespace frenlo::app {

/// What a value of tone is called in the window.
QString name_of(ToneValue value);

}
