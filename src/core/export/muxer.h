#pragma once
// Private to media/: one encoder into one file.
#include "core/base/atomic_file.h"
#include "core/export/libav.h"

#include <filesystem>

namespace frenlo::libav {

/// An encoder with its file around it. Set up context() between construction and open().
class MuxedEncoder
{
public:
    /// format: FFmpeg's muxer, whatever the file's name ends in. Problems name the file's target.
    /// Throws Failure where a library lacks the encoder.
    MuxedEncoder(const AtomicFile& file, const char* format, const char* encoder);

    [[nodiscard]] AVCodecContext& context() { return *codec_; }
    /// Opens encoder and file and writes the header. The dictionaries are the encoder's and the muxer's options.
    void open(AVDictionary** encoder_options, AVDictionary** muxer_options);
    /// pts in the encoder's time base.
    void encode(AVFrame& frame);
    void finish();

private:
    void drain();
    void send(AVFrame* frame);

    std::filesystem::path file_; ///< its final name
    Owned<AVFormatContext> format_;
    Owned<AVCodecContext> codec_;
    Owned<AVPacket> packet_;
    AVStream* stream_ = nullptr;
};

}
