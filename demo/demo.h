#pragma once
#include "core/base/job.h"
#include "core/project/project.h"

#include <opencv2/core/types.hpp>

#include <filesystem>
#include <functional>

namespace frenlo::demo {

/// Writes the demo into this folder, if it is not there yet: three shots of a model harbour and its window sill, and
/// one that the simulated camera takes, with the project "Harbour.frenlo" and, beside the painted photos, "truth.json"
/// with what was done to each photo. The same photos every time. so_far is told of the shots while their photos are
/// taken, the first ones soon, from any thread: photos as they come from the camera, with the identities that they have
/// in the project at last. Returns the project's file. Throws Failure, Stopped.
std::filesystem::path make_demo(const std::filesystem::path& folder, const Job& job,
                                const std::function<void(const Project&)>& so_far = {});

/// Where make_demo() puts an unsorted memory card of the same scenes.
std::filesystem::path card_folder(const std::filesystem::path& demo_folder);

/// $XDG_DATA_HOME/frenlo/demo or ~/.local/share/frenlo/demo.
std::filesystem::path usual_demo_folder();

inline const cv::Size photo_size(1600, 1067);

}
