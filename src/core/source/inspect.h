#pragma once
#include "core/source/finding.h"

#include <filesystem>
#include <optional>

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
};

Inspected inspect(const std::filesystem::path& file);

/// That a photo cannot be read; why follows its name.
Finding unreadable_finding(const PhotoFile& photo, const std::string& why);

/// Decodes the photo to see whether it can be: what is wrong with it, to follow its name (": the file is cut off."), or
/// nothing. A size that was not known is filled in.
std::string why_not_decoded(PhotoFile& photo);

}
