#pragma once
#include "core/base/strong.h"
#include "core/photo/photo_file.h"
#include "core/timing/schedule.h"

#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace frenlo {

/// A photo in its place in a shot.
struct ShotPhoto
{
    PhotoPtr photo;
    Hold hold = Frames{1};
    bool aside = false; ///< kept in the project, out of the film
    std::string flaw; ///< why it cannot be used, as found when it was brought in: "HARB4838.jpg is empty."; mostly none
    /// Same content, wherever it was read from.
    bool operator==(const ShotPhoto& o) const
    {
        return (photo == o.photo || *photo == *o.photo) && hold == o.hold && aside == o.aside && flaw == o.flaw;
    }
};

/// Photos in order that make one piece of film.
struct Shot
{
    std::string name;
    std::vector<ShotPhoto> photos;
    /// The rate that holds in frames were thought in. None: as delivered, so that a change of the delivery rate keeps
    /// the frames of each photo and changes the length.
    std::optional<Rate> paced_at;
    bool operator==(const Shot&) const = default;
};

using ShotPtr = std::shared_ptr<const Shot>;

/// All that a photographer has made, as a value. Shots that an edit does not touch are shared with the project before
/// it, so keeping every step costs little, and what changed is found by comparing pointers.
struct Project
{
    Rate delivered_at{24};
    std::vector<ShotPtr> shots;

    [[nodiscard]] const Shot& shot(ShotIndex i) const { return *shots.at(i.at()); }
    [[nodiscard]] std::optional<ShotIndex> find_shot(std::string_view name) const;
    /// Same content; shared shots are not looked into.
    bool operator==(const Project&) const;
};

/// Which photo of the shot is in which frame of the film; set-aside photos are in none.
Schedule schedule_of(const Project& project, const Shot& shot);

/// How many photos are in the film.
std::int64_t photos_in_film(const Shot& shot);

}
