#pragma once
#include "core/base/problem.h"
#include "core/source/photo_file.h"

#include <opencv2/core/mat.hpp>

#include <chrono>
#include <optional>
#include <string>
#include <vector>

namespace frenlo {

enum class SettingKind
{
    exposure,
    aperture,
    gain,
    white_balance,
    focus,
    mains, ///< against flicker of lamps
    other
};

/// Something of a camera that can be set.
struct CameraSetting
{
    std::string key;  ///< by which it is set; the same for as long as the camera is open
    std::string name; ///< for people: "Shutter time"
    SettingKind kind = SettingKind::other;
    double value = 0, least = 0, most = 0;
    double step = 0;                    ///< between values; 0: any
    std::string unit{};                 ///< "s", "K"; empty for none
    std::vector<std::string> choices{}; ///< where it is one of these: value is its position
    std::optional<bool> automatic{};    ///< whether the camera sets it itself; none: it never does
    bool operator==(const CameraSetting&) const = default;
};

/// What a camera gives for one photo: a file of its own, or pixels.
struct TakenPicture
{
    cv::Mat pixels;      ///< as decode.h says, 8 bit; empty where there is a file
    std::string file;    ///< the bytes of the camera's own file
    std::string ending;  ///< of that file: ".jpg", lower case
    Exposure exposure{}; ///< as far as the camera says
};

/// A camera that is open. Used from one thread at a time, except where it says otherwise. Everything throws Failure
/// where the camera is gone or refuses, and says what to do.
class Camera
{
public:
    virtual ~Camera() = default;

    [[nodiscard]] virtual std::string name() const = 0;
    /// As they are now.
    [[nodiscard]] virtual std::vector<CameraSetting> settings() = 0;
    /// Within its limits. Makes it manual where it was automatic.
    virtual void set(const std::string& key, double value) = 0;
    virtual void set_automatic(const std::string& key, bool on) = 0;
    /// A live picture newer than the last one, as decode.h says, 8 bit, B G R; waits for it no longer than this. Empty
    /// where none came, or where the camera has none.
    [[nodiscard]] virtual cv::Mat live(std::chrono::milliseconds patience) = 0;
    /// A photo of what is there from now on.
    [[nodiscard]] virtual TakenPicture take() = 0;
    /// What its own clock says now, in local time; nothing where it has none.
    [[nodiscard]] virtual std::optional<CaptureTime> clock() { return std::nullopt; }
    /// Pulls what lies there of a scene that can be moved from here, in shares of the picture. Whether something was
    /// there. From any thread.
    virtual bool pull(cv::Point2d from, cv::Point2d to);
};

/// A camera that could be opened.
struct FoundCamera
{
    std::string address; ///< "v4l2:/dev/video0", for open_camera
    std::string name;    ///< for people
};

/// A way to cameras. All of them are in camera_makers().
struct CameraMaker
{
    const char* name; ///< before the colon of an address
    std::vector<FoundCamera> (*found)();
    std::unique_ptr<Camera> (*open)(const std::string& rest);
};
std::vector<CameraMaker> camera_makers();

/// Those that are there now, the simulated one last. Takes a second where there are cables to look through.
std::vector<FoundCamera> found_cameras();
/// address: "simulated", "v4l2:DEVICE", "gphoto2:PORT". Throws Failure.
std::unique_ptr<Camera> open_camera(const std::string& address);

/// The settings that the camera changes by itself, so that photos differ that should not.
std::vector<CameraSetting> automatic_settings(const std::vector<CameraSetting>& settings);
/// Makes all of them manual, at what they are now. Throws Failure.
void lock_all(Camera& camera);

/// "1/60 s", "3200 K", "auto".
std::string setting_text(const CameraSetting& setting);

/// That the camera does not answer any more.
[[noreturn]] void camera_gone(const std::string& name, const std::string& why);

}
