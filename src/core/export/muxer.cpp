#include "core/export/muxed_encoder.h"

namespace frenlo::libav {

MuxedEncoder::MuxedEncoder(const AtomicFile& file, const char* format, const char* encoder) : file_(file.target())
{
    be_quiet();
    const AVCodec* codec = avcodec_find_encoder_by_name(encoder);
    if (!codec)
        throw Failure({std::string("this machine's FFmpeg libraries cannot write ") + encoder, file_,
                       "Install FFmpeg's libraries from Debian, or choose another format"});
    AVFormatContext* made = nullptr;
    check(avformat_alloc_output_context2(&made, nullptr, format, url_of(file.path()).c_str()),
          "the file cannot be prepared", file_);
    format_.reset(made);
    codec_.reset(avcodec_alloc_context3(codec));
    packet_.reset(av_packet_alloc());
    stream_ = avformat_new_stream(format_.get(), nullptr);
    if (format_->oformat->flags & AVFMT_GLOBALHEADER)
        codec_->flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
}

void MuxedEncoder::open(AVDictionary** encoder_options, AVDictionary** muxer_options)
{
    check(avcodec_open2(codec_.get(), codec_->codec, encoder_options), "the encoder cannot be started", file_);
    check(avcodec_parameters_from_context(stream_->codecpar, codec_.get()), "the encoder cannot be started", file_);
    stream_->time_base = codec_->time_base;
    stream_->avg_frame_rate = codec_->framerate;
    check(avio_open(&format_->pb, format_->url, AVIO_FLAG_WRITE), "the file cannot be written", file_);
    check(avformat_write_header(format_.get(), muxer_options), "the file cannot be written", file_);
}

void MuxedEncoder::encode(AVFrame& frame)
{
    send(&frame);
}

void MuxedEncoder::send(AVFrame* frame)
{
    check(avcodec_send_frame(codec_.get(), frame), "a frame cannot be encoded", file_);
    drain();
}

void MuxedEncoder::drain()
{
    for (;;) {
        const int got = avcodec_receive_packet(codec_.get(), packet_.get());
        if (got == AVERROR(EAGAIN) || got == AVERROR_EOF)
            return;
        check(got, "a frame cannot be encoded", file_);
        av_packet_rescale_ts(packet_.get(), codec_->time_base, stream_->time_base);
        packet_->stream_index = stream_->index;
        check(av_interleaved_write_frame(format_.get(), packet_.get()), "the file cannot be written", file_);
        check(format_->pb->error, "the file cannot be written", file_);
    }
}

void MuxedEncoder::finish()
{
    send(nullptr);
    check(av_write_trailer(format_.get()), "the file cannot be written", file_);
    avio_flush(format_->pb);
    check(format_->pb->error, "the file cannot be written", file_);
    check(avio_closep(&format_->pb), "the file cannot be written", file_);
}

}
