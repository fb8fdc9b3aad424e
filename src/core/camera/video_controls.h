#pragma once
#include "core/camera/camera.h"

#include <cstdint>
#include <functional>
#include <map>

namespace frenlo {

/// ioctl() on a device: 0, or the number of the error. Tests give one of their own.
using DeviceCall = std::function<int(unsigned long request, void* argument)>;

/// The settings of a Video4Linux device: its controls (Linux Media Infrastructure userspace API, “Extended Controls
/// API” and “Camera Control Reference”). A control and the one that makes it automatic are one setting.
class VideoControls
{
public:
    /// name: of the camera, for messages.
    VideoControls(DeviceCall call, std::string name);

    [[nodiscard]] std::vector<CameraSetting> settings() const;
    void set(const std::string& key, double value);
    void set_automatic(const std::string& key, bool on);

private:
    struct Control
    {
        std::uint32_t id = 0;
        CameraSetting shown{};
        double scale = 1;               ///< the setting's value is the control's times this
        std::uint32_t automatic_id = 0; ///< 0: none
        std::int64_t automatic_on = 1, automatic_off = 0;
        std::vector<std::int64_t> choices{}; ///< the numbers of a menu's entries
    };
    void find();
    void add_automatic();
    [[nodiscard]] const Control& control(const std::string& key) const;
    /// Nothing where it cannot be read just now.
    [[nodiscard]] std::optional<std::int64_t> get(std::uint32_t id) const;
    void put(std::uint32_t id, std::int64_t value, const std::string& what) const;

    DeviceCall call_;
    std::string name_;
    std::vector<Control> controls_;
    std::map<std::uint32_t, std::vector<std::int64_t>> menus_; ///< which numbers the menus of automatic controls have
};

}
