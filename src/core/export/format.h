#pragma once
#include "core/base/atomic_file.h"
#include "core/export/frame_sink.h"
#include "core/export/preset.h"
#include "core/export/still_names.h"
#include "core/time/frame_range.h"

#include <filesystem>
#include <functional>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace frenlo {

/// What is heard with a film: pairs from any position on (sound_reader.h).
struct SoundToWrite
{
    std::function<void(std::int64_t at, std::span<float> out)> read;
    std::int64_t samples = 0;
};

/// Where a part of a film begins that players can go to.
struct Chapter
{
    Seconds at;
    std::string title;
};

/// The colours that were chosen for a loop's pictures: the same for each quality.
struct KeptPalette
{
    cv::Size size;           ///< of the pictures; 0x0 where nothing is kept
    int wished = 0;          ///< how many colours were asked for
    bool dark_count = false; ///< as PaletteChooser's DarkColours::count
    std::vector<cv::Vec3b> colours;
};

/// What a writer is given.
struct Writing
{
    const AtomicFile* file = nullptr;  ///< of all formats but stills
    std::filesystem::path folder{};    ///< of stills; it exists
    std::optional<StillNames> names{}; ///< of stills
    std::int64_t first_number = 1;     ///< of stills
    cv::Size size;
    Rate rate{24};
    std::span<const FrameRange> runs; ///< all that will be written, in order
    const Preset* preset = nullptr;
    bool alpha = false; ///< something in it may be transparent
    int threads = 0;    ///< of the encoder, 0 for all cores
    std::optional<SoundToWrite> sound{};
    std::vector<Chapter> chapters{};
    KeptPalette* palette = nullptr; ///< of loops that are written again and again from the same pictures; not owned
};

/// What a file of this format will roughly take.
struct Amount
{
    double pixels = 0;         ///< of a picture
    std::int64_t pictures = 0; ///< different ones
    std::int64_t frames = 0;
};

/// One thing that can be written: what it can do, and how it is done. A format is this entry and its writer, in one
/// file; formats() is the only list.
struct Format
{
    enum class Kind
    {
        film,  ///< frames of one length
        loop,  ///< each picture as long as its hold
        stills ///< a file a frame
    };

    std::string_view key;  ///< in presets and projects: "h264-mp4"
    std::string_view name; ///< for people, after "a": "film"
    Kind kind = Kind::film;
    std::vector<std::string_view> endings; ///< with the dot, lower case; new files get the first
    bool alpha = false;
    bool sound = false;
    bool chapters = false;           ///< players find them in it
    bool sixteen = false;            ///< 16 bit a channel, where the preset asks for it
    bool quality = false;            ///< it has one
    bool colours = false;            ///< it has a palette
    std::optional<Rate> clock{};     ///< loops: what their delays count in
    bool merges_alike = false;       ///< loops: pictures that are alike and follow one another may become one
    std::int64_t least_pictures = 1; ///< one alone is written so often, each for its part of the time
    int side_multiple = 1;           ///< of both sides
    cv::Size least{1, 1};
    int most_side = 65'535;
    double (*bytes)(const Preset&, const Amount&) = nullptr; ///< an experience value, good to a factor of about two
    std::unique_ptr<FrameSink> (*writer)(const Writing&) = nullptr;

    [[nodiscard]] std::string_view ending() const { return endings.front(); }
    [[nodiscard]] bool stills() const { return kind == Kind::stills; }
    /// Whether the file's ending is one that it writes, in letters of any size.
    [[nodiscard]] bool fits(const std::filesystem::path& file) const;
};

std::span<const Format> formats();
/// Throws Failure where there is none, as in the preset of a newer version.
const Format& format_of(const Preset& preset);

// The entries, each beside its writer.
Format h264_in_mp4();
Format h264_in_mov();
Format h265_in_mp4();
Format h265_in_mov();
Format vp9_in_webm();
Format av1_in_webm();
Format ffv1_in_matroska();
Format rdd36_in_mov();
Format vc3_in_mov();
Format motion_jpeg_in_avi();
Format plain_in_avi();
Format plain_in_mov();
Format animated_gif();
Format png_loop();
Format webp_loop();
Format avif_loop();
Format webp_loop_lossless();
Format png_stills();
Format tiff_stills();
Format jpeg_stills();
Format exr_stills();

}
