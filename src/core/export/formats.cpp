#include "core/export/format.h"

#include <algorithm>
#include <cctype>

namespace frenlo {

std::span<const Format> formats()
{
    static const std::vector<Format> all{h264_in_mp4(), animated_gif(), png_stills(), jpeg_stills()};
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
