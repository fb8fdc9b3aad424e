#pragma once
// The made-up camera: turns a scene into a JPEG with Exif, and remembers what it did to it.
#include "core/source/lens.h"
#include "demo/paint.h"

#include <opencv2/core/matx.hpp>

#include <cstdint>
#include <filesystem>
#include <string>

namespace frenlo::demo {

/// Scenes are larger than photos by this margin on every side, so that a moved camera still sees something.
inline constexpr int margin = 48;

/// What is true of one photo. Coordinates as in reports: the matrix maps the first photo's pixels to this photo's.
struct Truth
{
    std::string file;
    double shift_x = 0, shift_y = 0; ///< pixels
    double turn_degrees = 0;         ///< about the centre, clockwise as seen
    double gain_stops = 0;           ///< brightness added by the camera, not by the scene
    double scene_stops = 0;          ///< brightness of the scene's light
    Lens lens{};                     ///< what it did to straight lines; the rest is of the photo without
    [[nodiscard]] cv::Matx33d matrix() const;
};

struct Exposure
{
    std::int64_t captured_us = 0; ///< since 1970, camera clock
    int shutter_denominator = 60; ///< 1/60 s
    int f_tenths = 80;            ///< f/8.0
    int iso = 200;
};

/// Writes a picture as this camera does: JPEG with Exif and thumbnail.
void write_photo(const cv::Mat3b& picture, const Exposure& exposure, const std::filesystem::path& file);

/// Takes the photo: moves and turns the camera, applies both brightnesses, adds sensor noise, writes the JPEG.
void take(const Scene& scene, const Truth& truth, const Exposure& exposure, std::uint64_t noise_seed,
          const std::filesystem::path& file);

}
