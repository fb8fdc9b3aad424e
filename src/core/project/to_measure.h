#pragma once
#include "core/project/project.h"
#include "core/source/seen_photo.h"

#include <utility>
#include <vector>

namespace frenlo {

/// The shot's photos as they are to be measured: those in the film, in its order; where each is in the shot.
struct ToMeasure
{
    std::vector<SeenPhoto> photos;
    std::vector<PhotoIndex> at;
    std::vector<PhotoId> ids; ///< who they are, wherever they are by then
    /// Those that are still in the shot and still seen in the same way: position here, and where it is now.
    [[nodiscard]] std::vector<std::pair<std::size_t, PhotoIndex>> still_in(const Shot& now) const;
    /// Whether what is measured of one holds for the other: the same content, seen in the same way, in the same places.
    [[nodiscard]] bool same_photos(const ToMeasure& other) const;
};
ToMeasure to_measure(const Shot& shot);
SeenPhoto seen_photo(const ShotPhoto& photo);

}
