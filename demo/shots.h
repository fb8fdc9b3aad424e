#pragma once
// The three shots. Each writes its photos into a folder and returns the truth of each.
#include "core/base/job.h"
#include "demo/camera.h"

#include <filesystem>
#include <functional>
#include <string_view>
#include <vector>

namespace frenlo::demo {

std::vector<Truth> paper_ferry(const std::filesystem::path& folder, const Job& job);
std::vector<Truth> bean_sprout(const std::filesystem::path& folder, const Job& job);
std::vector<Truth> pier_walk(const std::filesystem::path& folder, const Job& job);

/// Takes count photos on all cores: "name_0001.jpg" and on.
std::vector<Truth> take_all(const std::filesystem::path& folder, std::string_view name, int count, const Job& job,
                            const std::function<Scene(int)>& scene, const std::function<Truth(int)>& truth,
                            const std::function<Exposure(int)>& exposure);

inline cv::Size scene_size()
{
    return {1600 + 2 * margin, 1067 + 2 * margin};
}

}
