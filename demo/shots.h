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

/// So many photos are there, without a gap from the first on; from any thread.
using FirstAreThere = std::function<void(int photos)>;

std::vector<Truth> paper_ferry(const std::filesystem::path& folder, const Job& job, const FirstAreThere& there);
std::vector<Truth> bean_sprout(const std::filesystem::path& folder, const Job& job, const FirstAreThere& there);
std::vector<Truth> pier_walk(const std::filesystem::path& folder, const Job& job, const FirstAreThere& there);

/// That the pier is taken with: a barrel.
inline constexpr Lens wide_lens{-0.06, 0};

/// The project with a fourth shot, which the simulated camera takes into this folder; not in the Reel.
Project with_tin_walk(const Project& project, const std::filesystem::path& folder, const Job& job);

/// A memory card as it comes from the camera, from the shots in this folder: trials, marker cards, three shots one
/// after another, a file that was cut off, a counter that starts again. Small photos in "Card/100HARBO".
void fill_card(const std::filesystem::path& folder, const Job& job);

/// How each photo of a shot is taken.
struct Takes
{
    int count = 0;
    std::function<Scene(int)> scene;
    std::function<Truth(int)> truth;
    std::function<Exposure(int)> exposure;
};

/// Takes them on all cores, the first ones first: "name_0001.jpg" and on.
std::vector<Truth> take_all(const std::filesystem::path& folder, std::string_view name, const Takes& takes,
                            const Job& job, const FirstAreThere& there);

inline cv::Size scene_size()
{
    return {1600 + 2 * margin, 1067 + 2 * margin};
}

}
