#pragma once
#include "core/base/id.h"
#include "core/project/shot_kind.h"
#include "core/project/step_values.h"
#include "core/source/finding.h"
#include "core/source/lens.h"
#include "core/source/photo_file.h"
#include "core/time/schedule.h"

#include <optional>
#include <string>
#include <vector>

namespace frenlo {

using PhotoId = Id<struct PhotoIdTag>;

/// A photo in its place in a shot. Equal by content, wherever it was read from.
struct ShotPhoto
{
    PhotoPtr photo;
    Hold hold = Frames{1};
    std::optional<Between> to_next{}; ///< how it becomes the photo after it; none: as the shot's pacing says
    bool aside = false;               ///< kept in the project, out of the film
    std::string
        flaw{};    ///< why it cannot be used, as found when it was brought in: "HARB4838.jpg is empty."; mostly none
    int turns = 0; ///< quarters clockwise, 0 to 3, on top of the camera's orientation
    Lens lens{};   ///< what it did to straight lines is taken out
    bool backwards = false;     ///< it and such photos beside it are played in the other order
    bool fill = false;          ///< cut to the film's shape, instead of bars beside it
    bool what_there_is = false; ///< a cut-off photo, used as far as it can be decoded
    bool marker_card = false;
    bool marked = false;                                ///< by hand, while it played
    PhotoSteps steps{};                                 ///< what each step measured and decided
    GroupingOverride grouping = GroupingOverride::none; ///< what the user decided when shots were looked for
    std::vector<Finding> remarks{};                     ///< what the search for shots had to say of it
    PhotoId id{};                                       ///< given where it comes into a project
};

/// The size as seen, turned as the user wants it.
cv::Size seen_size(const ShotPhoto& photo);

template <>
struct Fields<ShotPhoto>
{
    static constexpr FieldTable table{
        required("photo", &ShotPhoto::photo, "The file, as it was when it was scanned"),
        required("hold", &ShotPhoto::hold,
                 "Frames of the pacing rate, 2f, or seconds, exact: 0.15s, 1/6s; 0f is not shown"),
        field("to_next", &ShotPhoto::to_next, "How it becomes the photo after it; absent: as the shot's pacing says"),
        field("aside", &ShotPhoto::aside, "Kept in the project, out of the film"),
        field("flaw", &ShotPhoto::flaw, "Why it cannot be used, as found when it was brought in"),
        field("turns", &ShotPhoto::turns, "Quarters clockwise on top of the orientation", {0, 3}),
        field("lens", &ShotPhoto::lens, "What it did to straight lines is taken out"),
        field("backwards", &ShotPhoto::backwards, "It and such photos beside it are played in the other order"),
        field("fill", &ShotPhoto::fill, "Cut to the film's shape instead of bars beside it"),
        field("what_there_is", &ShotPhoto::what_there_is, "A cut-off photo, used as far as it can be decoded"),
        field("marker_card", &ShotPhoto::marker_card, ""),
        field("marked", &ShotPhoto::marked, "By hand, while it played"),
        field("steps", &ShotPhoto::steps, "What each step measured and decided, by its key"),
        field("tie", &ShotPhoto::grouping, "What the user decided when shots were looked for"),
        field("remarks", &ShotPhoto::remarks, "What the search for shots had to say of it"),
        field("id", &ShotPhoto::id, "Who it is, wherever it is moved to"),
    };
};

inline bool operator==(const ShotPhoto& a, const ShotPhoto& b)
{
    return same_fields(a, b);
}

}
