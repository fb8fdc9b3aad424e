#include "core/steps/tone/named_tones.h"

#include "core/base/atomic_file.h"
#include "core/base/field_json.h"
#include "core/base/problem.h"

#include <algorithm>
#include <fstream>

namespace frenlo {

namespace {

constexpr const char* list_key = "tones";

Json read_file(const std::filesystem::path& file)
{
    std::ifstream in(file, std::ios::binary);
    if (!in)
        return Json::object();
    try {
        Json j = Json::parse(in);
        if (!j.is_object())
            throw std::runtime_error("it is no object");
        return j;
    } catch (const std::exception& e) {
        throw Failure({std::string("the tones that were kept cannot be read: ") + e.what(), file,
                       "Put it right or move it away; a new one is begun then"});
    }
}

std::vector<NamedTone> tones_in(const Json& j, const std::filesystem::path& file)
{
    const auto list = j.find(list_key);
    if (list == j.end())
        return {};
    try {
        return Coded<std::vector<NamedTone>>::read(*list, {});
    } catch (const std::exception& e) {
        throw Failure({std::string("the tones that were kept cannot be read: ") + e.what(), file,
                       "Put it right or move it away; a new one is begun then"});
    }
}

std::vector<NamedTone> write(const std::filesystem::path& file, const std::string& without,
                             const std::optional<NamedTone>& with)
{
    Json j = read_file(file);
    std::vector<NamedTone> tones = tones_in(j, file);
    std::erase_if(tones, [&](const NamedTone& t) { return t.name == without; });
    if (with)
        tones.push_back(*with);
    std::sort(tones.begin(), tones.end(), [](const NamedTone& a, const NamedTone& b) { return a.name < b.name; });
    j[list_key] = Coded<std::vector<NamedTone>>::write(tones);
    write_whole_file(file, j.dump(2) + '\n');
    return tones;
}

}

std::vector<NamedTone> load_named_tones(const std::filesystem::path& file)
{
    return tones_in(read_file(file), file);
}

std::vector<NamedTone> keep_named_tone(const std::filesystem::path& file, const NamedTone& tone)
{
    return write(file, tone.name, tone);
}

std::vector<NamedTone> forget_named_tone(const std::filesystem::path& file, const std::string& name)
{
    return write(file, name, std::nullopt);
}

}
