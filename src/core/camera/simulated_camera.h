#pragma once
#include "core/camera/camera.h"
#include "core/camera/simulated_scene.h"

#include <functional>
#include <mutex>
#include <random>

namespace frenlo {

/// What a simulated camera may be given in place of the usual.
struct SimulatedCameraWays
{
    cv::Size live{1280, 720};
    cv::Size still{1920, 1080};
    bool walks = false;       ///< the figure goes on by itself with each photo
    unsigned seed = 1;        ///< of the noise and of what drifts
    double lamp_share = 0.18; ///< how much the lamp's light goes up and down with the mains, 0 to 1
    double read_noise = 0.004;
    double shot_noise = 0.0009; ///< its variance at light 1 and gain 1
    /// Seconds that only go on; empty: the machine's.
    std::function<double()> seconds{};
};

/// A camera before a small scene with a figure that can be moved. It has what real ones have: an exposure that the
/// lamp's mains flicker shows in unless it is a multiple of 1/100 s, gain with its noise, a focus, a white balance, and
/// automatic modes of all of them that drift until they are switched off. It starts with all of them automatic.
class SimulatedCamera : public Camera
{
public:
    explicit SimulatedCamera(const SimulatedCameraWays& ways = {});

    [[nodiscard]] std::string name() const override { return "Simulated camera"; }
    [[nodiscard]] std::vector<CameraSetting> settings() override;
    void set(const std::string& key, double value) override;
    void set_automatic(const std::string& key, bool on) override;
    [[nodiscard]] cv::Mat live(std::chrono::milliseconds patience) override;
    [[nodiscard]] TakenPicture take() override;
    bool pull(cv::Point2d from, cv::Point2d to) override;

    [[nodiscard]] Pose pose() const;
    void set_pose(const Pose& pose);
    /// The still that it would take of the scene, without noise and without rounding: codes of sRGB, 0 to 255.
    [[nodiscard]] cv::Mat without_noise();

private:
    /// A setting that the camera may set itself.
    struct Knob
    {
        double value;
        bool automatic = true;
    };
    struct Seen ///< the scene through the lens, kept while nothing moves
    {
        Pose pose;
        double focus = 0;
        cv::Mat light; ///< linear, 16 bit, 65535 is 2
    };
    [[nodiscard]] double now() const;
    void drift();
    [[nodiscard]] const cv::Mat& through_lens(Seen& seen, cv::Size size);
    /// How much light of each of B G R reaches the sensor, against its white.
    [[nodiscard]] cv::Vec3d gains() const;
    [[nodiscard]] cv::Mat expose(const cv::Mat& light);

    SimulatedCameraWays ways_;
    mutable std::mutex pose_mutex_;
    Pose pose_;
    std::optional<Pose::Joint> held_; ///< the part that is being pulled
    cv::Point2d held_at_;
    Knob exposure_{0.022}, gain_{2.2}, balance_{3600}, focus_{0.6};
    Seen live_, still_;
    std::mt19937 random_;
    std::vector<std::int16_t> noise_; ///< normal, 1024 is one sigma
    double drifted_at_ = 0;
    double last_live_ = -1;
    int taken_ = 0;
};

std::vector<FoundCamera> found_simulated_cameras();
/// rest: empty, "walking", or a size of its stills: "1280x720"; several apart by commas.
std::unique_ptr<Camera> open_simulated_camera(const std::string& rest);

}
