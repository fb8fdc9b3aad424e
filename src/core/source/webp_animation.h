#pragma once
// Private to source/.
#include "core/source/moving_file.h"

namespace frenlo {

/// A WebP with an animation (RFC 9649), composed by its own library: each picture whole.
std::unique_ptr<MovingFile> open_webp_animation(const std::filesystem::path& file);
/// Of one that is in memory; there may be only one picture in it.
Result<DecodedPhoto> first_of_webp_animation(std::string_view bytes, const std::filesystem::path& file);

}
