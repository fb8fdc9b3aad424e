#include "core/export/read_back.h"

#include "core/base/input_file.h"
#include "core/base/libav.h"
#include "core/source/decoders.h"

#include <cstring>

namespace frenlo {

namespace {

using libav::check;
using libav::Owned;

constexpr const char* cannot = "the written file cannot be read back";

std::int64_t drain(AVCodecContext& decoder, AVFrame& frame, const std::filesystem::path& file)
{
    std::int64_t frames = 0;
    for (;;) {
        const int got = avcodec_receive_frame(&decoder, &frame);
        if (got == AVERROR(EAGAIN) || got == AVERROR_EOF)
            return frames;
        check(got, cannot, file);
        ++frames;
    }
}

}

namespace {

std::string first_bytes(const std::filesystem::path& file)
{
    InputFile in(file);
    std::string first(64, 0);
    first.resize(in.read(first.data(), first.size()));
    return first;
}

ReadBack read_back_still(const std::filesystem::path& file)
{
    PhotoFile photo;
    photo.file = file;
    const DecodedPhoto decoded = value_or_throw(decode(photo));
    if (!decoded.flaw.empty())
        throw Failure({std::string(cannot) + " (" + decoded.flaw + ")", file, "Check the disk"});
    return {1, decoded.pixels.size(), {}};
}

/// FFmpeg's libraries do not read its animations; its own library does.
ReadBack read_back_webp(const std::filesystem::path& file, const Job& job)
{
    const auto moving = decoder_of(PhotoFormat::webp)->open(file);
    const PictureTimes times = moving->times();
    for (std::int64_t i = 0; i < times.count; ++i) {
        job.check();
        (void)moving->picture({i, std::nullopt});
    }
    return {times.count, moving->size(), times.end};
}

}

ReadBack read_back(const std::filesystem::path& file, const Job& job)
{
    const std::string first = first_bytes(file);
    const auto kind = sniff(first);
    if (kind == PhotoFormat::webp)
        return read_back_webp(file, job);
    const bool sequence = first.substr(std::min<std::size_t>(4, first.size()), 8) == "ftypavis"; // AV1 pictures in time
    if (kind && !sequence && (!decoder_of(*kind)->open || kind == PhotoFormat::tiff))            // a still
        return read_back_still(file);
    libav::be_quiet();
    AVFormatContext* opened = nullptr;
    AVDictionary* options = nullptr;
    av_dict_set_int(&options, "min_delay", 0, 0); // GIF: the delays as written, not as players soften them
    const int open_result = avformat_open_input(&opened, libav::url_of(file).c_str(), nullptr, &options);
    av_dict_free(&options);
    check(open_result, cannot, file);
    const Owned<AVFormatContext> format(opened);
    check(avformat_find_stream_info(format.get(), nullptr), cannot, file);
    const AVCodec* codec = nullptr;
    const int index = check(av_find_best_stream(format.get(), AVMEDIA_TYPE_VIDEO, -1, -1, &codec, 0), cannot, file);
    const AVStream& stream = *format->streams[index];
    const Owned<AVCodecContext> decoder(avcodec_alloc_context3(codec));
    check(avcodec_parameters_to_context(decoder.get(), stream.codecpar), cannot, file);
    decoder->thread_count = 0;
    decoder->skip_loop_filter = AVDISCARD_ALL; // whether all frames are there is asked, not how smooth they are
    decoder->err_recognition = AV_EF_EXPLODE;
    check(avcodec_open2(decoder.get(), codec, nullptr), cannot, file);

    ReadBack found;
    found.size = {stream.codecpar->width, stream.codecpar->height};
    const Owned<AVPacket> packet(av_packet_alloc());
    const Owned<AVFrame> frame(av_frame_alloc());
    std::int64_t ticks = 0;
    for (;;) {
        job.check();
        const int got = av_read_frame(format.get(), packet.get());
        if (got == AVERROR_EOF)
            break;
        check(got, cannot, file);
        if (packet->stream_index == index) {
            ticks += packet->duration;
            check(avcodec_send_packet(decoder.get(), packet.get()), cannot, file);
            found.frames += drain(*decoder, *frame, file);
        }
        av_packet_unref(packet.get());
    }
    check(avcodec_send_packet(decoder.get(), nullptr), cannot, file);
    found.frames += drain(*decoder, *frame, file);
    if (ticks == 0 &&
        stream.duration > 0) // of 1,000 frames a second the library tells no packet's length, only that of all
        ticks = stream.duration;
    found.length = {Fraction(ticks) * Fraction(stream.time_base.num, stream.time_base.den)};
    // Matroska's clock is too coarse for most rates; its header says how long a frame lasts to 1/1000000000 s.
    const AVRational rate = stream.avg_frame_rate;
    if (std::strcmp(format->iformat->name, "matroska,webm") == 0 && rate.num > 0 && rate.den > 0)
        found.length = length_of(found.frames, Rate(Fraction(rate.num, rate.den)));
    return found;
}

}
