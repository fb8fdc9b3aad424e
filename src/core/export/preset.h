#pragma once
#include "core/picture/picture.h"
#include "core/time/rate.h"

#include <filesystem>
#include <optional>
#include <span>
#include <string>
#include <string_view>

namespace frenlo {

enum class MediaFormat
{
    film_h264,
    loop_gif,
    stills_png,
    stills_jpeg
};

enum class Palette
{
    one_for_all, ///< steadier colours, smaller file
    each_picture ///< truer colours where they change a lot
};

/// One thing that can be written, with all its settings. Fields that a format has no use for are ignored.
struct Preset
{
    std::string name;  ///< on the command line: "film"
    std::string title; ///< for people: "Film, 1920 wide"
    MediaFormat format = MediaFormat::film_h264;
    int long_side = 0;            ///< of the film's frame; 0: as large as the photos
    std::optional<cv::Size> size; ///< exactly this, instead of the photos' shape
    Fit fit = Fit::inside;
    std::optional<Rate> rate;               ///< instead of the project's
    int quality = 80;                       ///< 1 to 100
    int colours = 256;                      ///< GIF: 4 to 256
    bool dither = true;                     ///< GIF
    Palette palette = Palette::one_for_all; ///< GIF
    Depth depth = Depth::eight;             ///< PNG
};

std::span<const Preset> presets();
const Preset* find_preset(std::string_view name);

/// The first preset that writes files of this ending (".mp4", ".gif", ".png", ".jpg"); none for others.
const Preset* preset_for_ending(const std::filesystem::path& file);

/// ".mp4".
std::string_view ending_of(MediaFormat format);
bool writes_stills(MediaFormat format);
/// Whether the ending is one that this format writes.
bool ending_fits(MediaFormat format, const std::filesystem::path& file);

/// x264's constant rate factor for a quality of 1 to 100: 80 is 18 ("visually the same", common practice, no source),
/// three points of quality are one of CRF.
int crf_for_quality(int quality);

}
