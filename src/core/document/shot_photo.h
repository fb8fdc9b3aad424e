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

/// A photo in its place in a shot. Equal by content, wherever it was read from.
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
};

/// The size as seen, turned as the user wants it.
cv::Size seen_size(const ShotPhoto& photo);

template <>
struct Words<LightRemedy>
{
    static constexpr std::array<std::string_view, 4> words{"undecided", "evened", "as_shot", "mixed"};
};
template <>
struct Fields<PhotoLight>
{
    static constexpr std::tuple table{
        field("change", &PhotoLight::change, ""),
        field("after", &PhotoLight::after, "Measured again after the change, stops", in_stops),
        field("remedy", &PhotoLight::remedy, "What was decided about a photo that stands out"),
        field("jump", &PhotoLight::jump, "The light changes with this photo"),
    };
};
template <>
struct Fields<ShotPhoto>
{
    static constexpr std::tuple table{
        required("photo", &ShotPhoto::photo, "The file, as it was when it was scanned"),
        required("hold", &ShotPhoto::hold, "Frames of the pacing rate, 2f, or seconds, exact: 0.15s, 1/6s; 0f is not shown"),
        field("aside", &ShotPhoto::aside, "Kept in the project, out of the film"),
        field("flaw", &ShotPhoto::flaw, "Why it cannot be used, as found when it was brought in"),
        field("turns", &ShotPhoto::turns, "Quarters clockwise on top of the orientation", {0, 3}),
        field("fill", &ShotPhoto::fill, "Cut to the film's shape instead of bars beside it"),
        field("what_there_is", &ShotPhoto::what_there_is, "A cut-off photo, used as far as it can be decoded"),
        field("marker_card", &ShotPhoto::marker_card, ""),
        field("marked", &ShotPhoto::marked, "By hand, while it played"),
        field("alignment", &ShotPhoto::alignment, "How it lies in the film's plane, where it was measured"),
        field("light", &ShotPhoto::light, "Where it was measured"),
        field("tie", &ShotPhoto::tie, "What the user decided when shots were looked for"),
        field("remarks", &ShotPhoto::remarks, "What the search for shots had to say of it"),
        field("id", &ShotPhoto::id, "Who it is, wherever it is moved to"),
    };
};

inline bool operator==(const ShotPhoto& a, const ShotPhoto& b)
{
    return same_fields(a, b);
}

}
