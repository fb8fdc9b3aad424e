#pragma once
#include "core/base/fields.h"
#include "core/base/opencv_values.h"
#include "core/picture/frame_request.h"
#include "core/time/rate.h"

#include <filesystem>
#include <optional>
#include <span>
#include <string>
#include <string_view>

namespace frenlo {

enum class Palette
{
    one_for_all, ///< steadier colours, smaller file
    each_picture ///< truer colours where they change a lot
};

/// One thing that can be written, with all its settings. Fields that a format has no use for are ignored.
struct Preset
{
    std::string name;                ///< on the command line: "film"
    std::string title;               ///< for people: "Film, 1920 wide"
    std::string format = "h264-mp4"; ///< key of a Format (format.h)
    int long_side = 0;               ///< of the film's frame; 0: as large as the photos
    std::optional<cv::Size> size;    ///< exactly this, instead of the photos' shape
    Fit fit = Fit::inside;
    std::optional<Rate> rate;                 ///< instead of the project's
    int quality = 80;                         ///< 1 to 100
    int colours = 256;                        ///< GIF: 4 to 256
    bool dither = true;                       ///< GIF
    Palette palette = Palette::one_for_all;   ///< GIF
    Depth depth = Depth::eight;               ///< PNG
    std::optional<std::int64_t> most_bytes{}; ///< the file is made smaller until it is not larger; not of stills
    std::optional<Seconds> least_length{};    ///< what is shorter or longer is told, since it will be refused
    std::optional<Seconds> longest_length{};
    bool operator==(const Preset&) const = default;
};

std::span<const Preset> presets();
const Preset* find_preset(std::string_view name);

/// The first preset that writes files of this ending (".mp4", ".gif", ".png", ".jpg"); none for others.
const Preset* preset_for_ending(const std::filesystem::path& file);

/// x264's constant rate factor for a quality of 1 to 100: 80 is 18 ("visually the same", common practice, no source),
/// three points of quality are one of CRF.
double crf_for_quality(int quality);

template <>
struct Words<Fit>
{
    static constexpr std::array<std::string_view, 2> words{"inside", "fill"};
};
template <>
struct Words<Depth>
{
    static constexpr std::array<std::string_view, 2> words{"8", "16"};
};
template <>
struct Words<Palette>
{
    static constexpr std::array<std::string_view, 2> words{"one", "picture"};
};
template <>
struct Fields<Preset>
{
    static constexpr FieldTable table{
        required("name", &Preset::name, "On the command line"),
        field("title", &Preset::title, "For people"),
        field("format", &Preset::format, "What is written"),
        field("long_side", &Preset::long_side, "Pixels; 0: as large as the photos", {0, 65'535}),
        field("size", &Preset::size, "Width and height in pixels, instead; 0: what follows from the other",
              {0, 65'535}),
        field("fit", &Preset::fit, "How photos meet a frame of another shape"),
        field("rate", &Preset::rate, "Instead of the project's"),
        field("quality", &Preset::quality, "", {1, 100}),
        field("colours", &Preset::colours, "Of a palette", {4, 256}),
        field("dither", &Preset::dither, ""),
        field("palette", &Preset::palette, "One for all pictures, or one for each"),
        field("depth", &Preset::depth, "Bits a channel"),
        field("most_bytes", &Preset::most_bytes, "Quality, colours and side are lowered until the file is not larger",
              {1'000, 1e12}),
        field("least_length_s", &Preset::least_length, "A shorter film will be refused where it goes to"),
        field("longest_length_s", &Preset::longest_length, "And a longer one"),
    };
};

}
