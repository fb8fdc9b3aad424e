#include "core/source/decoders.h"
#include "core/source/webp_animation.h"

#include <webp/decode.h>

namespace frenlo {

namespace {

Result<DecodedPhoto> decode_webp(std::string_view bytes, cv::Size, const std::filesystem::path& file)
{
    const auto* data = reinterpret_cast<const std::uint8_t*>(bytes.data());
    WebPDecoderConfig config;
    if (WebPInitDecoderConfig(&config) == 0)
        return unreadable("the WebP library does not fit", file);
    if (WebPGetFeatures(data, bytes.size(), &config.input) != VP8_STATUS_OK)
        return unreadable("its header is damaged", file);
    if (config.input.has_animation != 0)
        return first_of_webp_animation(bytes, file);
    const cv::Size size(config.input.width, config.input.height);
    if (auto too_large = size_problem(size, file))
        return tl::unexpected(std::move(*too_large));
    const bool alpha = config.input.has_alpha != 0;
    cv::Mat pixels(size, alpha ? CV_8UC4 : CV_8UC3);
    config.output.colorspace = alpha ? MODE_BGRA : MODE_BGR;
    config.output.is_external_memory = 1;
    config.output.u.RGBA = {pixels.data, static_cast<int>(pixels.step), pixels.step * std::size_t(size.height)};
    const VP8StatusCode status = WebPDecode(data, bytes.size(), &config);
    WebPFreeDecBuffer(&config.output);
    if (status == VP8_STATUS_NOT_ENOUGH_DATA || status == VP8_STATUS_SUSPENDED)
        return unreadable("it is cut off", file);
    if (status == VP8_STATUS_OUT_OF_MEMORY)
        return problem("there is too little memory for the photo", file,
                       "Close other programs, or make a smaller copy of it");
    if (status != VP8_STATUS_OK)
        return unreadable("it is damaged", file);
    return DecodedPhoto{pixels, {}};
}

/// RFC 9649, 2.7.
bool has_animation(std::string_view first)
{
    return first.substr(12, 4) == "VP8X" && (byte_at(first, 20) & 0x02) != 0;
}

}

Decoder webp_decoder()
{
    using namespace std::string_view_literals;
    return {.format = PhotoFormat::webp,
            .name = "WebP",
            .endings = {".webp"},
            .knows =
                [](std::string_view first) {
                    return first.starts_with("RIFF"sv) && first.size() >= 12 && first.substr(8, 4) == "WEBP"sv;
                },
            .decode = decode_webp,
            .looks_whole =
                [](std::string_view first, std::string_view, std::uintmax_t bytes) {
                    std::uintmax_t size = 0; // RFC 9649, 2.3: bytes after the first eight, little-endian
                    for (std::size_t i = 0; i < 4; ++i)
                        size |= std::uintmax_t(byte_at(first, 4 + i)) << (8 * i);
                    return size + 8 <= bytes;
                },
            .says_alpha =
                [](std::string_view first) { // RFC 9649, 2.7 and 3
                    if (first.substr(12, 4) == "VP8X")
                        return (byte_at(first, 20) & 0x10) != 0;
                    return first.substr(12, 4) == "VP8L" && (byte_at(first, 24) & 0x10) != 0;
                },
            .open = open_webp_animation,
            .may_move = has_animation};
}

}
