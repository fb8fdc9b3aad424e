#pragma once
#include "core/base/job.h"
#include "core/camera/camera.h"
#include "core/steps/shoot/movement.h"
#include "core/steps/shoot/photo_folder.h"
#include "core/steps/shoot/series_clock.h"

#include <vector>

namespace frenlo {

enum class TakenFormat
{
    png, ///< without loss
    jpeg ///< smaller; what the camera gives as a file stays as it is
};

/// What one photo is to be.
struct TakeOrder
{
    std::int64_t averaged = 1;     ///< so many pictures, their mean is kept
    std::vector<double> bracket{}; ///< stops, each a version of its own; empty: one photo as the camera is set
    bool trial = false;            ///< not for the film: its name says so
    TakenFormat format = TakenFormat::png;
    bool operator==(const TakeOrder&) const = default;
};

/// A photo that was taken and is safe.
struct TakenPhoto
{
    PhotoPtr photo;
    TakenHere how{};
    std::vector<std::pair<PhotoPtr, TakenHere>> versions{}; ///< the other exposures of a bracket
    cv::Mat pixels{};                                       ///< as it is seen, 8 bit, to be shown at once
    double asked_at = 0;                                    ///< on the steady clock
    double safe_after = 0;                                  ///< seconds from being asked until it was on disk
    std::uintmax_t bytes = 0;
    std::vector<std::string> remarks{}; ///< for people: that it is black, that its size is another
};

/// Takes photos with a camera into a folder.
class PhotoTaker
{
public:
    /// All outlive it.
    PhotoTaker(Camera& camera, PhotoFolder& folder, const SeriesClock& clock);

    /// Takes one: it is on disk with its Exif, whole and durable, before this returns. Throws Failure; then nothing
    /// was kept of it. Throws Stopped between the pictures of an average.
    TakenPhoto take(const TakeOrder& order, const Job& job);
    /// The photo that the next one is compared with: where others were taken before.
    void compare_with(const cv::Mat& pixels);
    void use(Camera& camera) { camera_ = &camera; }

    [[nodiscard]] const SpaceWatch& space() const { return space_; }
    [[nodiscard]] TwoClocks& clocks() { return clocks_; }

private:
    struct Exposed
    {
        TakenPicture picture;
        TakenHere how;
        cv::Mat seen;
        CaptureTime at;
    };
    [[nodiscard]] Exposed expose(const TakeOrder& order, const Job& job);
    PhotoPtr keep(const Exposed& exposed, const TakeOrder& order, const std::string& tail, TakenPhoto& result);
    void compare(const cv::Mat& seen, TakenPhoto& result);
    void refuse_when_full() const;

    Camera* camera_;
    PhotoFolder& folder_;
    const SeriesClock& clock_;
    TwoClocks clocks_;
    SpaceWatch space_;
    SmallPhoto before_;
    cv::Size size_;
    std::uintmax_t last_bytes_ = 0;
};

/// Sets the exposure so many stops from where it was set; manual from then on. Throws Failure where the camera has no
/// shutter time that can be set.
class ExposureSteps
{
public:
    explicit ExposureSteps(Camera& camera);
    void set(double stops);
    /// As it was. Throws Failure.
    void set_back();
    /// Where something failed before: what did is told already.
    ~ExposureSteps();
    ExposureSteps(const ExposureSteps&) = delete;
    ExposureSteps& operator=(const ExposureSteps&) = delete;

private:
    Camera& camera_;
    CameraSetting setting_;
    bool set_ = false; ///< it is not as it was
};

/// "1/60", "0.5", "2\"" of a camera's list, in seconds; nothing for words.
std::optional<double> shutter_seconds(const std::string& text);

/// The bytes of a picture as a file, with what is known of it as Exif. Throws Failure.
std::string photo_bytes(const cv::Mat& pixels, TakenFormat format, const std::string& camera, CaptureTime at,
                        const Exposure& exposure);

}
