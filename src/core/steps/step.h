#pragma once
#include "core/command/options.h"
#include "core/picture/step_pictures.h"
#include "core/project/shot_edit.h"
#include "core/project/step_json.h"

#include <span>
#include <vector>

namespace frenlo {

/// A step of the job: what the parts below it, and the command line, are told of it. Everything else of it stays in its
/// folder. Members that a step has no use for are empty.
struct Step
{
    const char* name;                       ///< as its folder
    std::vector<StepCoding> photo_values{}; ///< what it keeps of a photo
    std::vector<StepCoding> shot_values{};  ///< what it keeps of a shot
    /// Puts right what it keeps after an edit: the one place that says what turning, moving, joining, splitting and
    /// swapping do to it.
    void (*follow)(const ShotEdit&) = nullptr;
    StepPictures pictures{};
    /// Its commands of the command line.
    void (*add_commands)(CLI::App&, command::Run&) = nullptr;
};

/// All of them, in the order of the job: those of steps.cmake.
std::span<const Step* const> all_steps();

}
