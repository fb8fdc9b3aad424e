#include "core/sound/sound_reader.h"

#include "core/base/libav.h"

extern "C" {
#include <libavutil/opt.h>
}

#include <algorithm>
#include <array>
#include <numeric>
#include <optional>
#include <vector>

namespace frenlo {

using libav::Owned;

namespace {

constexpr const char* sound_containers = "wav,w64,aiff,flac,mp3,ogg,aac,mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,avi,asf,"
                                         "mpegts,mpeg,caf,au,ac3,eac3,opus,flv";
constexpr const char* what_to_do = "Choose another file, or make it anew";

[[noreturn]] void fail(const std::string& why, const std::filesystem::path& file)
{
    throw Failure({"the sound cannot be read (" + why + ")", file, what_to_do});
}

struct FreeResampler
{
    void operator()(SwrContext* p) const { swr_free(&p); }
};
using Resampler = std::unique_ptr<SwrContext, FreeResampler>;

/// Pairs of floats at a file's own rate, to ours.
Resampler to_our_rate(int rate, Resampling how)
{
    AVChannelLayout stereo = AV_CHANNEL_LAYOUT_STEREO;
    for (const bool best : {how == Resampling::fine, false}) { // SoX's where the library has it
        SwrContext* made = nullptr;
        swr_alloc_set_opts2(&made, &stereo, AV_SAMPLE_FMT_FLT, sound_rate, &stereo, AV_SAMPLE_FMT_FLT, rate, 0,
                            nullptr);
        Resampler resampler(made);
        if (!made)
            return {};
        if (best)
            av_opt_set(made, "resampler", "soxr", 0);
        if (how == Resampling::quick) {
            constexpr int few = 4;
            av_opt_set_int(made, "filter_size", few, 0);
        }
        if (swr_init(made) >= 0)
            return resampler;
    }
    return {};
}

}

class SoundReader::Decoding
{
public:
    Decoding(std::filesystem::path file, Resampling resampling) : file_(std::move(file)), how_(resampling)
    {
        libav::be_quiet();
        AVFormatContext* opened = nullptr;
        AVDictionary* options = nullptr;
        av_dict_set(&options, "format_whitelist", sound_containers, 0);
        const int code = avformat_open_input(&opened, libav::url_of(file_).c_str(), nullptr, &options);
        av_dict_free(&options);
        if (code < 0)
            fail(code == AVERROR_INVALIDDATA ? "it is no sound, or damaged" : libav::error_text(code), file_);
        format_.reset(opened);
        if (const int found = avformat_find_stream_info(format_.get(), nullptr); found < 0)
            fail(libav::error_text(found), file_);
        const AVCodec* codec = nullptr;
        index_ = av_find_best_stream(format_.get(), AVMEDIA_TYPE_AUDIO, -1, -1, &codec, 0);
        if (index_ < 0 || !codec)
            fail("there is none in the file", file_);
        codec_.reset(avcodec_alloc_context3(codec));
        if (!codec_ || avcodec_parameters_to_context(codec_.get(), stream().codecpar) < 0 ||
            (codec_->pkt_timebase = stream().time_base, avcodec_open2(codec_.get(), codec, nullptr)) < 0)
            fail("its encoding is not known here", file_);
        rate_ = codec_->sample_rate;
        if (rate_ < 1 || rate_ > 1'000'000)
            fail("it has no rate", file_);
        step_ = rate_ / std::gcd(rate_, sound_rate);
        const AVStream* pictures = nullptr;
        for (unsigned i = 0; i < format_->nb_streams; ++i) {
            const AVStream& s = *format_->streams[i];
            if (!pictures && s.codecpar->codec_type == AVMEDIA_TYPE_VIDEO && s.start_time != AV_NOPTS_VALUE &&
                (s.disposition & AV_DISPOSITION_ATTACHED_PIC) == 0)
                pictures = &s;
            format_->streams[i]->discard = int(i) == index_ ? AVDISCARD_DEFAULT : AVDISCARD_ALL;
        }
        if (pictures) // it lies against them
            zero_ = av_rescale_q(pictures->start_time, pictures->time_base, stream().time_base);
        else if (stream().start_time != AV_NOPTS_VALUE)
            zero_ = stream().start_time;
        // Where a file counts coarser than its samples, only its start says where a sample is.
        const AVRational tick = stream().time_base;
        exact_ = std::int64_t(tick.num) * rate_ <= tick.den;
        packet_.reset(av_packet_alloc());
        frame_.reset(av_frame_alloc());
        start_at(0);
    }

    std::int64_t read(std::int64_t at, std::span<float> out)
    {
        constexpr std::int64_t far = 2LL * sound_rate;
        const auto pairs = std::int64_t(out.size()) / sound_sides;
        std::fill(out.begin(), out.end(), 0.0F);
        const std::int64_t begin = std::max<std::int64_t>(at, 0);
        const std::int64_t end = at + pairs;
        if (begin >= end)
            return std::max<std::int64_t>(0, pairs);
        if (begin < have_at_ || (exact_ && begin > have_at_ + std::int64_t(have_.size()) / sound_sides + far))
            start_at(begin);
        while (have_at_ + std::int64_t(have_.size()) / sound_sides < end) {
            drop_before(begin);
            if (!more())
                break;
        }
        const std::int64_t from = std::max(begin, have_at_);
        const std::int64_t to = std::min(end, have_at_ + std::int64_t(have_.size()) / sound_sides);
        if (from < to)
            std::copy_n(have_.begin() + (from - have_at_) * sound_sides, (to - from) * sound_sides,
                        out.begin() + (from - at) * sound_sides);
        drop_before(end);
        return std::max<std::int64_t>(0, to - at);
    }

    [[nodiscard]] Seconds stated_length() const
    {
        if (stream().duration > 0)
            return {Fraction(stream().duration) * Fraction(stream().time_base.num, stream().time_base.den)};
        if (format_->duration > 0)
            return {Fraction(format_->duration, AV_TIME_BASE)};
        return {};
    }

    Seconds counted_length(const Job& job)
    {
        start_at(0);
        do {
            job.check();
            drop_before(have_at_ + std::int64_t(have_.size()) / sound_sides);
        } while (more());
        return {Fraction(have_at_ + std::int64_t(have_.size()) / sound_sides, sound_rate)};
    }

private:
    [[nodiscard]] AVStream& stream() const { return *format_->streams[index_]; }

    void drop_before(std::int64_t at)
    {
        const std::int64_t gone = std::min(at - have_at_, std::int64_t(have_.size()) / sound_sides);
        if (gone <= 0)
            return;
        have_.erase(have_.begin(), have_.begin() + gone * sound_sides);
        have_at_ += gone;
    }

    /// So that decoding goes on at or before this position.
    void start_at(std::int64_t at)
    {
        constexpr int early = 1; // seconds: what filters, and codecs that build on what was before, need to settle
        const std::int64_t native = av_rescale(at, rate_, sound_rate) - std::int64_t(early) * rate_;
        std::int64_t wanted = zero_;
        if (exact_ && native > 0)
            wanted += av_rescale_q(native, {1, rate_}, stream().time_base);
        if (started_ || wanted > zero_)
            if (avformat_seek_file(format_.get(), index_, INT64_MIN, wanted, wanted, 0) < 0)
                avformat_seek_file(format_.get(), index_, INT64_MIN, 0, INT64_MAX, 0);
        avcodec_flush_buffers(codec_.get());
        started_ = true;
        ended_ = false;
        native_at_.reset();
        own_.clear();
        resampler_.reset();
        have_.clear();
        have_at_ = 0;
        placed_ = false;
    }

    /// Decodes on; whether anything more came.
    bool more()
    {
        while (!ended_) {
            const int got = avcodec_receive_frame(codec_.get(), frame_.get());
            if (got >= 0) {
                const bool some = take();
                av_frame_unref(frame_.get());
                if (some)
                    return true;
                continue;
            }
            if (got == AVERROR_EOF)
                return flush();
            if (got != AVERROR(EAGAIN)) // damaged: what follows may be whole
                avcodec_flush_buffers(codec_.get());
            send();
        }
        return false;
    }

    void send()
    {
        for (;;) {
            av_packet_unref(packet_.get());
            if (av_read_frame(format_.get(), packet_.get()) < 0) {
                avcodec_send_packet(codec_.get(), nullptr);
                return;
            }
            if (packet_->stream_index == index_) {
                avcodec_send_packet(codec_.get(), packet_.get()); // one that is damaged is left out
                return;
            }
        }
    }

    /// The frame's samples; whether anything came out at the other end.
    bool take()
    {
        const AVFrame& f = *frame_;
        if (f.sample_rate != rate_ || f.nb_samples < 1)
            return false;
        if (!to_pairs_ || f.format != from_format_ || f.ch_layout.nb_channels != from_channels_)
            open_pairs(f);
        std::vector<float> pairs(std::size_t(f.nb_samples) * sound_sides);
        auto* to = reinterpret_cast<std::uint8_t*>(pairs.data());
        const int n = swr_convert(to_pairs_.get(), &to, f.nb_samples, const_cast<const std::uint8_t**>(f.extended_data),
                                  f.nb_samples);
        if (n < 1)
            return false;
        pairs.resize(std::size_t(n) * sound_sides);
        place(f);
        own_.insert(own_.end(), pairs.begin(), pairs.end());
        return resample();
    }

    void open_pairs(const AVFrame& f)
    {
        from_format_ = f.format;
        from_channels_ = f.ch_layout.nb_channels;
        AVChannelLayout stereo = AV_CHANNEL_LAYOUT_STEREO, from = {};
        if (f.ch_layout.order == AV_CHANNEL_ORDER_UNSPEC)
            av_channel_layout_default(&from, from_channels_);
        else
            av_channel_layout_copy(&from, &f.ch_layout);
        SwrContext* made = nullptr;
        swr_alloc_set_opts2(&made, &stereo, AV_SAMPLE_FMT_FLT, rate_, &from, AVSampleFormat(from_format_), rate_, 0,
                            nullptr);
        to_pairs_.reset(made);
        if (made && from_channels_ == 1) { // one channel is both sides, as loud as it is
            constexpr std::array<double, 2> both{1, 1};
            swr_set_matrix(made, both.data(), 1);
        }
        av_channel_layout_uninit(&from);
        if (!made || swr_init(made) < 0)
            fail("its channels are not known here", file_);
    }

    /// Where the first frame after a jump lies; from there on samples are counted.
    void place(const AVFrame& f)
    {
        if (native_at_ || f.best_effort_timestamp == AV_NOPTS_VALUE) {
            if (!native_at_)
                native_at_ = 0;
            return;
        }
        native_at_ = av_rescale_q_rnd(f.best_effort_timestamp - zero_, stream().time_base, {1, rate_},
                                      AVRounding(AV_ROUND_NEAR_INF));
    }

    bool resample()
    {
        if (!placed_) {
            // A start between two of our samples: from the next one that is on both.
            const std::int64_t over = ((*native_at_ % step_) + step_) % step_;
            const std::int64_t drop = over == 0 ? 0 : step_ - over;
            if (std::int64_t(own_.size()) / sound_sides <= drop)
                return false;
            own_.erase(own_.begin(), own_.begin() + drop * sound_sides);
            *native_at_ += drop;
            have_at_ = *native_at_ / step_ * (std::int64_t(sound_rate) * step_ / rate_);
            placed_ = true;
            if (rate_ != sound_rate && !(resampler_ = to_our_rate(rate_, how_)))
                fail("there is too little memory", file_);
        }
        return push(own_.data(), std::int64_t(own_.size()) / sound_sides);
    }

    bool push(const float* from, std::int64_t pairs)
    {
        const std::size_t before = have_.size();
        if (!resampler_) {
            if (from)
                have_.insert(have_.end(), from, from + pairs * sound_sides);
        } else {
            const auto room = swr_get_out_samples(resampler_.get(), int(pairs)) + 64;
            have_.resize(before + std::size_t(room) * sound_sides);
            auto* to = reinterpret_cast<std::uint8_t*>(have_.data() + before);
            const auto* in = reinterpret_cast<const std::uint8_t*>(from);
            const int n = swr_convert(resampler_.get(), &to, room, from ? &in : nullptr, int(pairs));
            have_.resize(before + std::size_t(std::max(n, 0)) * sound_sides);
        }
        own_.clear();
        return have_.size() > before;
    }

    bool flush()
    {
        ended_ = true;
        return placed_ && resampler_ && push(nullptr, 0);
    }

    std::filesystem::path file_;
    Resampling how_;
    Owned<AVFormatContext> format_;
    Owned<AVCodecContext> codec_;
    Owned<AVPacket> packet_;
    Owned<AVFrame> frame_;
    Resampler to_pairs_, resampler_;
    int index_ = -1, rate_ = 0, from_format_ = -1, from_channels_ = 0;
    std::int64_t step_ = 1; ///< every so many samples of the file, one lies on one of ours
    std::int64_t zero_ = 0; ///< the stream's time that is position 0
    bool exact_ = true, started_ = false, ended_ = false, placed_ = false;
    std::optional<std::int64_t> native_at_; ///< of the first frame since the last jump, in samples of the file
    std::vector<float> own_;                ///< at the file's rate
    std::vector<float> have_;               ///< at ours, from have_at_ on
    std::int64_t have_at_ = 0;
};

SoundReader::SoundReader(const std::filesystem::path& file, Resampling resampling)
    : decoding_(std::make_unique<Decoding>(file, resampling))
{
}
SoundReader::~SoundReader() = default;
SoundReader::SoundReader(SoundReader&&) noexcept = default;
SoundReader& SoundReader::operator=(SoundReader&&) noexcept = default;

std::int64_t SoundReader::read(std::int64_t at, std::span<float> out)
{
    return decoding_->read(at, out);
}

Seconds SoundReader::stated_length() const
{
    return decoding_->stated_length();
}

Seconds SoundReader::counted_length(const Job& job)
{
    return decoding_->counted_length(job);
}

}
