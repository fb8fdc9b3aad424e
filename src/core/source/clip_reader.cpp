#include "core/base/libav.h"
#include "core/source/clip_pixels.h"
#include "core/source/decoders.h"
#include "core/source/moving_file.h"

extern "C" {
#include <libavutil/display.h>
#include <libavutil/pixdesc.h>
}

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <cstring>
#include <list>

namespace frenlo {

namespace {

using libav::Owned;

constexpr const char* readable_containers =
    "mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,avi,gif,apng,mpegts,mpeg,flv,ogg,asf";
constexpr const char* what_to_do = "Copy it from the card again, or leave it out";

[[noreturn]] void fail(const std::string& why, const std::filesystem::path& file)
{
    throw Failure({"the clip cannot be read (" + why + ")", file, what_to_do});
}

int checked(int code, const std::filesystem::path& file)
{
    if (code < 0)
        fail(code == AVERROR_INVALIDDATA ? "it is damaged, cut off, or its index is missing" : libav::error_text(code),
             file);
    return code;
}

/// Bytes in memory as a file of FFmpeg's.
struct MemoryFile
{
    std::string_view bytes;
    std::int64_t at = 0;

    static int read(void* self, std::uint8_t* to, int size)
    {
        auto& f = *static_cast<MemoryFile*>(self);
        const auto left = std::int64_t(f.bytes.size()) - f.at;
        if (left <= 0)
            return AVERROR_EOF;
        const auto n = std::min<std::int64_t>(left, size);
        std::memcpy(to, f.bytes.data() + f.at, std::size_t(n));
        f.at += n;
        return int(n);
    }
    static std::int64_t seek(void* self, std::int64_t to, int whence)
    {
        auto& f = *static_cast<MemoryFile*>(self);
        const auto size = std::int64_t(f.bytes.size());
        if ((whence & AVSEEK_SIZE) != 0)
            return size;
        const std::int64_t from = whence == SEEK_CUR ? f.at : whence == SEEK_END ? size : 0;
        if (from + to < 0)
            return AVERROR(EINVAL);
        return f.at = from + to;
    }
};

struct FreeIo
{
    void operator()(AVIOContext* io) const
    {
        av_freep(&io->buffer);
        avio_context_free(&io);
    }
};
struct CloseInput
{
    void operator()(AVFormatContext* f) const { avformat_close_input(&f); }
};

/// A frame that players see, told by its time in the stream.
struct Decoded
{
    std::int64_t pts = AV_NOPTS_VALUE;
    std::int64_t number = 0; ///< from the start, or from where the run began
    int run = 0;             ///< frames of one run are decoded one after another, without a jump
    std::shared_ptr<AVFrame> frame;
};

/// Formats in which each picture builds on the ones before, whatever their packets say of keys.
bool is_animation(AVCodecID id)
{
    return id == AV_CODEC_ID_GIF || id == AV_CODEC_ID_APNG;
}

class ClipReader : public MovingFile
{
public:
    explicit ClipReader(std::filesystem::path file) : file_(std::move(file)) { open(libav::url_of(file_).c_str()); }

    ClipReader(std::string_view bytes, std::filesystem::path file) : file_(std::move(file)), memory_{bytes}
    {
        constexpr int buffer_bytes = 1 << 16;
        io_.reset(avio_alloc_context(static_cast<unsigned char*>(av_malloc(buffer_bytes)), buffer_bytes, 0, &memory_,
                                     MemoryFile::read, nullptr, MemoryFile::seek));
        open(nullptr);
    }

    [[nodiscard]] cv::Size size() const override { return size_; }
    [[nodiscard]] bool alpha() const override { return alpha_; }
    [[nodiscard]] int orientation() const override { return orientation_; }
    [[nodiscard]] std::optional<CaptureTime> captured() const override;
    PictureTimes times() override;
    DecodedPhoto picture(const WhichPicture& which) override;
    DecodedPhoto following() override;

private:
    void open(const char* url);
    void look_at_stream();
    void find_orientation();
    void start_over();
    bool seek_before(std::int64_t pts);
    /// The next frame, in the order in which they are seen; none at the end.
    std::optional<Decoded> next();
    void keep(const Decoded& decoded);
    [[nodiscard]] AVStream& stream() const { return *format_->streams[index_]; }
    [[nodiscard]] Seconds seconds(std::int64_t pts) const
    {
        return {Fraction(pts) * Fraction(stream().time_base.num, stream().time_base.den)};
    }
    Decoded by_stamp(std::int64_t pts);
    Decoded by_number(std::int64_t number);
    PictureTimes counted_times();
    DecodedPhoto handed_out(const Decoded& decoded);
    [[nodiscard]] std::optional<Rate> even_rate(const std::vector<std::int64_t>& pts) const;

    std::filesystem::path file_;
    MemoryFile memory_;
    std::unique_ptr<AVIOContext, FreeIo> io_;
    std::unique_ptr<AVFormatContext, CloseInput> format_;
    Owned<AVCodecContext> codec_;
    Owned<AVPacket> packet_{av_packet_alloc()};
    int index_ = 0;
    cv::Size size_;
    bool alpha_ = false;
    int orientation_ = 1;
    bool by_count_ = false;
    bool draining_ = false;
    bool at_start_ = false;                ///< nothing was read since it was opened
    std::optional<std::int64_t> last_pts_; ///< handed out by next() last, since the start or the last jump
    std::int64_t number_ = 0;              ///< of the frame that comes next, where they are counted
    int run_ = 0;
    std::list<Decoded> kept_; ///< decoded on the way, newest last
    std::optional<Decoded> current_;
};

void ClipReader::open(const char* url)
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
        fail("there is no picture in it, only sound", file_);
    if (index_ == AVERROR_DECODER_NOT_FOUND)
        fail("there is no decoder for its codec", file_);
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

void ClipReader::look_at_stream()
{
    const auto& p = *stream().codecpar;
    by_count_ = by_count_ || is_animation(p.codec_id);
    if (p.width <= 0 || p.height <= 0)
        fail("its size is missing", file_);
    if (auto too_large = size_problem({p.width, p.height}, file_))
        throw Failure(std::move(*too_large));
    // Films hold more in a byte than photos do; a header that lies about memory is found all the same.
    constexpr int denser = 4;
    const cv::Size claimed =
        by_count_ ? cv::Size(p.width, p.height) : cv::Size(p.width / denser + 1, p.height / denser + 1);
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
void ClipReader::find_orientation()
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

std::optional<CaptureTime> ClipReader::captured() const
{
    const auto* made = av_dict_get(format_->metadata, "creation_time", nullptr, 0);
    return made ? parse_capture_time(made->value) : std::nullopt;
}

/// Opened anew: to seek to the start does not find the first frame in every format.
void ClipReader::start_over()
{
    if (at_start_)
        return;
    if (io_) {
        avio_flush(io_.get());
        avio_seek(io_.get(), 0, SEEK_SET);
    }
    open(io_ ? nullptr : libav::url_of(file_).c_str());
}

/// To a place from which decoding reaches this frame; false where there is none that is known.
bool ClipReader::seek_before(std::int64_t pts)
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

std::optional<Decoded> ClipReader::next()
{
    const std::shared_ptr<AVFrame> frame(av_frame_alloc(), libav::Free());
    at_start_ = false;
    for (int refused = 0;;) {
        const int got = avcodec_receive_frame(codec_.get(), frame.get());
        if (got >= 0) {
            Decoded d{frame->best_effort_timestamp, number_++, run_, frame};
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

/// What was decoded on the way to a picture is asked for next, mostly: neighbours are shown together.
void ClipReader::keep(const Decoded& decoded)
{
    constexpr std::size_t most_bytes = 96U << 20;
    kept_.push_back(decoded);
    const std::size_t each =
        std::size_t(std::max(1, decoded.frame->width)) * std::size_t(std::max(1, decoded.frame->height)) * 2;
    while (kept_.size() > std::clamp<std::size_t>(most_bytes / each, 4, 64))
        kept_.pop_front();
}

Decoded ClipReader::by_stamp(std::int64_t pts)
{
    for (const Decoded& d : kept_)
        if (d.pts == pts)
            return d;
    const auto go_on = [&]() -> std::optional<Decoded> {
        while (auto d = next()) {
            keep(*d);
            if (d->pts == pts)
                return d;
            if (d->pts != AV_NOPTS_VALUE && d->pts > pts)
                return std::nullopt;
        }
        return std::nullopt;
    };
    const auto a_second = std::max<std::int64_t>(1, av_rescale_q(1, {1, 1}, stream().time_base));
    if (last_pts_ && *last_pts_ < pts) {
        // A key frame between here and there makes the way shorter.
        const int key = av_index_search_timestamp(&stream(), pts, AVSEEK_FLAG_BACKWARD);
        const auto* entry = key >= 0 ? avformat_index_get_entry(&stream(), key) : nullptr;
        const bool near = entry ? entry->timestamp <= *last_pts_ + a_second / 2 : pts - *last_pts_ <= 2 * a_second;
        if (near)
            if (auto d = go_on())
                return *d;
    }
    // Frames before the key frame that is sought may belong to the one before it: then from further back.
    for (std::int64_t back = 0; back < (std::int64_t(1) << 40); back = back == 0 ? a_second : back * 4) {
        if (!seek_before(pts - back))
            break;
        auto first = next();
        if (!first)
            continue;
        keep(*first);
        if (first->pts == pts)
            return *first;
        if (first->pts != AV_NOPTS_VALUE && first->pts < pts) {
            if (auto d = go_on())
                return *d;
            break;
        }
    }
    start_over();
    if (auto d = go_on())
        return *d;
    fail("this picture of it is damaged or missing", file_);
}

Decoded ClipReader::by_number(std::int64_t number)
{
    for (const Decoded& d : kept_)
        if (d.number == number)
            return d;
    if (number < number_)
        start_over();
    while (auto d = next()) {
        keep(*d);
        if (d->number == number)
            return *d;
    }
    fail("this picture of it is damaged or missing", file_);
}

/// The file's clock may round: Matroska's to 1/1000 s.
std::optional<Rate> ClipReader::even_rate(const std::vector<std::int64_t>& pts) const
{
    const AVRational base = stream().time_base;
    std::vector<Rate> likely(usual_rates().begin(), usual_rates().end());
    for (const AVRational r : {stream().r_frame_rate, stream().avg_frame_rate})
        if (r.num > 0 && r.den > 0 && r.num <= std::int64_t(1000) * r.den)
            likely.insert(likely.begin(), Rate(Fraction(r.num, r.den)));
    for (const Rate& rate : likely) {
        const double ticks = double(rate.value().den()) / double(rate.value().num()) * base.den / base.num;
        bool all = true;
        for (std::size_t i = 0; i < pts.size() && all; ++i)
            all = std::abs(double(pts[i] - pts.front()) - double(i) * ticks) <= 1;
        if (all)
            return rate;
    }
    return std::nullopt;
}

PictureTimes ClipReader::times()
{
    std::vector<std::pair<std::int64_t, std::int64_t>> seen; // when, how long
    bool untimed = false;
    start_over();
    at_start_ = by_count_;
    while (!by_count_ && !untimed && std::int64_t(seen.size()) < most_pictures &&
           av_read_frame(format_.get(), packet_.get()) >= 0) {
        const bool counts = packet_->stream_index == index_ && (packet_->flags & AV_PKT_FLAG_DISCARD) == 0;
        if (counts) {
            untimed = packet_->pts == AV_NOPTS_VALUE;
            seen.emplace_back(packet_->pts, packet_->duration);
        }
        av_packet_unref(packet_.get());
    }
    start_over();
    kept_.clear();
    if (by_count_ || untimed) {
        by_count_ = true;
        return counted_times();
    }
    if (seen.empty())
        fail("there is no picture in it", file_);
    std::sort(seen.begin(), seen.end());
    PictureTimes t;
    t.count = std::int64_t(seen.size());
    std::vector<std::int64_t> pts;
    for (const auto& [when, length] : seen) {
        pts.push_back(when);
        t.stamps.push_back(seconds(when).value);
        t.begins.push_back(seconds(when - seen.front().first));
    }
    t.rate = even_rate(pts);
    const auto usual = pts.size() > 1 ? (pts.back() - pts.front()) / std::int64_t(pts.size() - 1) : 0;
    t.end = t.rate && t.count > 1
                ? Seconds{t.begins.back().value + Fraction(1) / t.rate->value()}
                : seconds(pts.back() - pts.front() +
                          (seen.back().second > 0 ? seen.back().second : std::max<std::int64_t>(1, usual)));
    return t;
}

/// Of a picture of four bytes a pixel with alpha in the last: whether it shows through anywhere.
bool shows_through(const AVFrame& f)
{
    for (int y = 0; y < f.height; ++y) {
        const std::uint8_t* row = f.data[0] + std::ptrdiff_t(y) * f.linesize[0];
        for (int x = 0; x < f.width; ++x)
            if (row[4 * std::ptrdiff_t(x) + 3] != 255)
                return true;
    }
    return false;
}

/// Where pictures build on one another, or the file says no times: all of them are decoded once.
PictureTimes ClipReader::counted_times()
{
    PictureTimes t;
    std::vector<std::int64_t> pts;
    std::int64_t last = 0;
    bool through = false;
    while (t.count < most_pictures) {
        const auto d = next();
        if (!d)
            break;
        ++t.count;
        pts.push_back(d->pts);
        last = d->frame->pkt_duration;
        if (stream().codecpar->codec_id == AV_CODEC_ID_GIF && d->frame->format == AV_PIX_FMT_BGRA)
            through = through || shows_through(*d->frame);
    }
    alpha_ = alpha_ || through; // a GIF's pixels always have room for it
    start_over();
    if (t.count == 0)
        fail("there is no picture in it that can be decoded", file_);
    const bool timed = std::is_sorted(pts.begin(), pts.end()) && pts.front() != AV_NOPTS_VALUE;
    if (timed && (is_animation(stream().codecpar->codec_id) || !even_rate(pts))) {
        for (const auto p : pts)
            t.begins.push_back(seconds(p - pts.front()));
        t.end = {t.begins.back().value + seconds(std::max<std::int64_t>(0, last)).value};
        if (last <= 0 && t.count > 1)
            t.end = {t.begins.back().value + (t.begins.back().value - t.begins[t.begins.size() - 2].value)};
        return t;
    }
    const AVRational r = stream().avg_frame_rate.num > 0 ? stream().avg_frame_rate : stream().r_frame_rate;
    t.rate = timed ? even_rate(pts)
             : r.num > 0 && r.den > 0 && r.num <= std::int64_t(1000) * r.den
                 ? std::optional(Rate(Fraction(r.num, r.den)))
                 : std::nullopt;
    if (!t.rate)
        return t;
    for (std::int64_t i = 0; i < t.count; ++i)
        t.begins.push_back(length_of(i, *t.rate));
    t.end = length_of(t.count, *t.rate);
    return t;
}

DecodedPhoto ClipReader::picture(const WhichPicture& which)
{
    if (!which.stamp) {
        by_count_ = true;
        return handed_out(by_number(which.number));
    }
    const Fraction ticks = *which.stamp / Fraction(stream().time_base.num, stream().time_base.den);
    if (ticks.den() != 1)
        fail("it has changed", file_);
    return handed_out(by_stamp(ticks.num()));
}

DecodedPhoto ClipReader::following()
{
    if (!current_)
        return picture({});
    const auto comes_next = [this](const Decoded& d) {
        return d.run == current_->run && d.number == current_->number + 1;
    };
    if (const auto kept = std::find_if(kept_.begin(), kept_.end(), comes_next); kept != kept_.end())
        return handed_out(*kept);
    if (run_ != current_->run || number_ != current_->number + 1) { // a jump lies between: back to it
        kept_.clear();
        current_ = by_count_ ? by_number(current_->number) : by_stamp(current_->pts);
    }
    const auto d = next();
    if (!d)
        fail("this picture of it is damaged or missing", file_);
    keep(*d);
    return handed_out(*d);
}

DecodedPhoto ClipReader::handed_out(const Decoded& decoded)
{
    current_ = decoded;
    const AVFrame& frame = *decoded.frame;
    DecodedPhoto photo;
    try {
        photo.pixels = clip_pixels(frame);
    } catch (const Failure& failure) {
        throw Failure({failure.problem().what, file_, failure.problem().remedy});
    }
    photo.colours = SourceColours();
    if (photo.pixels.size() != size_) // its pixels are not square, or the stream changes its size: all as the first
        cv::resize(photo.pixels, photo.pixels, size_, 0, 0, cv::INTER_CUBIC);
    if ((frame.flags & AV_FRAME_FLAG_CORRUPT) != 0 || frame.decode_error_flags != 0)
        photo.flaw = "this picture of it is damaged";
    return photo;
}

}

std::unique_ptr<MovingFile> open_clip(const std::filesystem::path& file)
{
    return std::make_unique<ClipReader>(file);
}

std::unique_ptr<MovingFile> open_clip(std::string_view bytes, const std::filesystem::path& file)
{
    return std::make_unique<ClipReader>(bytes, file);
}

}
