#pragma once
// Private to export/: films of one picture a frame, whatever encoder and file they go into.
#include "core/export/format.h"
#include "core/export/muxer.h"

namespace frenlo {

/// How FFmpeg's libraries write a kind of film.
struct FilmCodec
{
    const char* encoder;
    const char* muxer;
    AVPixelFormat pixels;                       ///< of 8 bit
    AVPixelFormat deep = AV_PIX_FMT_NONE;       ///< where the preset asks for more
    AVPixelFormat with_alpha = AV_PIX_FMT_NONE; ///< of 8 bit, where the film is transparent
    AVPixelFormat deep_with_alpha = AV_PIX_FMT_NONE;
    const char* sound = nullptr; ///< the encoder of what is heard
    bool full_range = false;
    AVColorSpace matrix = AVCOL_SPC_BT709; ///< of Y'CbCr
    /// What the encoder and the muxer are told; may change the context, too.
    void (*set_up)(const Preset& preset, bool alpha, AVCodecContext& context, AVDictionary** encoder_options,
                   AVDictionary** muxer_options) = nullptr;
};

/// Constant frame rate. Y'CbCr is converted with and tagged as its matrix says, BT.709 (Rec. ITU-R BT.709-6) where
/// nothing else does; R G B keeps every bit.
/// sRGB's code values are kept, as everywhere in the trade, so that players show the colours of the photos.
std::unique_ptr<FrameSink> film_sink(const Writing& writing, const FilmCodec& codec);

}
