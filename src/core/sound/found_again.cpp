#include "core/sound/found_again.h"

#include "core/sound/sound_reader.h"

#include <algorithm>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

/// Whether the file has as much sound as the project knows, to a fiftieth of a second: containers round what they say.
bool is_as_long(const fs::path& file, Seconds length, const Job& job)
{
    try {
        SoundReader reader(file, Resampling::quick);
        const double known = length.value.approx();
        constexpr double close = 0.02;
        if (std::abs(reader.stated_length().value.approx() - known) < close)
            return true;
        return std::abs(reader.counted_length(job).value.approx() - known) < close;
    } catch (const Failure&) { // it is no sound: then it is another file of the same name
        return false;
    }
}

}

std::vector<fs::path> gone_sounds(const Project& project)
{
    std::vector<fs::path> gone;
    std::error_code ec;
    for (const Sound& s : project.reel.sound.sounds)
        if (!fs::exists(s.file, ec) && std::find(gone.begin(), gone.end(), s.file) == gone.end())
            gone.push_back(s.file);
    return gone;
}

std::vector<std::pair<fs::path, fs::path>> find_sounds_again(const Project& project, std::span<const fs::path> places,
                                                             const Job& job)
{
    std::vector<std::pair<fs::path, fs::path>> found;
    const auto gone = gone_sounds(project);
    if (gone.empty())
        return found;
    std::vector<fs::path> files;
    for (const fs::path& place : places) {
        std::error_code ec;
        for (fs::recursive_directory_iterator at(place, fs::directory_options::skip_permission_denied, ec), end;
             !ec && at != end; at.increment(ec)) {
            job.check();
            std::error_code of_file;
            if (at->is_regular_file(of_file))
                files.push_back(at->path());
        }
    }
    std::sort(files.begin(), files.end());
    for (const fs::path& was : gone) {
        const auto sound = std::find_if(project.reel.sound.sounds.begin(), project.reel.sound.sounds.end(),
                                        [&](const Sound& s) { return s.file == was; });
        for (const fs::path& file : files)
            if (file.filename() == was.filename() && is_as_long(file, sound->file_length, job)) {
                found.emplace_back(was, fs::absolute(file).lexically_normal());
                break;
            }
    }
    return found;
}

Project with_sounds_at(const Project& project, std::span<const std::pair<fs::path, fs::path>> found)
{
    Project result = project;
    for (Sound& s : result.reel.sound.sounds)
        for (const auto& [was, now] : found)
            if (s.file == was) {
                s.file = now;
                break;
            }
    return result;
}

}
