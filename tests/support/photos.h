#pragma once
// Small photos made for tests.
#include "core/photo/photo_file.h"

#include <opencv2/core/mat.hpp>

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

/// count photos "name_0001.jpg" and on, each different, of this size, a second apart.
void write_run(const std::filesystem::path& folder, const std::string& name, int count, cv::Size size = {96, 64});

/// The photo as a scan finds it.
PhotoPtr scanned(const std::filesystem::path& file);

/// What the command prints on standard output; its exit status goes to status. Throws where it cannot be started.
std::string output_of(const std::string& command, int* status = nullptr);
/// The text as one word of a shell command.
std::string quoted(const std::string& text);

}
