#include "core/steps/step.h"

namespace frenlo {

const Step& sort_step()
{
    static const Step step{.name = "sort"};
    return step;
}

}
