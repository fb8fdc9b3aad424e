#pragma once
#include "core/source/finding.h"
#include "core/source/moving_file.h"
#include "core/source/sidecar.h"

#include <filesystem>
#include <memory>
#include <optional>
#include <span>
#include <vector>

namespace frenlo {

enum class PhotoState
{
    fine,
    unreadable,
    empty,
    not_a_photo
};
std::string_view state_name(PhotoState state);

/// What a file is, as far as it can be known without decoding it (files whose end looks cut off are decoded to know).
struct Inspected
{
    PhotoPtr photo; ///< what is known of it even where it cannot be used
    PhotoState state = PhotoState::fine;
    std::optional<Finding> finding; ///< what is wrong with it
    bool ignored = false;           ///< neither named as a photo nor one: nothing to say about it
    std::optional<Sidecar> sidecar{};
    std::shared_ptr<const PictureTimes> times{}; ///< of a file that has several pictures; photo is its first one
};

Inspected inspect(const std::filesystem::path& file);

/// So many pictures of a file from one on, seen as one photo.
struct PickedPicture
{
    std::int64_t first = 0;
    std::int64_t averaged = 1;
    bool operator==(const PickedPicture&) const = default;
};
/// Pictures of a file that has several, as photos. file: any of its pictures.
std::vector<PhotoPtr> pictures_of(const PhotoPtr& file, const PictureTimes& times,
                                  std::span<const PickedPicture> picked);

/// That a photo cannot be read; why follows its name.
Finding unreadable_finding(const PhotoFile& photo, const std::string& why);

/// Decodes the photo to see whether it can be: what is wrong with it, to follow its name (": the file is cut off."), or
/// nothing. A size that was not known is filled in.
std::string why_not_decoded(PhotoFile& photo);

}
