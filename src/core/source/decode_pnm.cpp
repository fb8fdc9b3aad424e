#include "core/base/libav.h"
#include "core/source/clip_pixels.h"
#include "core/source/decoders.h"

#include <algorithm>
#include <sstream>

namespace frenlo {

namespace {

/// Width and height, after comments; 0x0 where they cannot be read. Netpbm's formats: P1 to P6.
cv::Size size_in(std::string_view first)
{
    std::istringstream in{std::string(first.substr(2))};
    const auto number = [&] {
        for (in >> std::ws; in.peek() == '#'; in >> std::ws)
            in.ignore(4096, '\n');
        std::int64_t n = 0;
        in >> n;
        return in && n > 0 && n < 1 << 30 ? int(n) : 0;
    };
    const int width = number(), height = number();
    return {width, height};
}

/// By FFmpeg's decoders of one picture each. Empty where it is damaged.
cv::Mat pixels_in(std::string_view bytes)
{
    libav::be_quiet();
    const char kind = bytes[1];
    const AVCodec* codec = avcodec_find_decoder(kind == '1' || kind == '4'   ? AV_CODEC_ID_PBM
                                                : kind == '2' || kind == '5' ? AV_CODEC_ID_PGM
                                                                             : AV_CODEC_ID_PPM);
    const libav::Owned<AVCodecContext> decoder(avcodec_alloc_context3(codec));
    const libav::Owned<AVPacket> packet(av_packet_alloc());
    const libav::Owned<AVFrame> frame(av_frame_alloc());
    if (!codec || avcodec_open2(decoder.get(), codec, nullptr) < 0 ||
        av_new_packet(packet.get(), int(bytes.size())) < 0)
        return {};
    std::copy(bytes.begin(), bytes.end(), packet->data);
    if (avcodec_send_packet(decoder.get(), packet.get()) < 0 || avcodec_receive_frame(decoder.get(), frame.get()) < 0)
        return {};
    frame->color_range = AVCOL_RANGE_JPEG; // its greys go from black to white, though nobody says so
    return clip_pixels(*frame);
}

Result<DecodedPhoto> decode_pnm(std::string_view bytes, cv::Size, const std::filesystem::path& file)
{
    const cv::Size size = size_in(bytes);
    if (size.empty())
        return unreadable("its header is damaged", file);
    if (auto too_large = size_problem(size, file))
        return tl::unexpected(std::move(*too_large));
    if (auto lie = claim_problem(size, bytes.size(), file))
        return tl::unexpected(std::move(*lie));
    cv::Mat pixels = pixels_in(bytes);
    if (pixels.empty())
        return unreadable("it is damaged or cut off", file);
    return DecodedPhoto{pixels, {}};
}

std::string look_into_pnm(PhotoFile& photo, bool)
{
    const std::string bytes = whole_file(photo.file, 4096);
    photo.size = size_in(bytes);
    photo.orientation = 1;
    if (photo.size.empty())
        return "its header is damaged";
    // Of plain numbers two bytes a value at least, of binary ones what they take.
    const auto values = std::uintmax_t(photo.size.width) * std::uintmax_t(photo.size.height);
    const std::uintmax_t least = bytes[1] == '6' ? 3 * values : bytes[1] == '5' ? values : values / 8;
    return photo.bytes < least ? std::string(cut_off_flaw) : std::string();
}

}

Decoder pnm_decoder()
{
    return {.format = PhotoFormat::pnm,
            .name = "PNM",
            .endings = {".ppm", ".pgm", ".pbm", ".pnm"},
            .knows =
                [](std::string_view first) {
                    return first.size() > 2 && first[0] == 'P' && first[1] >= '1' && first[1] <= '6' &&
                           (first[2] == '\n' || first[2] == ' ' || first[2] == '\r' || first[2] == '\t');
                },
            .decode = decode_pnm,
            .look_into = look_into_pnm};
}

}
