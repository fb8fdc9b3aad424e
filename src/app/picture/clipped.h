#pragma once
#include "app/theme/colours.h"

#include <QImage>

namespace frenlo::app {

/// Over a picture, as large as it: what has no detail left. Stripes over pixels of which a channel is white, dots over
/// those of which one is black. On any thread.
QImage clipped_marks(const QImage& picture, const Colours& colours);

}
