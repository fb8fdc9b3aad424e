#pragma once
// A clip as its frames come, one after another. What lies at a time or has a number is found by clip_reader.cpp.
#include "core/base/libav.h"
#include "core/source/photo_file.h"

#include <opencv2/core.hpp>

#include <cstdint>
#include <filesystem>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace frenlo {

/// A frame that players see, told by its time in the stream.
struct DecodedFrame
{
    std::int64_t pts = AV_NOPTS_VALUE;
    std::int64_t number = 0; ///< from the start, or from where the run began
    int run = 0;             ///< frames of one run are decoded one after another, without a jump
    std::shared_ptr<AVFrame> frame;
};

/// Formats in which each picture builds on the ones before, whatever their packets say of keys.
bool is_animation(AVCodecID id);

/// Why a clip cannot be read, as a Failure, with what to do.
[[noreturn]] void clip_failure(const std::string& why, const std::filesystem::path& file);

class ClipStream
{
public:
    /// Throw Failure where it is no clip, is damaged, or has no picture. bytes: of the file, which outlive this.
    explicit ClipStream(std::filesystem::path file);
    ClipStream(std::string_view bytes, std::filesystem::path file);

    [[nodiscard]] const std::filesystem::path& file() const { return file_; }
    [[nodiscard]] cv::Size size() const { return size_; } ///< with square pixels
    [[nodiscard]] bool alpha() const { return alpha_; }
    [[nodiscard]] int orientation() const { return orientation_; } ///< as Exif says it
    [[nodiscard]] std::optional<CaptureTime> captured() const;
    [[nodiscard]] AVStream& stream() const { return *format_->streams[index_]; }
    [[nodiscard]] bool animation() const { return is_animation(stream().codecpar->codec_id); }

    void start_over();
    /// To a place from which decoding reaches this frame; false where there is none that is known.
    bool seek_before(std::int64_t pts);
    /// The next frame, in the order in which they are seen; none at the end.
    std::optional<DecodedFrame> next();
    /// When each frame is seen and for how long, by what the file says, in its own ticks; in no order, at most so many.
    /// The first that has no time is the last of them. Begins at the start, and leaves it there.
    std::vector<std::pair<std::int64_t, std::int64_t>> frame_times(std::int64_t most);

    [[nodiscard]] std::optional<std::int64_t> last_pts() const { return last_pts_; } ///< of next(), since a jump
    [[nodiscard]] std::int64_t next_number() const { return number_; }
    [[nodiscard]] int run() const { return run_; }

private:
    /// Bytes in memory as a file of FFmpeg's.
    struct Memory
    {
        std::string_view bytes;
        std::int64_t at = 0;

        static int read(void* self, std::uint8_t* to, int size);
        static std::int64_t seek(void* self, std::int64_t to, int whence);
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

    void open(const char* url);
    void look_at_stream();
    void find_orientation();

    std::filesystem::path file_;
    Memory memory_;
    std::unique_ptr<AVIOContext, FreeIo> io_;
    std::unique_ptr<AVFormatContext, CloseInput> format_;
    libav::Owned<AVCodecContext> codec_;
    libav::Owned<AVPacket> packet_{av_packet_alloc()};
    int index_ = 0;
    cv::Size size_;
    bool alpha_ = false;
    int orientation_ = 1;
    bool draining_ = false;
    bool at_start_ = false; ///< nothing was read since it was opened
    std::optional<std::int64_t> last_pts_;
    std::int64_t number_ = 0;
    int run_ = 0;
};

}
