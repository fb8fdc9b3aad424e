#pragma once
#include "core/camera/video_controls.h"

#include <memory>

namespace frenlo {

/// Where FFmpeg finds the pictures of a video camera.
struct VideoInput
{
    std::string format; ///< of libavformat or libavdevice: "v4l2", "lavfi"
    std::string url;    ///< "/dev/video0"
    std::vector<std::pair<std::string, std::string>> options{};
};

/// A video camera: a thread of its own reads it, so that the newest picture is at hand and none waits in a queue. A
/// photo is the first picture that begins after it was asked for. Throws Failure where it cannot be opened within some
/// seconds. controls: none for a camera without any.
std::unique_ptr<Camera> open_video(const VideoInput& input, const std::string& name,
                                   std::unique_ptr<VideoControls> controls);

/// The Video4Linux devices that give pictures.
std::vector<FoundCamera> found_video_cameras();
/// rest: the device, "/dev/video0".
std::unique_ptr<Camera> open_video_camera(const std::string& rest);

/// FFmpeg's own test pictures in the place of a camera. rest: their size, "1280x720".
std::unique_ptr<Camera> open_test_pictures(const std::string& rest);
inline std::vector<FoundCamera> no_cameras()
{
    return {};
}

}
