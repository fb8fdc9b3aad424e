#pragma once
#include "core/steps/tone/tone_values.h"

#include <filesystem>
#include <string>
#include <vector>

namespace frenlo {

/// A tone that is kept with the user, for other shots and projects.
struct NamedTone
{
    std::string name;
    Tone tone;
    bool operator==(const NamedTone&) const = default;
};

template <>
struct Fields<NamedTone>
{
    static constexpr FieldTable table{
        required("name", &NamedTone::name, "For people"),
        field("tone", &NamedTone::tone, ""),
    };
};

/// Those in a file, by name; none where there is no file. Throws Failure where it cannot be read or is none of ours.
std::vector<NamedTone> load_named_tones(const std::filesystem::path& file);

/// With this one under its name, in place of one of the same name; or without it. Whatever else is in the file stays.
/// Throws Failure.
std::vector<NamedTone> keep_named_tone(const std::filesystem::path& file, const NamedTone& tone);
std::vector<NamedTone> forget_named_tone(const std::filesystem::path& file, const std::string& name);

}
