#pragma once
#include "core/base/problem.h"

#include <filesystem>
#include <optional>
#include <string>

namespace frenlo {

/// What an XMP sidecar (ISO 16684-1) says of a photo.
struct Sidecar
{
    int rating = 0;    ///< xmp:Rating: 1 to 5, 0 none, -1 rejected
    std::string label; ///< xmp:Label
    // In Frenlo's own namespace:
    std::string hold; ///< as hold_text() writes it; empty where nothing is said
    bool aside = false;
    int turns = 0; ///< quarters clockwise, 0 to 3
    bool operator==(const Sidecar&) const = default;
};

inline constexpr const char* sidecar_namespace = "https://frenlo.net/ns/photo/1.0/";

/// The sidecar that lies beside the photo: "a.xmp" or "a.jpg.xmp" of a.jpg, in letters of any size. Empty where there
/// is none.
std::filesystem::path sidecar_beside(const std::filesystem::path& photo);

/// Nothing where there is none, or where it cannot be read.
std::optional<Sidecar> read_sidecar(const std::filesystem::path& photo);

/// Writes Frenlo's own fields into the photo's sidecar, which is made where there is none; every other field in it
/// stays as it is. False where it says all of it already. Throws Failure: a sidecar that cannot be read is left alone.
bool write_sidecar(const std::filesystem::path& photo, const Sidecar& sidecar);

}
