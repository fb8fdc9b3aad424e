#pragma once
// Projects of photos that exist by name only, for edits that look at no pixels.
#include "core/project/edits.h"
#include "core/project/project.h"

#include <string>

namespace frenlo::test {

/// /films/harbour/HARB1000.jpg and on.
inline PhotoPtr made_photo(int number, cv::Size size = {600, 400})
{
    auto p = std::make_shared<PhotoFile>();
    p->file = "/films/harbour/HARB" + std::to_string(1000 + number) + ".jpg";
    p->bytes = std::uintmax_t(1000 + number);
    p->fingerprint = std::to_string(number);
    p->size = size;
    return p;
}

/// Photos of numbers from this one on, each held for so many frames.
inline Shot made_shot(const std::string& name, int photos, std::int64_t frames = 1, int from = 0)
{
    Shot shot;
    shot.name = name;
    for (int i = 0; i < photos; ++i)
        shot.photos.push_back({made_photo(from + i), Frames{frames}});
    return shot;
}

/// Shots a (4 photos of 3 frames), b (6 of 2) and c (2 of 5), at 24 frames a second: 12, 12 and 10 frames.
inline Project made_project()
{
    Project p;
    p = add_shot(p, made_shot("a", 4, 3, 0));
    p = add_shot(p, made_shot("b", 6, 2, 100));
    return add_shot(p, made_shot("c", 2, 5, 200));
}

}
