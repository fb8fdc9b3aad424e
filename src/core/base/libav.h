#pragma once
// FFmpeg's C objects with owners, and its errors as text.
#include "core/base/problem.h"

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavfilter/avfilter.h>
#include <libavformat/avformat.h>
#include <libavutil/channel_layout.h>
#include <libavutil/frame.h>
#include <libswresample/swresample.h>
#include <libswscale/swscale.h>
}

#include <filesystem>
#include <memory>
#include <string>

namespace frenlo::libav {

struct Free
{
    void operator()(AVCodecContext* p) const { avcodec_free_context(&p); }
    void operator()(AVFrame* p) const { av_frame_free(&p); }
    void operator()(AVPacket* p) const { av_packet_free(&p); }
    void operator()(AVFilterGraph* p) const { avfilter_graph_free(&p); }
    void operator()(SwsContext* p) const { sws_freeContext(p); }
    void operator()(SwrContext* p) const { swr_free(&p); }
    void operator()(AVFormatContext* p) const
    {
        if (p->oformat) {
            avio_closep(&p->pb);
            avformat_free_context(p);
        } else {
            avformat_close_input(&p);
        }
    }
};

template <class T>
using Owned = std::unique_ptr<T, Free>;

/// "No space left on device".
std::string error_text(int error);

/// Throws a Failure about this file when code is an FFmpeg error; returns code.
int check(int code, const char* what, const std::filesystem::path& file);

/// The path so that no part of it is taken for a protocol.
std::string url_of(const std::filesystem::path& file);

/// FFmpeg's libraries write to standard error unless told not to; what matters travels as error codes.
void be_quiet();

}
