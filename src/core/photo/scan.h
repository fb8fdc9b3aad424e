#pragma once
#include "core/base/job.h"
#include "core/photo/photo_file.h"

#include <filesystem>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace frenlo {

enum class FindingKind {
    unreadable,
    empty,
    size_differs,
    number_missing,
    number_repeated,
    order_disagrees,
    copy,
    not_a_photo,
    turned,
};

/// "size-differs": the name on the command line.
std::string_view kind_name(FindingKind kind);

/// One thing that the photographer should know about before it costs time.
struct Finding
{
    FindingKind kind;
    std::vector<std::filesystem::path> files;
    std::string text; ///< for people, a whole sentence
};

enum class PhotoState { fine, unreadable, empty, not_a_photo };
std::string_view state_name(PhotoState state);

struct FoundPhoto
{
    PhotoPtr photo;
    PhotoState state = PhotoState::fine;
};

struct FoundShot
{
    std::string name;
    std::vector<std::size_t> photos; ///< positions in ScanResult::photos
    std::string reason; ///< why these belong together, for people
};

enum class PhotoOrder { by_name, by_time };

struct ScanResult
{
    std::vector<FoundPhoto> photos; ///< everything with a photo's name or content, in order
    std::vector<FoundShot> shots;
    std::vector<std::size_t> aside; ///< photos that belong to no shot: those that cannot be read
    std::vector<Finding> findings;
};

/// Finds the photos in folders and below them; a file among the places stands for its run: the files beside it with the
/// same name but for the number. Hidden files are passed over. Headers are read on all cores; no photo is decoded
/// unless its end looks cut off. Throws Failure when a place cannot be listed, Stopped when stopped.
ScanResult scan(std::span<const std::filesystem::path> places, PhotoOrder order, const Job& job);

/// The findings that follow from names, times, sizes and content, of photos that are one shot, in their order. aside:
/// photos that belong to the shot but not to its film; their numbers are not missing.
std::vector<Finding> findings_in_shot(std::span<const PhotoPtr> photos, std::span<const PhotoPtr> aside = {});

/// Sorts photos as asked; by time, photos without a time come last, and equal times go by name.
void sort_photos(std::vector<PhotoPtr>& photos, PhotoOrder order);

/// The number of a photo's file, for people and reports.
std::optional<std::int64_t> number_of(const PhotoFile& photo);

}
