#pragma once
#include "core/base/id.h"
#include "core/light/light_values.h"
#include "core/photo/find_shots.h"
#include "core/photo/photo_file.h"
#include "core/steady/alignment.h"
#include "core/timing/schedule.h"

#include <optional>
#include <string>
#include <vector>

namespace frenlo {

/// What is done about a photo that stands out from those around it.
enum class LightRemedy {
    undecided, ///< evened as the others are; still to be looked at
    evened, ///< it was looked at: the brightness of its neighbours
    as_shot, ///< its flash or shadow stays
    mixed, ///< its neighbours, mixed, stand in for it
};

/// The light of a photo, as it was measured and evened.
struct PhotoLight
{
    LightChange change;
    double after = 0; ///< measured again after the change, stops
    LightRemedy remedy = LightRemedy::undecided;
    std::optional<LightJump> jump{}; ///< the light changes with this photo
    bool operator==(const PhotoLight&) const = default;
};

using PhotoId = Id<struct PhotoIdTag>;

/// A photo in its place in a shot.
struct ShotPhoto
{
    PhotoPtr photo;
    Hold hold = Frames{1};
    bool aside = false; ///< kept in the project, out of the film
    std::string flaw{}; ///< why it cannot be used, as found when it was brought in: "HARB4838.jpg is empty."; mostly none
    int turns = 0; ///< quarters clockwise, 0 to 3, on top of the camera's orientation
    bool fill = false; ///< cut to the film's shape, instead of bars beside it
    bool what_there_is = false; ///< a cut-off photo, used as far as it can be decoded
    bool marker_card = false;
    bool marked = false; ///< by hand, while it played
    std::optional<Alignment> alignment{}; ///< how it lies in the film's plane, where it was measured
    std::optional<PhotoLight> light{}; ///< where it was measured
    Tie tie = Tie::none; ///< what the user decided when shots were looked for
    std::vector<Finding> remarks{}; ///< what the search for shots had to say of it
    PhotoId id{}; ///< given where it comes into a project
    /// Same content, wherever it was read from.
    bool operator==(const ShotPhoto& o) const
    {
        return (photo == o.photo || *photo == *o.photo) && hold == o.hold && aside == o.aside && flaw == o.flaw &&
               turns == o.turns && fill == o.fill && what_there_is == o.what_there_is && marker_card == o.marker_card &&
               marked == o.marked && alignment == o.alignment && light == o.light && tie == o.tie && remarks == o.remarks && id == o.id;
    }
};

/// The size as seen, turned as the user wants it.
cv::Size seen_size(const ShotPhoto& photo);

}
