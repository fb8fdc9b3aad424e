#pragma once
// Small photos made for tests.
#include "core/source/photo_file.h"
#include "core/source/photo_source.h"
#include "core/steps/steady/alignment.h"

#include <opencv2/core/mat.hpp>

#include <array>
#include <filesystem>
#include <optional>
#include <string>
#include <string_view>

namespace frenlo::test {

/// A picture with structure that differs with seed: soft shapes in colour, 8 bit B G R.
cv::Mat painted(cv::Size size, int seed);

/// What goes into the Exif of a photo written for a test.
struct ExifWish
{
    std::string date_time; ///< "2026:05:03 10:42:11"
    std::string sub_seconds;
    int orientation = 1;
    bool thumbnail = false;
    std::string camera{};
};

/// Writes a JPEG, with Exif where wished.
void write_jpeg(const std::filesystem::path& file, const cv::Mat& pixels, const std::optional<ExifWish>& exif = {},
                int quality = 92);
/// Writes whatever the file's ending says, with OpenCV: PNG, TIFF or WebP of 8 or 16 bit.
void write_picture(const std::filesystem::path& file, const cv::Mat& pixels);
void write_bytes(const std::filesystem::path& file, std::string_view bytes);
std::string read_bytes(const std::filesystem::path& file);

/// Fine structure everywhere, of real photographic texture (Debian's opencv-doc): 1282 x 1110.
const cv::Mat& real_scene();
/// Shift, turn (degrees, clockwise as seen) and size about the middle of a photo of 900 x 600.
cv::Matx33d turned_by(double degrees, double size, cv::Point2d shift, cv::Point2d middle = {449.5, 299.5});
/// A photo of the scene's middle, taken by a camera that moved so: t takes points of the unmoved photo to this one.
cv::Mat photo_of_scene(const cv::Matx33d& t, cv::Size size = {900, 600});
cv::Mat with_noise(const cv::Mat& m, double sigma, std::uint64_t seed);
/// The largest shift of any of these pictures against the first, pixels: phase correlation (Foroosh, Zerubia, Berthod
/// 2002), a method that the project does not use itself.
double largest_shift(const std::vector<cv::Mat>& pictures);

/// The middle of the real scene in this light: stops of linear R, G, B.
cv::Mat in_light(const std::array<double, 3>& stops, cv::Size size = {480, 320});
cv::Mat in_light(double stops, cv::Size size = {480, 320});
/// When photos on ones at 24 fps are seen, seconds.
std::vector<double> seconds_of(std::size_t photos);

/// Photos that exist in memory only, named by their position; an empty one cannot be read.
class InMemory : public PhotoSource
{
public:
    explicit InMemory(std::vector<cv::Mat> pictures) : pictures_(std::move(pictures)) {}
    [[nodiscard]] Result<cv::Mat> pixels(const PhotoFile& photo, cv::Size, Damage) const override;
    /// exposures: the settings of each; none: unknown.
    [[nodiscard]] std::vector<SeenPhoto> photos(const std::vector<Exposure>& exposures = {}) const;

private:
    std::vector<cv::Mat> pictures_;
};

/// A source that has one picture for every photo, at full size.
class OnePicture : public PhotoSource
{
public:
    explicit OnePicture(cv::Mat picture) : picture_(std::move(picture)) {}
    [[nodiscard]] Result<cv::Mat> pixels(const PhotoFile&, cv::Size, Damage) const override { return picture_.clone(); }

private:
    cv::Mat picture_;
};

/// count photos "name_0001.jpg" and on, each different, of this size, a second apart.
void write_run(const std::filesystem::path& folder, const std::string& name, int count, cv::Size size = {96, 64});

/// The photo as a scan finds it.
PhotoPtr scanned(const std::filesystem::path& file);

/// What the command prints on standard output; its exit status goes to status. Throws where it cannot be started.
std::string output_of(const std::string& command, int* status = nullptr);
/// The text as one word of a shell command.
std::string quoted(const std::string& text);

}
