#pragma once
#include "core/source/lens.h"
#include "core/source/photo_file.h"
#include "core/source/photo_source.h"

namespace frenlo {

/// A photo as it is seen in its shot.
struct SeenPhoto
{
    PhotoPtr photo;
    int turns = 0; ///< quarters clockwise
    Damage damage = Damage::refuse;
    Lens lens{}; ///< what it did is taken out
};

}
