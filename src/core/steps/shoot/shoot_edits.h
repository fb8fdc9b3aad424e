#pragma once
#include "core/steps/shoot/taking.h"

namespace frenlo {

/// Where a photo that was taken goes.
struct TakenPlace
{
    std::optional<ShotId> shot{};    ///< none: a shot of its own
    std::optional<PhotoId> behind{}; ///< none: at the end
    bool in_place_of = false;        ///< of the one named: that one is set aside behind it
    Hold hold = Frames{2};
};

/// The project with what was taken: the photo in the film, unless it is a trial; other exposures of a bracket set aside
/// behind it. A shot that is gone by now is made anew under this name. shot: where it went.
Project add_taken(const Project& project, const TakenPhoto& taken, const TakenPlace& place, const std::string& name,
                  ShotId& shot);

/// The film or picture that the photos of this shot follow; an empty name: none.
Project follow_film(const Project& project, ShotIndex shot, const std::filesystem::path& file);
/// Its name; empty where there is none.
std::filesystem::path followed_film(const Shot& shot);

/// Which of these files are no photos of the project: taken when it could not be told any more.
std::vector<std::filesystem::path> not_in(const Project& project, const std::vector<std::filesystem::path>& files);

/// The identity of the last photo of a shot that was taken here and is in the film; nothing where there is none.
std::optional<PhotoId> last_taken(const Shot& shot);

/// Photos a second of film that a hold makes at this rate, for people: "12 a second".
std::string photos_a_second(Hold hold, Rate rate);

}
