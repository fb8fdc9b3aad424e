#pragma once
#include "core/steps/retouch/retouch_values.h"

#include <functional>
#include <span>

namespace frenlo {

// Every edit takes a project and returns the project after it. What names a spot that is not there changes nothing.

/// Its identity is made here, unless it has one.
struct WithSpot
{
    Project project;
    SpotId spot{};
};
WithSpot add_spot(const Project& project, ShotIndex shot, Spot spot);
/// change gets a copy; what it sets out of its limits is put right.
Project change_spot(const Project& project, ShotIndex shot, SpotId spot, const std::function<void(Spot&)>& change);
Project remove_spots(const Project& project, ShotIndex shot, std::span<const SpotId> spots);
/// Where it lies at this photo: the only place of a spot that does not move, else a key.
Project place_spot(const Project& project, ShotIndex shot, SpotId spot, PhotoId photo,
                   const std::vector<cv::Point2d>& points, bool moves);
/// A photo of the shot as its clean plate; none: there is none.
Project set_plate(const Project& project, ShotIndex shot, std::optional<PhotoId> photo);
/// A picture that was made of so many photos becomes the clean plate, set aside among the photos; one that was made
/// before goes.
Project put_made_plate(const Project& project, ShotIndex shot, const PhotoPtr& picture, std::int64_t photos);

/// What is not as asked: spots that want a plate where there is none, a shot that was not aligned.
std::vector<std::string> retouch_notes(const Shot& shot);

}
