#pragma once
#include "core/base/job.h"
#include "core/project/project.h"
#include "core/source/photo_source.h"

namespace frenlo {

/// How far the photos of a shot have moved against the one in their middle, pixels of the photo, most of a few of them:
/// a look to see whether measuring is worth it, by phase correlation (Kuglin, Hines 1975) of small pictures. 0 where
/// nothing can be said. Throws Stopped.
double moves_by(const Shot& shot, const PhotoSource& source, const Job& job);

}
