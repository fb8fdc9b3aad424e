#pragma once
#include "core/source/photo_file.h"

#include <filesystem>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace frenlo {

enum class FindingKind
{
    unreadable,
    empty,
    size_differs,
    number_missing,
    number_repeated,
    order_disagrees,
    copy,
    not_a_photo,
    turned,
    exposure_differs, ///< a suggestion: much brighter or darker than its neighbours
    unlike,           ///< a suggestion: shows something else than its neighbours
    blurred,          ///< a suggestion
    gone,             ///< no longer where it was
    date_odd,         ///< its time of capture is no time
    folder_unreadable,
    bracket,       ///< several exposures of one moment: the middle one is shown
    border_unsure, ///< a border of a shot, or a photo in it, that a person should look at
    profile_odd,   ///< its colour profile cannot be used
};

/// "size-differs": the name on the command line.
std::string_view kind_name(FindingKind kind);

/// What can be done about a finding on the spot. The edits are in document/edits.h.
enum class Remedy
{
    set_aside,         ///< the files of the finding, or all but the first where they are the same photo
    hold_before,       ///< the photo before stays for the time of this one
    use_what_there_is, ///< of a cut-off photo, the part that can be decoded
    turn_right,        ///< a quarter clockwise
    turn_left,
    fill, ///< cut it to the film's shape instead of bars beside it
    order_by_time,
    order_by_name,
    reverse,
    first_to_end, ///< the first photo goes to the end
    find_again,   ///< look for it in another folder
    merge,        ///< the exposures of a bracket into one
};

/// One thing that the photographer should know about before it costs time.
struct Finding
{
    FindingKind kind;
    std::vector<std::filesystem::path> files;
    std::string text;               ///< for people, a whole sentence
    std::vector<Remedy> remedies{}; ///< the most likely first
    bool operator==(const Finding&) const = default;
};

/// What is mostly done about a photo that is out of its shot's way, the most likely first; nothing for other kinds.
std::vector<Remedy> usual_remedies(FindingKind kind);

/// The findings that follow from names, times, sizes and content, of photos that are one shot, in their order. aside:
/// photos that belong to the shot but not to its film; their numbers are not missing.
std::vector<Finding> findings_in_shot(std::span<const PhotoPtr> photos, std::span<const PhotoPtr> aside = {});

/// Files of the same content, each group with the photo's own name first. Reads those that may be.
std::vector<std::vector<std::filesystem::path>> copies_among(std::span<const PhotoPtr> photos);

/// Whether the second file was made from the first by copying it: beside it, or elsewhere on the same card, and not a
/// number of the same run, as drawings have that are held for several.
bool copied_from(const std::filesystem::path& original, const std::filesystem::path& copy);

/// What to call a few files: "HARB4838.jpg", "HARB4838.jpg and 3 more".
std::string some_names(std::span<const std::filesystem::path> files);

template <>
struct Words<FindingKind>
{
    static constexpr std::array<std::string_view, 18> words{
        "unreadable",      "empty",         "size-differs", "number-missing", "number-repeated",
        "order-disagrees", "copy",          "not-a-photo",  "turned",         "exposure-differs",
        "unlike",          "blurred",       "gone",         "date-odd",       "folder-unreadable",
        "bracket",         "border-unsure", "profile-odd"};
};
template <>
struct Words<Remedy>
{
    static constexpr std::array<std::string_view, 12> words{
        "set-aside",     "hold-before",   "use-what-there-is", "turn-right",   "turn-left",  "fill",
        "order-by-time", "order-by-name", "reverse",           "first-to-end", "find-again", "merge"};
};
template <>
struct Fields<Finding>
{
    static constexpr FieldTable table{
        required("kind", &Finding::kind, ""),
        required("files", &Finding::files, "The first one is the photo itself"),
        required("text", &Finding::text, "For people"),
        field("remedies", &Finding::remedies, "The most likely first"),
    };
};

}
