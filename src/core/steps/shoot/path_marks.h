#pragma once
#include "core/steps/shoot/shoot_values.h"

namespace frenlo {

/// The places of its marks, one a photo from the first on, both ends included: steps + 1 of them, at eased shares of
/// the length of the curve through its points (Catmull and Rom 1974, centripetal, so that it makes no loops).
std::vector<cv::Point2d> marks_of(const MarkPath& path);

/// The curve itself, as a line of points close enough to look round.
std::vector<cv::Point2d> curve_of(const MarkPath& path);

/// Where something on the path should be on this photo; nothing before it begins and after its end.
std::optional<cv::Point2d> mark_at(const MarkPath& path, std::int64_t photo);

/// Throws Failure where there are too many.
Project add_path(const Project& project, ShotIndex shot, MarkPath path);
Project change_path(const Project& project, ShotIndex shot, std::size_t path, const MarkPath& to);
Project remove_path(const Project& project, ShotIndex shot, std::size_t path);

}
