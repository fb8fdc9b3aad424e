#pragma once
#include "core/base/job.h"
#include "core/source/inspect.h"
#include "core/source/order.h"
#include "core/steps/sort/clip_taking.h"
#include "core/steps/sort/find_shots.h"

#include <filesystem>
#include <functional>
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace frenlo {

struct FoundPhoto
{
    PhotoPtr photo;
    PhotoState state = PhotoState::fine;
    std::optional<Sidecar> sidecar{};
};

/// How closely photos are looked at.
enum class Looking
{
    at_headers,    ///< not at all: names, times, sizes
    at_thumbnails, ///< at the thumbnail that the camera put into the file; at the photo where there is none
    at_photos,     ///< at every photo, reduced by the decoder: finds blurred ones too
};

struct ScanOptions
{
    PhotoOrder order = PhotoOrder::by_name;
    Looking looking = Looking::at_thumbnails;
    std::optional<Seconds> pause{}; ///< that ends a shot, instead of the one that is found
    bool one_shot = false;          ///< all photos are one shot, whatever lies between them
};

struct ScanResult
{
    std::vector<FoundPhoto> photos; ///< everything with a photo's name or content, in order
    std::vector<FoundShot> shots;
    Seconds pause;                         ///< that ended shots
    std::vector<std::size_t> marker_cards; ///< positions in photos
    std::vector<std::size_t> left_out;     ///< inside shots, and not of their films: copies, exposures of a bracket
    std::vector<UnsureBorder> unsure;
    std::vector<std::size_t> aside; ///< photos that belong to no shot or cannot be read
    std::vector<Finding> findings;
    std::vector<FoundClip> clips; ///< files of several pictures: each is a shot of its own, beside the photos
};

/// Called with what is known so far: of very many photos the first few hundred, then all of them before they are looked
/// at.
using ScanArrival = std::function<void(ScanResult)>;

/// Finds the photos in folders and below them; a file among the places stands for its run. Headers are read on all
/// cores. Throws Failure when a place cannot be listed, Stopped when stopped.
ScanResult scan(std::span<const std::filesystem::path> places, const ScanOptions& options, const Job& job,
                const ScanArrival& arrived = {});

/// A look at each photo, on all cores, in the order given; empty for photos that cannot be read. Throws Stopped.
std::vector<PhotoSignature> look_at(std::span<const PhotoPtr> photos, const Job& job);

/// Adds what is suggested of photos of which nothing is suggested yet: one that is too bright or shows something else
/// cannot be compared in its sharpness.
void add_suggestions(std::vector<Finding>& suggested, std::vector<Finding> more);

/// Photos of one shot, in order, that are less sharp than their neighbours: suggestions. Decodes every photo at an
/// eighth, or fewer where that is too small to tell. Throws Stopped.
std::vector<Finding> blurred(std::span<const PhotoPtr> photos, const Job& job);

/// Blurred among photos whose sharpness is known; 0 where it is not.
std::vector<Finding> blurred(std::span<const PhotoPtr> photos, std::span<const double> sharpness);

}
