#include "core/export/preset.h"

#include "core/export/format.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace frenlo {

namespace {

std::vector<Preset> made()
{
    // Sizes and rates of loops and of the upright picture: common practice, no source.
    std::vector<Preset> p;
    const auto add = [&](const char* name, const char* title, const char* format, int long_side) -> Preset& {
        Preset preset;
        preset.name = name;
        preset.title = title;
        preset.format = format;
        preset.long_side = long_side;
        return p.emplace_back(preset);
    };
    add("film", "Film, 1920 pixels", "h264-mp4", 1920);
    add("film-4k", "Film, 3840 pixels", "h264-mp4", 3840);
    add("film-small", "Film, 1280 pixels", "h264-mp4", 1280).quality = 70;
    Preset& upright = add("film-upright", "Film, upright 1080 × 1350, 30 fps", "h264-mp4", 0);
    upright.size = cv::Size(1080, 1350);
    upright.fit = Fit::fill;
    upright.rate = Rate(30);
    add("film-mov", "Film in MOV, 1920 pixels", "h264-mov", 1920);
    add("film-h265", "Film, H.265, 1920 pixels", "h265-mp4", 1920);
    add("film-h265-mov", "Film in MOV, H.265, 1920 pixels", "h265-mov", 1920);
    add("film-h265-10", "Film, H.265, 10 bit, 3840 pixels", "h265-mp4", 3840).depth = Depth::sixteen;
    add("film-vp9", "Film for web pages, VP9, transparent where it is", "vp9-webm", 1920);
    add("film-av1", "Film for web pages, AV1, smaller and slower", "av1-webm", 1920);
    add("edit", "For editing: RDD 36, 10 bit", "rdd36-mov", 0).depth = Depth::sixteen;
    add("edit-vc3", "For editing: VC-3, 10 bit", "vc3-mov", 0).depth = Depth::sixteen;
    add("edit-lossless", "For editing: lossless, FFV1", "ffv1-mkv", 0);
    add("edit-lossless16", "For editing: lossless, FFV1, 16 bit", "ffv1-mkv", 0).depth = Depth::sixteen;
    add("edit-mjpeg", "For editing: Motion JPEG in AVI", "mjpeg-avi", 0).quality = 95;
    add("edit-raw", "Uncompressed, AVI", "raw-avi", 0);
    add("edit-raw-mov", "Uncompressed, MOV", "raw-mov", 0);
    add("loop", "Loop, 1000 pixels", "gif", 1000);
    add("loop-small", "Loop, 600 pixels, 128 colours", "gif", 600).colours = 128;
    add("loop-webp", "Loop, WebP, 1000 pixels", "webp", 1000).quality = 75;
    add("loop-webp-lossless", "Loop, WebP, lossless", "webp-lossless", 1000);
    add("loop-avif", "Loop, AVIF, 1000 pixels, smallest", "avif", 1000).quality = 88;
    add("loop-png", "Loop, PNG, every colour", "apng", 1000);
    add("stills-png", "Numbered stills, PNG", "png", 0);
    add("stills-png16", "Numbered stills, PNG 16 bit", "png", 0).depth = Depth::sixteen;
    add("stills-tiff", "Numbered stills, TIFF 16 bit", "tiff", 0).depth = Depth::sixteen;
    add("stills-jpeg", "Numbered stills, JPEG", "jpeg", 0).quality = 95;
    add("stills-exr", "Numbered stills, OpenEXR, linear light", "exr", 0).depth = Depth::sixteen;
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

const Preset* preset_for_ending(const std::filesystem::path& file)
{
    const auto all = presets();
    const auto it = std::find_if(all.begin(), all.end(), [&](const Preset& p) { return format_of(p).fits(file); });
    return it == all.end() ? nullptr : &*it;
}

double crf_for_quality(int quality)
{
    return std::clamp(18 + (80 - quality) / 3.0, 8.0, 44.0);
}

}
