#pragma once
// The shots. Each of three writes its photos into a folder and returns the truth of each.
#include "core/base/job.h"
#include "core/project/project.h"
#include "demo/camera.h"

#include <filesystem>
#include <functional>
#include <string_view>
#include <vector>

namespace frenlo::demo {

std::vector<Truth> paper_ferry(const std::filesystem::path& folder, const Job& job);
std::vector<Truth> bean_sprout(const std::filesystem::path& folder, const Job& job);
std::vector<Truth> pier_walk(const std::filesystem::path& folder, const Job& job);

/// That the pier is taken with: a barrel.
inline constexpr Lens wide_lens{-0.06, 0};

/// The project with a fourth shot, which the simulated camera takes into this folder; not in the Reel.
Project with_tin_walk(const Project& project, const std::filesystem::path& folder, const Job& job);

/// A memory card as it comes from the camera, from the shots in this folder: trials, marker cards, three shots one
/// after another, a file that was cut off, a counter that starts again. Small photos in "Card/100HARBO".
void fill_card(const std::filesystem::path& folder, const Job& job);

/// Takes count photos on all cores: "name_0001.jpg" and on.
std::vector<Truth> take_all(const std::filesystem::path& folder, std::string_view name, int count, const Job& job,
                            const std::function<Scene(int)>& scene, const std::function<Truth(int)>& truth,
                            const std::function<Exposure(int)>& exposure);

inline cv::Size scene_size()
{
    return {1600 + 2 * margin, 1067 + 2 * margin};
}

}
