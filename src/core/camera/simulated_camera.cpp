#include "core/camera/simulated_camera.h"

#include "core/source/transfer.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <numbers>
#include <sstream>
#include <thread>

namespace frenlo {

namespace {

constexpr double lamp_kelvin = 3200;
constexpr double sharp_at = 0.55;          ///< the focus of the figure
constexpr double mains = 100;              ///< a lamp's light goes up and down twice a cycle of 50 Hz
constexpr double usual_seconds = 1.0 / 50; ///< at which, with gain 2, the scene is exposed rightly
constexpr double light_full = 65535.0 / 2; ///< the 16-bit number of light 1
constexpr double live_rate = 30;
constexpr int sigma = 1024;

/// Red and blue of a black body against its green, near enough for a lamp: the chromaticities of Kim and others (2002)
/// are steeper by some percent (from memory).
cv::Vec3d lamp_colour(double kelvin)
{
    const double t = kelvin / 6500;
    return {std::pow(t, 1.25), 1, std::pow(t, -0.75)};
}

double coded(double v)
{
    return encoded_of(std::clamp(v, 0.0, 1.0));
}

double slope_of_code(double v)
{
    v = std::clamp(v, 0.0, 1.0);
    return v <= 0.0031308 ? 12.92 : 1.055 / 2.4 * std::pow(v, 1 / 2.4 - 1);
}

}

SimulatedCamera::SimulatedCamera(const SimulatedCameraWays& ways) : ways_(ways), random_(ways.seed)
{
    std::normal_distribution<double> normal;
    noise_.resize(1U << 18U);
    for (auto& n : noise_)
        n = std::int16_t(std::clamp(std::lround(normal(random_) * sigma), -5L * sigma, 5L * sigma));
    drifted_at_ = now();
    if (ways_.walks)
        pose_ = walking_pose(0);
}

double SimulatedCamera::now() const
{
    if (ways_.seconds)
        return ways_.seconds();
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

Pose SimulatedCamera::pose() const
{
    const std::lock_guard lock(pose_mutex_);
    return pose_;
}

void SimulatedCamera::set_pose(const Pose& pose)
{
    const std::lock_guard lock(pose_mutex_);
    pose_ = pose;
}

bool SimulatedCamera::pull(cv::Point2d from, cv::Point2d to)
{
    const double wide = double(ways_.live.width) / ways_.live.height;
    const cv::Point2d begin(from.x * wide, from.y), end(to.x * wide, to.y);
    const std::lock_guard lock(pose_mutex_);
    if (from == to || !held_ || held_at_ != begin) // taken hold of anew
        held_ = part_at(pose_, begin);
    if (!held_)
        return false;
    if (*held_ == Pose::body)
        pose_ = pulled(pose_, Pose::body, pose_.hips + (end - begin));
    else if (from != to)
        pose_ = pulled(pose_, *held_, end);
    held_at_ = end;
    return true;
}

std::vector<CameraSetting> SimulatedCamera::settings()
{
    drift();
    return {
        {"exposure",
         "Shutter time",
         SettingKind::exposure,
         exposure_.value,
         1.0 / 1000,
         0.5,
         0,
         "s",
         {},
         exposure_.automatic},
        {"gain", "Gain", SettingKind::gain, gain_.value, 1, 16, 0.1, "", {}, gain_.automatic},
        {"white-balance",
         "White balance",
         SettingKind::white_balance,
         balance_.value,
         2500,
         9000,
         50,
         "K",
         {},
         balance_.automatic},
        {"focus", "Focus", SettingKind::focus, focus_.value, 0, 1, 0.01, "", {}, focus_.automatic},
    };
}

void SimulatedCamera::set(const std::string& key, double value)
{
    drift();
    for (const CameraSetting& s : settings())
        if (s.key == key) {
            Knob& knob = key == "exposure" ? exposure_ : key == "gain" ? gain_ : key == "focus" ? focus_ : balance_;
            knob = {std::clamp(value, s.least, s.most), false};
            return;
        }
    throw Failure({"the simulated camera has no setting “" + key + "”", {}, ""});
}

void SimulatedCamera::set_automatic(const std::string& key, bool on)
{
    drift();
    for (const auto& [name, knob] : std::initializer_list<std::pair<const char*, Knob*>>{
             {"exposure", &exposure_}, {"gain", &gain_}, {"white-balance", &balance_}, {"focus", &focus_}})
        if (key == name) {
            knob->automatic = on;
            return;
        }
    throw Failure({"the simulated camera has no setting “" + key + "”", {}, ""});
}

/// What is automatic wanders about what would be right, as a meter does that sees more than the figure.
void SimulatedCamera::drift()
{
    const double t = now();
    const double passed = std::min(1.0, t - drifted_at_);
    if (passed < 0.02)
        return;
    drifted_at_ = t;
    std::normal_distribution<double> normal;
    const auto wander = [&](Knob& knob, double right, double spread, double least, double most) {
        if (!knob.automatic)
            return;
        knob.value += (right - knob.value) * (1 - std::exp(-passed / 2)) + normal(random_) * spread * std::sqrt(passed);
        knob.value = std::clamp(knob.value, least, most);
    };
    wander(exposure_, usual_seconds * 1.1, usual_seconds * 0.10, 1.0 / 1000, 0.5);
    wander(gain_, 2, 0.12, 1, 16);
    wander(balance_, lamp_kelvin * 1.03, 90, 2500, 9000);
    wander(focus_, sharp_at, 0.01, 0, 1);
}

const cv::Mat& SimulatedCamera::through_lens(Seen& seen, cv::Size size)
{
    const Pose pose = this->pose();
    const double focus = std::round(focus_.value * 200) / 200;
    if (seen.light.empty() || !(seen.pose == pose) || seen.focus != focus) {
        cv::Mat scene = draw_scene(pose, size);
        const double blur = std::abs(focus - sharp_at) * 0.03 * size.height;
        if (blur > 0.3)
            cv::GaussianBlur(scene, scene, {}, blur);
        scene.convertTo(seen.light, CV_16U, light_full);
        seen.pose = pose;
        seen.focus = focus;
    }
    return seen.light;
}

cv::Vec3d SimulatedCamera::gains() const
{
    // The lamp goes on shining while the shutter is open: what the mean of a sine over that time leaves.
    const double open = exposure_.value;
    const double half = std::numbers::pi * mains * open;
    const double left = half > 0 ? std::sin(half) / half : 1;
    const double lamp = 1 + ways_.lamp_share * left * std::sin(2 * std::numbers::pi * mains * (now() + open / 2));
    const double exposed = open / usual_seconds * gain_.value / 2 * lamp;
    const cv::Vec3d lit = lamp_colour(lamp_kelvin), set = lamp_colour(balance_.value);
    return {exposed * lit[0] / set[0], exposed, exposed * lit[2] / set[2]};
}

cv::Mat SimulatedCamera::expose(const cv::Mat& light)
{
    constexpr int levels = 4096, fine = 256; // of the light's 16 bits; of a code
    struct Level
    {
        int code;   ///< times fine
        int spread; ///< of one sigma, in the same
    };
    const cv::Vec3d gain = gains();
    std::array<std::vector<Level>, 3> tables;
    for (int c = 0; c < 3; ++c) {
        tables[std::size_t(c)].resize(levels);
        for (int i = 0; i < levels; ++i) {
            const double v = (i + 0.5) * 16 / light_full * gain[c];
            const double noise = std::sqrt(ways_.read_noise * ways_.read_noise * gain_.value * gain_.value / 4 +
                                           ways_.shot_noise * std::min(v, 1.0) * gain_.value);
            tables[std::size_t(c)][std::size_t(i)] = {int(std::lround(coded(v) * 255 * fine)),
                                                      v >= 1 ? 0
                                                             : int(std::lround(noise * slope_of_code(v) * 255 * fine))};
        }
    }
    cv::Mat picture(light.size(), CV_8UC3);
    const auto mask = std::uint32_t(noise_.size() - 1);
    for (int y = 0; y < light.rows; ++y) {
        auto at = std::uint32_t(random_()) & mask;
        const auto* from = light.ptr<std::uint16_t>(y);
        auto* to = picture.ptr<std::uint8_t>(y);
        for (int i = 0; i < light.cols * 3; i += 3)
            for (int c = 0; c < 3; ++c) {
                const Level& level = tables[std::size_t(c)][from[i + c] >> 4U];
                const int code = level.code + level.spread * int(noise_[at++ & mask]) / sigma;
                to[i + c] = std::uint8_t(std::clamp((code + fine / 2) / fine, 0, 255));
            }
    }
    return picture;
}

cv::Mat SimulatedCamera::live(std::chrono::milliseconds patience)
{
    const double due = last_live_ + 1 / live_rate;
    if (!ways_.seconds && last_live_ >= 0) {
        const double wait = std::min(due - now(), double(patience.count()) / 1000);
        if (wait > 0)
            std::this_thread::sleep_for(std::chrono::duration<double>(wait));
        if (now() < due - 0.001)
            return {};
    }
    last_live_ = std::max(due, now() - 1 / live_rate);
    drift();
    return expose(through_lens(live_, ways_.live));
}

TakenPicture SimulatedCamera::take()
{
    drift();
    TakenPicture t;
    t.pixels = expose(through_lens(still_, ways_.still));
    t.exposure.seconds = Fraction(std::max<std::int64_t>(1, std::lround(exposure_.value * 1e6)), 1'000'000);
    t.exposure.iso = int(std::lround(gain_.value * 100));
    ++taken_;
    if (ways_.walks)
        set_pose(walking_pose(taken_));
    return t;
}

cv::Mat SimulatedCamera::without_noise()
{
    const cv::Vec3d gain = gains();
    const cv::Mat& light = through_lens(still_, ways_.still);
    cv::Mat codes(light.size(), CV_32FC3);
    for (int y = 0; y < light.rows; ++y)
        for (int x = 0; x < light.cols; ++x)
            for (int c = 0; c < 3; ++c) {
                const int level = light.at<cv::Vec3w>(y, x)[c] >> 4U;
                codes.at<cv::Vec3f>(y, x)[c] = float(coded((level + 0.5) * 16 / light_full * gain[c]) * 255);
            }
    return codes;
}

std::vector<FoundCamera> found_simulated_cameras()
{
    return {{"simulated", "Simulated camera"}};
}

std::unique_ptr<Camera> open_simulated_camera(const std::string& rest)
{
    SimulatedCameraWays ways;
    std::istringstream words(rest);
    for (std::string word; std::getline(words, word, ',');) {
        int wide = 0, high = 0;
        if (word == "walking") {
            ways.walks = true;
        } else if (std::sscanf(word.c_str(), "%dx%d", &wide, &high) == 2 && wide >= 64 && wide <= 8192 && high >= 64 &&
                   high <= 8192) {
            ways.still = {wide, high};
            const double smaller = std::min(1.0, 1280.0 / wide);
            ways.live = {int(std::lround(wide * smaller)), int(std::lround(high * smaller))};
        } else {
            throw Failure({"the simulated camera knows no “" + word + "”", {}, "It may be told walking, or a size"});
        }
    }
    return std::make_unique<SimulatedCamera>(ways);
}

}
