#pragma once
#include "core/base/job.h"
#include "core/project/project.h"
#include "core/source/photo_source.h"

namespace frenlo {

/// How much the brightness of neighbouring photos differs from that of an even course, stops: a look at a stretch of
/// some photos to see whether measuring is worth it, by the middle of second differences of their mean brightness. 0
/// where nothing can be said. Throws Stopped.
double flickers_by(const Shot& shot, const PhotoSource& source, const Job& job);

}
