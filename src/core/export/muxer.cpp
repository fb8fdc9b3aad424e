#include "core/export/muxer.h"

#include <string_view>

namespace frenlo::libav {

Track::Track(Muxer& muxer, const AVCodec& codec)
    : muxer_(muxer), codec_(avcodec_alloc_context3(&codec)), packet_(av_packet_alloc()),
      stream_(avformat_new_stream(muxer.format_.get(), nullptr))
{
    if (!codec_ || !packet_ || !stream_)
        throw Failure({"there is too little memory for the file", muxer.file_, "Close other programs"});
    if (muxer.format_->oformat->flags & AVFMT_GLOBALHEADER)
        codec_->flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
}

void Track::open(AVDictionary** options)
{
    constexpr const char* cannot = "the encoder cannot be started";
    check(avcodec_open2(codec_.get(), codec_->codec, options), cannot, muxer_.file_);
    check(avcodec_parameters_from_context(stream_->codecpar, codec_.get()), cannot, muxer_.file_);
    stream_->time_base = codec_->time_base;
    stream_->avg_frame_rate = codec_->framerate;
}

void Track::say(const char* key, const char* value)
{
    av_dict_set(&stream_->metadata, key, value, 0);
}

void Track::send(AVFrame* frame)
{
    constexpr const char* cannot = "a frame cannot be encoded";
    check(avcodec_send_frame(codec_.get(), frame), cannot, muxer_.file_);
    for (;;) {
        const int got = avcodec_receive_packet(codec_.get(), packet_.get());
        if (got == AVERROR(EAGAIN) || got == AVERROR_EOF)
            return;
        check(got, cannot, muxer_.file_);
        // Matroska says beside the track how much comes before the first sample, and counts from there (RFC 9559,
        // CodecDelay); its muxer takes times as they are.
        if (codec_->initial_padding > 0 && muxer_.counts_behind_padding()) {
            packet_->pts += codec_->initial_padding;
            packet_->dts += codec_->initial_padding;
        }
        av_packet_rescale_ts(packet_.get(), codec_->time_base, stream_->time_base);
        packet_->stream_index = stream_->index;
        muxer_.write(*packet_);
    }
}

Muxer::Muxer(const AtomicFile& file, const char* format) : file_(file.target())
{
    be_quiet();
    AVFormatContext* made = nullptr;
    check(avformat_alloc_output_context2(&made, nullptr, format, url_of(file.path()).c_str()),
          "the file cannot be prepared", file_);
    format_.reset(made);
}

Track& Muxer::add_track(const char* encoder)
{
    const AVCodec* codec = avcodec_find_encoder_by_name(encoder);
    if (!codec)
        throw Failure({std::string("this machine's FFmpeg libraries cannot write ") + encoder, file_,
                       "Install FFmpeg's libraries from Debian, or choose another format"});
    return *tracks_.emplace_back(new Track(*this, *codec));
}

void Muxer::add_chapter(Seconds begin, Seconds end, const std::string& title)
{
    constexpr int clock = 1'000'000;
    auto* chapter = static_cast<AVChapter*>(av_mallocz(sizeof(AVChapter)));
    void* grown = chapter ? av_realloc_array(format_->chapters, format_->nb_chapters + 1, sizeof(AVChapter*)) : nullptr;
    if (!grown) {
        av_free(chapter);
        throw Failure({"there is too little memory for the file", file_, "Close other programs"});
    }
    format_->chapters = static_cast<AVChapter**>(grown);
    format_->chapters[format_->nb_chapters] = chapter;
    chapter->id = ++format_->nb_chapters;
    chapter->time_base = {1, clock};
    chapter->start = (begin.value * Fraction(clock)).rounded();
    chapter->end = (end.value * Fraction(clock)).rounded();
    av_dict_set(&chapter->metadata, "title", title.c_str(), 0);
}

void Muxer::begin(AVDictionary** options)
{
    // What sound has before its first sample must not push the pictures later: containers say it in their own way.
    format_->avoid_negative_ts = AVFMT_AVOID_NEG_TS_DISABLED;
    check(avio_open(&format_->pb, format_->url, AVIO_FLAG_WRITE), "the file cannot be written", file_);
    check(avformat_write_header(format_.get(), options), "the file cannot be written", file_);
}

bool Muxer::counts_behind_padding() const
{
    const std::string_view name = format_->oformat->name;
    return name == "webm" || name == "matroska";
}

void Muxer::write(AVPacket& packet)
{
    check(av_interleaved_write_frame(format_.get(), &packet), "the file cannot be written", file_);
    check(format_->pb->error, "the file cannot be written", file_);
}

void Muxer::finish()
{
    for (const auto& track : tracks_)
        track->send(nullptr);
    check(av_write_trailer(format_.get()), "the file cannot be written", file_);
    avio_flush(format_->pb);
    check(format_->pb->error, "the file cannot be written", file_);
    check(avio_closep(&format_->pb), "the file cannot be written", file_);
}

}
