#include "core/export/kept_presets.h"

#include "core/base/folders.h"
#include "core/base/kept_values.h"
#include "core/export/format.h"
#include "core/project/value_codecs.h"

#include <algorithm>

namespace frenlo {

namespace {

KeptIn presets_in(const std::filesystem::path& file)
{
    return {file, "presets", "the presets"};
}

std::vector<Preset> known(std::vector<Preset> presets)
{
    std::erase_if(presets, [](const Preset& p) {
        const auto all = formats();
        return std::none_of(all.begin(), all.end(), [&](const Format& f) { return f.key == p.format; });
    });
    return presets;
}

}

std::filesystem::path usual_presets_file()
{
    return data_folder() / "kept" / "presets.json";
}

std::vector<Preset> load_presets(const std::filesystem::path& file)
{
    return known(load_kept<Preset>(presets_in(file)));
}

std::vector<Preset> keep_preset(const std::filesystem::path& file, const Preset& preset)
{
    if (preset.name.empty() || preset.name.find('/') != std::string::npos)
        throw Failure({"a preset needs a name without slashes", file, "Type another name"});
    if (find_preset(preset.name))
        throw Failure({"\"" + preset.name + "\" is one of Frenlo's own presets", file, "Type another name"});
    std::error_code ec;
    std::filesystem::create_directories(file.parent_path(), ec); // where it cannot be, writing into it says so
    return known(change_kept<Preset>(presets_in(file), preset.name, preset));
}

std::vector<Preset> forget_preset(const std::filesystem::path& file, const std::string& name)
{
    return known(change_kept<Preset>(presets_in(file), name, std::nullopt));
}

const Preset* find_preset(std::string_view name, std::span<const Preset> own)
{
    if (const Preset* preset = find_preset(name))
        return preset;
    const auto at = std::find_if(own.begin(), own.end(), [&](const Preset& p) { return p.name == name; });
    return at == own.end() ? nullptr : &*at;
}

}
