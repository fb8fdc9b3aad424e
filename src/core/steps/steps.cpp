// What the project and the pictures ask of the steps, answered from the list of them.
#include "core/steps/step.h"

namespace frenlo {

namespace {

template <class T, class Member>
std::vector<T> gathered(Member Step::*member)
{
    std::vector<T> all;
    for (const Step* step : all_steps())
        if constexpr (std::is_same_v<Member, T>)
            all.push_back(step->*member);
        else
            all.insert(all.end(), (step->*member).begin(), (step->*member).end());
    return all;
}

}

std::span<const StepCoding> photo_step_codings()
{
    static const auto all = gathered<StepCoding>(&Step::photo_values);
    return all;
}

std::span<const StepCoding> shot_step_codings()
{
    static const auto all = gathered<StepCoding>(&Step::shot_values);
    return all;
}

std::span<const StepPictures> step_pictures()
{
    static const auto all = gathered<StepPictures>(&Step::pictures);
    return all;
}

void follow_by_steps(const ShotEdit& edit)
{
    for (const Step* step : all_steps())
        if (step->follow)
            step->follow(edit);
}

}
