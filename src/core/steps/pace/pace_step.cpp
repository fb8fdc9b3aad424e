#include "core/steps/step.h"

namespace frenlo {

const Step& pace_step()
{
    static const Step step{.name = "pace"};
    return step;
}

}
