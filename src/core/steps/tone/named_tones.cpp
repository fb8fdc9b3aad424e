#include "core/steps/tone/named_tones.h"

#include "core/base/kept_values.h"

namespace frenlo {

namespace {

KeptIn tones_in(const std::filesystem::path& file)
{
    return {file, "tones", "the tones"};
}

}

std::vector<NamedTone> load_named_tones(const std::filesystem::path& file)
{
    return load_kept<NamedTone>(tones_in(file));
}

std::vector<NamedTone> keep_named_tone(const std::filesystem::path& file, const NamedTone& tone)
{
    return change_kept<NamedTone>(tones_in(file), tone.name, tone);
}

std::vector<NamedTone> forget_named_tone(const std::filesystem::path& file, const std::string& name)
{
    return change_kept<NamedTone>(tones_in(file), name, std::nullopt);
}

}
