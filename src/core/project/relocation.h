#pragma once
#include "core/project/project.h"

#include <filesystem>
#include <map>

namespace frenlo {

/// Where files are now, by where they were.
using Moved = std::map<std::filesystem::path, std::filesystem::path>;

/// Gives projects with their photos at their new places; nothing else changes. Projects that shared shots and photos
/// share them afterwards too.
class Relocation
{
public:
    explicit Relocation(Moved moved) : moved_(std::move(moved)) {}
    Project operator()(const Project& project);

private:
    PhotoPtr photo(const PhotoPtr& old);
    ShotPtr shot(const ShotPtr& old);

    Moved moved_;
    std::map<PhotoPtr, PhotoPtr> photos_;
    std::map<ShotPtr, ShotPtr> shots_;
};

}
