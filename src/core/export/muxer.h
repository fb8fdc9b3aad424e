#pragma once
// Private to export/: encoders into one file.
#include "core/base/atomic_file.h"
#include "core/base/libav.h"
#include "core/time/rate.h"

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

namespace frenlo::libav {

class Muxer;

/// An encoder and its stream in the file. Set up context() and open it before the muxer begins.
class Track
{
public:
    [[nodiscard]] AVCodecContext& context() { return *codec_; }
    /// options: the encoder's; what it does not know stays in it.
    void open(AVDictionary** options = nullptr);
    /// What the file says of the track.
    void say(const char* key, const char* value);
    /// pts in the encoder's time base.
    void encode(AVFrame& frame) { send(&frame); }

private:
    friend class Muxer;
    Track(Muxer& muxer, const AVCodec& codec);
    void send(AVFrame* frame);

    Muxer& muxer_;
    Owned<AVCodecContext> codec_;
    Owned<AVPacket> packet_;
    AVStream* stream_;
};

/// A file with tracks of picture and sound. First all tracks are added and opened, then it begins; what is encoded is
/// interleaved by time.
class Muxer
{
public:
    /// format: FFmpeg's, whatever the file's name ends in. Problems name the file's target.
    Muxer(const AtomicFile& file, const char* format);

    /// Throws Failure where a library lacks the encoder.
    Track& add_track(const char* encoder);
    /// Before it begins.
    void add_chapter(Seconds begin, Seconds end, const std::string& title);
    /// Opens the file and writes the header. options: the muxer's.
    void begin(AVDictionary** options = nullptr);
    /// What encoders still hold, and the trailer.
    void finish();

private:
    friend class Track;
    void write(AVPacket& packet);
    [[nodiscard]] bool counts_behind_padding() const;

    std::filesystem::path file_; ///< its final name
    Owned<AVFormatContext> format_;
    std::vector<std::unique_ptr<Track>> tracks_;
};

}
