#pragma once
#include "core/camera/camera.h"

#include <memory>

namespace frenlo {

/// Still cameras at a cable, by libgphoto2. Photos are fetched into memory as the camera's own files and stay on its
/// card where it has kept them there.
std::vector<FoundCamera> found_still_cameras();

/// rest: the port, "usb:001,005"; empty: the first that is there. Throws Failure.
std::unique_ptr<Camera> open_still_camera(const std::string& rest);

}
