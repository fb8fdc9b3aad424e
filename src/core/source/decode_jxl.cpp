#include "core/source/colour_profile.h"
#include "core/source/decoders.h"

#include <opencv2/imgproc.hpp>

#include <jxl/decode.h>
#include <jxl/decode_cxx.h>

namespace frenlo {

namespace {

/// What the header says.
struct JxlHeader
{
    JxlBasicInfo info{};
    SourceColours colours;
    bool linear = false; ///< its numbers are linear light of BT.709 primaries
    std::string wrong;
};

void take_colours(JxlDecoder* decoder, JxlHeader& header)
{
    JxlColorEncoding encoding{};
    constexpr auto target = JXL_COLOR_PROFILE_TARGET_DATA;
    if (JxlDecoderGetColorAsEncodedProfile(decoder, nullptr, target, &encoding) == JXL_DEC_SUCCESS &&
        encoding.primaries == JXL_PRIMARIES_SRGB) {
        header.linear = encoding.transfer_function == JXL_TRANSFER_FUNCTION_LINEAR;
        if (header.linear || encoding.transfer_function == JXL_TRANSFER_FUNCTION_SRGB)
            return;
    }
    std::size_t size = 0;
    if (JxlDecoderGetICCProfileSize(decoder, nullptr, target, &size) != JXL_DEC_SUCCESS)
        return;
    header.colours.icc.resize(size);
    if (JxlDecoderGetColorAsICCProfile(decoder, nullptr, target,
                                       reinterpret_cast<std::uint8_t*>(header.colours.icc.data()),
                                       size) != JXL_DEC_SUCCESS)
        header.colours.icc.clear();
}

/// Up to the pixels, or to the end.
JxlHeader read_header(JxlDecoder* decoder, std::string_view bytes, bool pixels_too)
{
    JxlHeader header;
    JxlDecoderSubscribeEvents(decoder,
                              JXL_DEC_BASIC_INFO | JXL_DEC_COLOR_ENCODING | (pixels_too ? JXL_DEC_FULL_IMAGE : 0));
    JxlDecoderSetInput(decoder, reinterpret_cast<const std::uint8_t*>(bytes.data()), bytes.size());
    bool known = false;
    for (;;) {
        const JxlDecoderStatus status = JxlDecoderProcessInput(decoder);
        if (status == JXL_DEC_BASIC_INFO) {
            known = JxlDecoderGetBasicInfo(decoder, &header.info) == JXL_DEC_SUCCESS;
        } else if (status == JXL_DEC_COLOR_ENCODING) {
            take_colours(decoder, header);
        } else {
            if (!known)
                header.wrong = status == JXL_DEC_NEED_MORE_INPUT ? "it is cut off" : "its header is damaged";
            return header;
        }
    }
}

cv::Size size_of(const JxlHeader& header)
{
    constexpr std::uint32_t most = 1 << 30;
    return {int(std::min(header.info.xsize, most)), int(std::min(header.info.ysize, most))};
}

Result<DecodedPhoto> decode_jxl(std::string_view bytes, cv::Size, const std::filesystem::path& file)
{
    const auto decoder = JxlDecoderMake(nullptr);
    const JxlHeader header = read_header(decoder.get(), bytes, true);
    if (!header.wrong.empty())
        return unreadable(header.wrong, file);
    if (header.info.have_animation != 0)
        return problem("this is an animation, not a photo", file,
                       "Take its pictures out first, each as a file of its own");
    const cv::Size size = size_of(header);
    if (auto too_large = size_problem(size, file))
        return tl::unexpected(std::move(*too_large));
    if (auto lie = claim_problem(size, bytes.size(), file))
        return tl::unexpected(std::move(*lie));
    const bool alpha = header.info.alpha_bits > 0, eight = header.info.bits_per_sample <= 8;
    const int depth = header.linear ? CV_32F : eight ? CV_8U : CV_16U;
    const JxlPixelFormat format{alpha ? 4U : 3U,
                                depth == CV_32F  ? JXL_TYPE_FLOAT
                                : depth == CV_8U ? JXL_TYPE_UINT8
                                                 : JXL_TYPE_UINT16,
                                JXL_LITTLE_ENDIAN, 0};
    cv::Mat pixels(size, CV_MAKETYPE(depth, alpha ? 4 : 3));
    if (JxlDecoderSetImageOutBuffer(decoder.get(), &format, pixels.data, pixels.total() * pixels.elemSize()) !=
        JXL_DEC_SUCCESS)
        return unreadable("it is damaged", file);
    if (JxlDecoderProcessInput(decoder.get()) != JXL_DEC_FULL_IMAGE)
        return unreadable("it is damaged or cut off", file);
    cv::cvtColor(pixels, pixels, alpha ? cv::COLOR_RGBA2BGRA : cv::COLOR_RGB2BGR);
    DecodedPhoto decoded{pixels, {}};
    decoded.colours = header.colours;
    return decoded;
}

std::string look_into_jxl(PhotoFile& photo, bool)
{
    const std::string bytes = whole_file(photo.file);
    const auto decoder = JxlDecoderMake(nullptr);
    const JxlHeader header = read_header(decoder.get(), bytes, false);
    photo.size = size_of(header);
    photo.alpha = header.info.alpha_bits > 0;
    photo.orientation = 1; // the decoder turns the picture
    return header.wrong.empty() && header.info.have_animation != 0 ? "it is an animation, not a photo" : header.wrong;
}

}

Decoder jxl_decoder()
{
    using namespace std::string_view_literals;
    return {.format = PhotoFormat::jxl,
            .name = "JPEG XL",
            .endings = {".jxl"},
            .knows =
                [](std::string_view first) { // ISO/IEC 18181-2: the bare codestream, or its box
                    return first.starts_with("\xFF\x0A"sv) || first.starts_with("\0\0\0\x0CJXL \r\n\x87\n"sv);
                },
            .decode = decode_jxl,
            .looks_whole = [](std::string_view, std::string_view, std::uintmax_t) { return false; }, // nothing says so
            .look_into = look_into_jxl};
}

}
