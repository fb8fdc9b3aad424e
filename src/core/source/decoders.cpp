#include "core/source/decoders.h"

#include <algorithm>

namespace frenlo {

std::span<const Decoder> decoders()
{
    static const std::vector<Decoder> all{jpeg_decoder(), png_decoder(), tiff_decoder(), webp_decoder()};
    return all;
}

const Decoder* decoder_of(PhotoFormat format)
{
    const auto all = decoders();
    const auto found = std::find_if(all.begin(), all.end(), [&](const Decoder& d) { return d.format == format; });
    return found == all.end() ? nullptr : &*found;
}

const Decoder* decoder_for(std::string_view first)
{
    const auto all = decoders();
    const auto found = std::find_if(all.begin(), all.end(), [&](const Decoder& d) { return d.knows(first); });
    return found == all.end() ? nullptr : &*found;
}

std::optional<PhotoFormat> sniff(std::string_view first_bytes)
{
    const Decoder* decoder = decoder_for(first_bytes);
    return decoder ? std::optional(decoder->format) : std::nullopt;
}

bool has_photo_extension(const std::filesystem::path& file)
{
    std::string e = file.extension().native();
    std::transform(e.begin(), e.end(), e.begin(), [](unsigned char c) { return std::tolower(c); });
    const auto all = decoders();
    return std::any_of(all.begin(), all.end(), [&](const Decoder& d) {
        return std::find(d.endings.begin(), d.endings.end(), e) != d.endings.end();
    });
}

std::string readable_formats()
{
    std::string text;
    const auto all = decoders();
    for (std::size_t i = 0; i < all.size(); ++i)
        text += std::string(i == 0 ? "" : i + 1 == all.size() ? " and " : ", ") + std::string(all[i].name);
    return text;
}

}
