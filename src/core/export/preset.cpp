#include "core/export/preset.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <vector>

namespace frenlo {

namespace {

std::string lower_ending(const std::filesystem::path& file)
{
    std::string e = file.extension().native();
    std::transform(e.begin(), e.end(), e.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return e;
}

std::vector<Preset> made()
{
    // Sizes and rates of loops and of the upright picture: common practice, no source.
    std::vector<Preset> p;
    const auto add = [&](const char* name, const char* title, MediaFormat format, int long_side) -> Preset& {
        Preset preset;
        preset.name = name;
        preset.title = title;
        preset.format = format;
        preset.long_side = long_side;
        return p.emplace_back(preset);
    };
    add("film", "Film, 1920 pixels", MediaFormat::film_h264, 1920);
    add("film-4k", "Film, 3840 pixels", MediaFormat::film_h264, 3840);
    add("film-small", "Film, 1280 pixels", MediaFormat::film_h264, 1280).quality = 70;
    Preset& upright = add("film-upright", "Film, upright 1080 × 1350, 30 fps", MediaFormat::film_h264, 0);
    upright.size = cv::Size(1080, 1350);
    upright.fit = Fit::fill;
    upright.rate = Rate(30);
    add("loop", "Loop, 1000 pixels", MediaFormat::loop_gif, 1000);
    add("loop-small", "Loop, 600 pixels, 128 colours", MediaFormat::loop_gif, 600).colours = 128;
    add("stills-png", "Numbered stills, PNG", MediaFormat::stills_png, 0);
    add("stills-png16", "Numbered stills, PNG 16 bit", MediaFormat::stills_png, 0).depth = Depth::sixteen;
    add("stills-jpeg", "Numbered stills, JPEG", MediaFormat::stills_jpeg, 0).quality = 95;
    return p;
}

}

std::span<const Preset> presets()
{
    static const std::vector<Preset> all = made();
    return all;
}

const Preset* find_preset(std::string_view name)
{
    const auto all = presets();
    const auto it = std::find_if(all.begin(), all.end(), [&](const Preset& p) { return p.name == name; });
    return it == all.end() ? nullptr : &*it;
}

bool ending_fits(MediaFormat format, const std::filesystem::path& file)
{
    const std::string e = lower_ending(file);
    return e == ending_of(format) || (format == MediaFormat::stills_jpeg && e == ".jpeg");
}

const Preset* preset_for_ending(const std::filesystem::path& file)
{
    const auto all = presets();
    const auto it = std::find_if(all.begin(), all.end(), [&](const Preset& p) { return ending_fits(p.format, file); });
    return it == all.end() ? nullptr : &*it;
}

std::string_view ending_of(MediaFormat format)
{
    switch (format) {
    case MediaFormat::film_h264:
        return ".mp4";
    case MediaFormat::loop_gif:
        return ".gif";
    case MediaFormat::stills_png:
        return ".png";
    case MediaFormat::stills_jpeg:
        return ".jpg";
    }
    return {};
}

bool writes_stills(MediaFormat format)
{
    return format == MediaFormat::stills_png || format == MediaFormat::stills_jpeg;
}

int crf_for_quality(int quality)
{
    return std::clamp(18 + static_cast<int>(std::lround((80 - quality) / 3.0)), 8, 44);
}

}
