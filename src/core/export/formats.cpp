#include "core/export/format.h"

#include <algorithm>
#include <cctype>

namespace frenlo {

std::span<const Format> formats()
{
    static const std::vector<Format> all{
        h264_in_mp4(),      h264_in_mov(),  h265_in_mp4(), h265_in_mov(),        vp9_in_webm(),  av1_in_webm(),
        ffv1_in_matroska(), rdd36_in_mov(), vc3_in_mov(),  motion_jpeg_in_avi(), plain_in_avi(), plain_in_mov(),
        animated_gif(),     png_loop(),     webp_loop(),   webp_loop_lossless(), avif_loop(),    png_stills(),
        tiff_stills(),      jpeg_stills(),  exr_stills()};
    return all;
}

const Format& format_of(const Preset& preset)
{
    for (const Format& f : formats())
        if (f.key == preset.format)
            return f;
    throw Failure({"this version of Frenlo cannot write \"" + preset.format + "\"", {}, "Choose another preset"});
}

bool Format::fits(const std::filesystem::path& file) const
{
    std::string e = file.extension().native();
    std::transform(e.begin(), e.end(), e.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return std::find(endings.begin(), endings.end(), e) != endings.end();
}

}
