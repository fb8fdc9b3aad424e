#include "core/source/clip_stream.h"

#include "core/base/problem.h"
#include "core/source/decoders.h"

extern "C" {
#include <libavutil/display.h>
#include <libavutil/pixdesc.h>
}

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>

namespace frenlo {

namespace {

constexpr const char* readable_containers =
    "mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,avi,gif,apng,mpegts,mpeg,flv,ogg,asf";

int checked(int code, const std::filesystem::path& file)
{
    if (code < 0)
        clip_failure(code == AVERROR_INVALIDDATA ? "it is damaged, cut off, or its index is missing"
                                                 : libav::error_text(code),
                     file);
    return code;
}

}

bool is_animation(AVCodecID id)
{
    return id == AV_CODEC_ID_GIF || id == AV_CODEC_ID_APNG;
}

void clip_failure(const std::string& why, const std::filesystem::path& file)
{
    throw Failure({"the clip cannot be read (" + why + ")", file, "Copy it from the card again, or leave it out"});
}

int ClipStream::Memory::read(void* self, std::uint8_t* to, int size)
{
    auto& f = *static_cast<Memory*>(self);
    const auto left = std::int64_t(f.bytes.size()) - f.at;
    if (left <= 0)
        return AVERROR_EOF;
    const auto n = std::min<std::int64_t>(left, size);
    std::memcpy(to, f.bytes.data() + f.at, std::size_t(n));
    f.at += n;
    return int(n);
}

std::int64_t ClipStream::Memory::seek(void* self, std::int64_t to, int whence)
{
    auto& f = *static_cast<Memory*>(self);
    const auto size = std::int64_t(f.bytes.size());
    if ((whence & AVSEEK_SIZE) != 0)
        return size;
    const std::int64_t from = whence == SEEK_CUR ? f.at : whence == SEEK_END ? size : 0;
    if (from + to < 0)
        return AVERROR(EINVAL);
    return f.at = from + to;
}

ClipStream::ClipStream(std::filesystem::path file) : file_(std::move(file))
{
    open(libav::url_of(file_).c_str());
}

ClipStream::ClipStream(std::string_view bytes, std::filesystem::path file) : file_(std::move(file)), memory_{bytes}
{
    constexpr int buffer_bytes = 1 << 16;
    io_.reset(avio_alloc_context(static_cast<unsigned char*>(av_malloc(buffer_bytes)), buffer_bytes, 0, &memory_,
                                 Memory::read, nullptr, Memory::seek));
    open(nullptr);
}

void ClipStream::open(const char* url)
{
    libav::be_quiet();
    codec_.reset();
    format_.reset();
    AVFormatContext* opened = avformat_alloc_context();
    opened->pb = io_.get();
    AVDictionary* options = nullptr;
    av_dict_set(&options, "min_delay", "0", 0); // GIF: the delays as written, not as players soften them
    // A list of other files, or of addresses in a network, is no clip, whatever its name says.
    av_dict_set(&options, "protocol_whitelist", "file", 0);
    av_dict_set(&options, "format_whitelist", readable_containers, 0);
    const int result = avformat_open_input(&opened, url, nullptr, &options);
    av_dict_free(&options);
    checked(result, file_);
    format_.reset(opened);
    checked(avformat_find_stream_info(format_.get(), nullptr), file_);
    const AVCodec* codec = nullptr;
    index_ = av_find_best_stream(format_.get(), AVMEDIA_TYPE_VIDEO, -1, -1, &codec, 0);
    if (index_ == AVERROR_STREAM_NOT_FOUND ||
        (index_ >= 0 && (stream().disposition & AV_DISPOSITION_ATTACHED_PIC) != 0))
        clip_failure("there is no picture in it, only sound", file_);
    if (index_ == AVERROR_DECODER_NOT_FOUND)
        clip_failure("there is no decoder for its codec", file_);
    checked(index_, file_);
    for (unsigned i = 0; i < format_->nb_streams; ++i)
        if (int(i) != index_)
            format_->streams[i]->discard = AVDISCARD_ALL;
    // Transparency lies beside the picture in WebM; FFmpeg's own decoders pass over it.
    const auto* alpha_mode = av_dict_get(stream().metadata, "alpha_mode", nullptr, 0);
    if (alpha_mode && std::string_view(alpha_mode->value) == "1") {
        const auto id = stream().codecpar->codec_id;
        const AVCodec* with_alpha = id == AV_CODEC_ID_VP9   ? avcodec_find_decoder_by_name("libvpx-vp9")
                                    : id == AV_CODEC_ID_VP8 ? avcodec_find_decoder_by_name("libvpx")
                                                            : nullptr;
        if (with_alpha) {
            codec = with_alpha;
            alpha_ = true;
        }
    }
    codec_.reset(avcodec_alloc_context3(codec));
    checked(avcodec_parameters_to_context(codec_.get(), stream().codecpar), file_);
    codec_->thread_count = 0;
    codec_->pkt_timebase = stream().time_base;
    checked(avcodec_open2(codec_.get(), codec, nullptr), file_);
    look_at_stream();
    at_start_ = true;
    draining_ = false;
    last_pts_.reset();
    number_ = 0;
    ++run_;
}

void ClipStream::look_at_stream()
{
    const auto& p = *stream().codecpar;
    if (p.width <= 0 || p.height <= 0)
        clip_failure("its size is missing", file_);
    if (auto too_large = size_problem({p.width, p.height}, file_))
        throw Failure(std::move(*too_large));
    // Films hold more in a byte than photos do; a header that lies about memory is found all the same.
    constexpr int denser = 4;
    const cv::Size claimed =
        animation() ? cv::Size(p.width, p.height) : cv::Size(p.width / denser + 1, p.height / denser + 1);
    std::error_code ec;
    const auto bytes = io_ ? memory_.bytes.size() : std::filesystem::file_size(file_, ec);
    if (auto lie = claim_problem(claimed, ec ? 0 : bytes, file_))
        throw Failure(std::move(*lie));
    const AVRational shape = av_guess_sample_aspect_ratio(format_.get(), &stream(), nullptr);
    size_ = {p.width, p.height};
    if (shape.num > 0 && shape.den > 0 && shape.num != shape.den && shape.num < 20 * shape.den &&
        shape.den < 20 * shape.num) // pixels that are not square: as wide as they are seen
        size_.width = std::max(1, int(std::lround(double(p.width) * shape.num / shape.den)));
    if (const auto* d = av_pix_fmt_desc_get(AVPixelFormat(p.format)))
        alpha_ = alpha_ || ((d->flags & AV_PIX_FMT_FLAG_ALPHA) != 0 && p.codec_id != AV_CODEC_ID_GIF);
    find_orientation();
}

/// A matrix that players turn the picture by (ISO/IEC 14496-12, 8.2.2), as Exif says it.
void ClipStream::find_orientation()
{
    const auto* data =
        reinterpret_cast<const std::int32_t*>(av_stream_get_side_data(&stream(), AV_PKT_DATA_DISPLAYMATRIX, nullptr));
    if (!data)
        return;
    const bool mirrored = double(data[0]) * data[4] - double(data[1]) * data[3] < 0;
    const double counterclockwise = av_display_rotation_get(data);
    if (std::isnan(counterclockwise))
        return;
    const auto quarters = int(((std::lround(-counterclockwise / 90) % 4) + 4) % 4); // clockwise
    static constexpr std::array plain{1, 6, 3, 8}, flipped{2, 5, 4, 7};
    orientation_ = (mirrored ? flipped : plain).at(std::size_t(quarters));
}

std::optional<CaptureTime> ClipStream::captured() const
{
    const auto* made = av_dict_get(format_->metadata, "creation_time", nullptr, 0);
    return made ? parse_capture_time(made->value) : std::nullopt;
}

/// Opened anew: to seek to the start does not find the first frame in every format.
void ClipStream::start_over()
{
    if (at_start_)
        return;
    if (io_) {
        avio_flush(io_.get());
        avio_seek(io_.get(), 0, SEEK_SET);
    }
    open(io_ ? nullptr : libav::url_of(file_).c_str());
}

bool ClipStream::seek_before(std::int64_t pts)
{
    at_start_ = false;
    if (av_seek_frame(format_.get(), index_, pts, AVSEEK_FLAG_BACKWARD) < 0)
        return false;
    avcodec_flush_buffers(codec_.get());
    draining_ = false;
    last_pts_.reset();
    ++run_;
    return true;
}

std::optional<DecodedFrame> ClipStream::next()
{
    const std::shared_ptr<AVFrame> frame(av_frame_alloc(), libav::Free());
    at_start_ = false;
    for (int refused = 0;;) {
        const int got = avcodec_receive_frame(codec_.get(), frame.get());
        if (got >= 0) {
            DecodedFrame d{frame->best_effort_timestamp, number_++, run_, frame};
            if (d.pts != AV_NOPTS_VALUE)
                last_pts_ = d.pts;
            return d;
        }
        if (got == AVERROR_EOF || draining_)
            return std::nullopt;
        const int read = av_read_frame(format_.get(), packet_.get());
        if (read < 0) { // the end, or all there is of a file that is cut off
            draining_ = true;
            avcodec_send_packet(codec_.get(), nullptr);
            continue;
        }
        if (packet_->stream_index == index_ && avcodec_send_packet(codec_.get(), packet_.get()) < 0 &&
            ++refused > 100) {
            av_packet_unref(packet_.get());
            return std::nullopt;
        }
        av_packet_unref(packet_.get());
    }
}

std::vector<std::pair<std::int64_t, std::int64_t>> ClipStream::frame_times(std::int64_t most)
{
    std::vector<std::pair<std::int64_t, std::int64_t>> seen;
    bool untimed = false;
    start_over();
    at_start_ = false;
    while (!untimed && std::int64_t(seen.size()) < most && av_read_frame(format_.get(), packet_.get()) >= 0) {
        const bool counts = packet_->stream_index == index_ && (packet_->flags & AV_PKT_FLAG_DISCARD) == 0;
        if (counts) {
            untimed = packet_->pts == AV_NOPTS_VALUE;
            seen.emplace_back(packet_->pts, packet_->duration);
        }
        av_packet_unref(packet_.get());
    }
    start_over();
    return seen;
}

}
