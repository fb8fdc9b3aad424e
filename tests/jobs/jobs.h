#pragma once
// What the whole jobs share.
#include "tests/app/person.h"

namespace frenlo::test {

inline QString q(const char* text)
{
    return QString::fromUtf8(text);
}

inline const Shot& shot(Person& p)
{
    return *p.window().viewing().shot();
}

/// A field of a film's or loop's first picture track, as ffprobe says it.
std::string probed(const std::filesystem::path& file, const char* field);

}
