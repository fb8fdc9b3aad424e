#include "core/source/decoders.h"

#include "core/base/input_file.h"

#include <algorithm>

namespace frenlo {

std::span<const Decoder> decoders()
{
    static const std::vector<Decoder> all{jpeg_decoder(), apng_decoder(), png_decoder(), tiff_decoder(), webp_decoder(),
                                          raw_decoder(),  heif_decoder(), jxl_decoder(), exr_decoder(),  pnm_decoder(),
                                          svg_decoder(),  gif_decoder(),  clip_decoder()};
    return all;
}

const Decoder* decoder_of(PhotoFormat format)
{
    const auto all = decoders();
    const auto found = std::find_if(all.begin(), all.end(), [&](const Decoder& d) { return d.format == format; });
    return found == all.end() ? nullptr : &*found;
}

namespace {

std::string ending_of(const std::filesystem::path& file)
{
    std::string e = file.extension().native();
    std::transform(e.begin(), e.end(), e.begin(), [](unsigned char c) { return std::tolower(c); });
    return e;
}

bool ends_so(const Decoder& d, const std::string& ending)
{
    return std::find(d.endings.begin(), d.endings.end(), ending) != d.endings.end();
}

}

const Decoder* decoder_for(std::string_view first, const std::filesystem::path& file)
{
    const std::string ending = ending_of(file);
    const Decoder* found = nullptr;
    for (const Decoder& d : decoders())
        if (d.knows(first) && (!found || (ends_so(d, ending) && !ends_so(*found, ending))))
            found = &d;
    return found;
}

std::string whole_file(const std::filesystem::path& file, std::size_t most)
{
    InputFile in(file);
    std::string bytes(std::min<std::uintmax_t>(in.stamp().bytes, most), 0);
    bytes.resize(in.read(bytes.data(), bytes.size()));
    return bytes;
}

std::optional<PhotoFormat> sniff(std::string_view first_bytes)
{
    const Decoder* decoder = decoder_for(first_bytes);
    return decoder ? std::optional(decoder->format) : std::nullopt;
}

bool has_photo_extension(const std::filesystem::path& file)
{
    const auto all = decoders();
    return std::any_of(all.begin(), all.end(),
                       [ending = ending_of(file)](const Decoder& d) { return ends_so(d, ending); });
}

bool named_as_clip(const std::filesystem::path& file)
{
    const auto all = decoders();
    return std::any_of(all.begin(), all.end(),
                       [ending = ending_of(file)](const Decoder& d) { return d.apart && ends_so(d, ending); });
}

std::vector<std::string_view> photo_extensions()
{
    std::vector<std::string_view> all;
    for (const Decoder& d : decoders())
        for (const std::string_view ending : d.endings)
            if (std::find(all.begin(), all.end(), ending) == all.end())
                all.push_back(ending);
    return all;
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
