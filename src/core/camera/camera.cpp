#include "core/camera/camera.h"

#include "core/camera/gphoto2_camera.h"
#include "core/camera/simulated_camera.h"
#include "core/camera/video_camera.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <iterator>

namespace frenlo {

bool Camera::pull(cv::Point2d, cv::Point2d)
{
    return false;
}

std::vector<CameraMaker> camera_makers()
{
    return {{"gphoto2", found_still_cameras, open_still_camera},
            {"v4l2", found_video_cameras, open_video_camera},
            {"test-pictures", no_cameras, open_test_pictures},
            {"simulated", found_simulated_cameras, open_simulated_camera}};
}

std::vector<FoundCamera> found_cameras()
{
    std::vector<FoundCamera> all;
    for (const CameraMaker& maker : camera_makers()) {
        auto found = maker.found();
        all.insert(all.end(), std::make_move_iterator(found.begin()), std::make_move_iterator(found.end()));
    }
    return all;
}

std::unique_ptr<Camera> open_camera(const std::string& address)
{
    const auto colon = address.find(':');
    const std::string name = address.substr(0, colon);
    for (const CameraMaker& maker : camera_makers())
        if (name == maker.name)
            return maker.open(colon == std::string::npos ? std::string() : address.substr(colon + 1));
    throw Failure({"there is no camera “" + address + "”", {}, "Name one as simulated, v4l2:DEVICE or gphoto2:PORT"});
}

std::vector<CameraSetting> automatic_settings(const std::vector<CameraSetting>& settings)
{
    std::vector<CameraSetting> some;
    std::copy_if(settings.begin(), settings.end(), std::back_inserter(some),
                 [](const CameraSetting& s) { return s.automatic.value_or(false); });
    return some;
}

void lock_all(Camera& camera)
{
    for (const CameraSetting& s : automatic_settings(camera.settings()))
        camera.set_automatic(s.key, false);
}

std::string setting_text(const CameraSetting& s)
{
    std::string text(40, '\0');
    if (!s.choices.empty())
        return s.choices.at(std::size_t(std::clamp(std::lround(s.value), 0L, long(s.choices.size()) - 1)));
    if (s.kind == SettingKind::exposure && s.unit == "s" && s.value > 0 && s.value < 0.4)
        text.resize(std::size_t(std::snprintf(text.data(), text.size(), "1/%.0f", 1 / s.value)));
    else
        text.resize(std::size_t(std::snprintf(text.data(), text.size(), "%.4g", s.value)));
    return s.unit.empty() ? text : text + ' ' + s.unit;
}

void camera_gone(const std::string& name, const std::string& why)
{
    throw Failure({name + " does not answer any more (" + why + ")",
                   {},
                   "Look at its cable and whether it is switched on; all photos that were taken are on disk"});
}

}
