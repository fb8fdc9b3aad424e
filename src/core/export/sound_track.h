#pragma once
// Private to export/: a track of sound beside that of the picture.
#include "core/export/format.h"
#include "core/export/muxer.h"

#include <filesystem>
#include <memory>

namespace frenlo {

/// Encodes as it is told how far the picture is, so that both lie side by side in the file. What an encoder puts before
/// the first sample is said in the file, and players leave it out.
class SoundTrack
{
public:
    /// encoder: FFmpeg's name. Before the muxer begins.
    SoundTrack(libav::Muxer& muxer, const char* encoder, SoundToWrite sound, std::filesystem::path file);

    /// All that is heard before this time.
    void write_until(Seconds time);

private:
    void encode(std::int64_t samples);

    libav::Track& track_;
    SoundToWrite sound_;
    std::filesystem::path file_; ///< its final name
    std::int64_t at_ = 0;
    std::int64_t block_ = 1024; ///< samples that the encoder takes at once
    std::vector<float> pairs_;
};

}
