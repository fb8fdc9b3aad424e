#pragma once
#include "core/base/job.h"
#include "core/export/format.h"
#include "core/export/preset.h"
#include "core/project/project.h"
#include "core/source/seen_photo.h"

#include <filesystem>
#include <optional>
#include <vector>

namespace frenlo {

enum class OnBadPhoto
{
    stop,
    hold_before
};

/// An exact share of a film's frames: all parts of it, in order, are the film, and none has a frame of another.
struct FilmPart
{
    std::int64_t number = 1; ///< from 1
    std::int64_t of = 1;
    bool operator==(const FilmPart&) const = default;
};

/// What to write, of which shot, where: a value that can be kept and done later.
struct ExportOrder
{
    std::optional<ShotId> shot{};     ///< none: the project's first
    bool reel = false;                ///< the Reel, with its sound, in place of a shot
    std::filesystem::path file;       ///< stills: with %0Nd in the name, added where it is missing
    Preset preset;                    ///< with any field changed by the user
    std::optional<Between> between{}; ///< where it should not be the shot's own
    std::string shape{};              ///< the dress of this shape, where a shot has several; empty: that of the size
    std::int64_t times = 1;           ///< the film so often, one after another
    OnBadPhoto on_bad_photo = OnBadPhoto::stop;
    std::optional<FilmPart> part{}; ///< only so much of it; of a film a piece to be joined (join.h)
    bool overwrite = false; ///< what is there under the names that are written goes; never a photo of the project
};

/// What an export will be, known before anything is rendered.
struct ExportPlan
{
    std::filesystem::path file; ///< stills: with the number pattern
    Rate rate{24};
    std::int64_t first_number = 1; ///< of stills
    std::int64_t frames = 0;       ///< of a film or as stills; of a loop its pictures, each as long as its hold
    Seconds length;
    cv::Size size;
    std::uintmax_t estimated_bytes = 0; ///< an experience value, good to a factor of about two; better: estimate.h
    std::uintmax_t free_bytes = 0;
    std::vector<Problem> problems;    ///< what the user should know and may accept
    std::vector<std::string> notes{}; ///< what is not quite as asked, since the format has it so: said, no problem
    /// What is there already under the names that would be written: run_export refuses it unless told to overwrite.
    std::vector<std::filesystem::path> existing{};
};

/// Settings that were tried to keep a size limit, and what they gave.
struct TriedSettings
{
    int quality = 0;
    int colours = 0;
    cv::Size size;
    std::uintmax_t bytes = 0;
    bool sampled = false; ///< worked out from parts of the pictures, not written
};

struct ExportReport
{
    ExportPlan plan;                    ///< of what was written
    std::vector<TriedSettings> tried{}; ///< where there was a size limit: the chosen ones last
    std::int64_t files = 1;
    std::uintmax_t bytes = 0;
    bool checked = false; ///< the written file was read back: frames, size and length are as planned
    std::vector<Problem> problems;
};

/// Throws Failure for what cannot be done at all: an empty film, a target that is one of the photos, a wrong ending.
ExportPlan plan_export(const Project& project, const ExportOrder& order);

/// The next name like this one under which nothing is there: "Harbour-2.mp4", "Harbour-2_%04d.png".
std::filesystem::path free_name(const std::filesystem::path& file, const Format& format, std::int64_t frames);

/// The photos that the export decodes, each once, in the film's order.
std::vector<SeenPhoto> exported_photos(const Project& project, const ExportOrder& order);

/// Decodes the photo as the export will; why the export would fail at it.
std::optional<Problem> check_photo(const SeenPhoto& photo, const PhotoSource& source);
/// The same for all of them. Throws Stopped.
std::vector<Problem> check_photos(const std::vector<SeenPhoto>& photos, const PhotoSource& source, const Job& job);

/// Renders, writes and reads back. The file appears under its name when it is complete, and not before. Pictures are
/// rendered on all cores and written in order; memory holds a few pictures a core. Throws Failure, Stopped.
ExportReport run_export(const Project& project, const ExportOrder& order, const PhotoSource& source, const Job& job);

template <>
struct Words<OnBadPhoto>
{
    static constexpr std::array<std::string_view, 2> words{"stop", "hold-before"};
};
template <>
struct Fields<FilmPart>
{
    static constexpr FieldTable table{
        required("number", &FilmPart::number, "From 1", {1, 100'000}),
        required("of", &FilmPart::of, "", {1, 100'000}),
    };
};
template <>
struct Fields<ExportOrder>
{
    static constexpr FieldTable table{
        field("shot", &ExportOrder::shot, "Absent: the first"),
        field("reel", &ExportOrder::reel, "The Reel in place of a shot"),
        required("file", &ExportOrder::file, "Stills: with a number pattern"),
        required("preset", &ExportOrder::preset, ""),
        field("between", &ExportOrder::between, "Where it should not be the shot's own"),
        field("shape", &ExportOrder::shape, "Of the shot's several; absent: that of the size, or the one in hand"),
        field("times", &ExportOrder::times, "So often, one after another", {1, most_times}),
        field("on_bad_photo", &ExportOrder::on_bad_photo, ""),
        field("part", &ExportOrder::part, "Only a share of its frames"),
        field("overwrite", &ExportOrder::overwrite, "What is there under the names that are written goes"),
    };
};

}
