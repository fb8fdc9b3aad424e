#pragma once
// Values that the user keeps under names, in a file of JSON beside whatever else is in it.
#include "core/base/atomic_file.h"
#include "core/base/field_json.h"
#include "core/base/problem.h"

#include <algorithm>
#include <filesystem>
#include <fstream>
#include <iterator>
#include <optional>
#include <string>
#include <vector>

namespace frenlo {

/// Where they are: the file, the key of their list in it, and what a message calls them: "the tones".
struct KeptIn
{
    std::filesystem::path file;
    const char* key;
    const char* what;
};

/// Those in the file, by name; none where there is no file. T: fields, and a name. Throws Failure where the file cannot
/// be read or is none of ours.
template <class T>
std::vector<T> load_kept(const KeptIn& in, Json* all = nullptr)
{
    std::ifstream stream(in.file, std::ios::binary);
    if (!stream)
        return {};
    try {
        Json j = json_from(std::string(std::istreambuf_iterator<char>(stream), {}));
        if (!j.is_object())
            throw std::runtime_error("it is no object");
        const auto list = j.find(in.key);
        auto values = list == j.end() ? std::vector<T>() : Coded<std::vector<T>>::read(*list, {});
        if (all)
            *all = std::move(j);
        return values;
    } catch (const std::exception& e) {
        throw Failure({std::string(in.what) + " that were kept cannot be read: " + e.what(), in.file,
                       "Put it right or move it away; a new one is begun then"});
    }
}

/// With this one, in place of one of the same name; or without the one of this name. Throws Failure.
template <class T>
std::vector<T> change_kept(const KeptIn& in, const std::string& without, const std::optional<T>& with)
{
    Json j = Json::object();
    auto values = load_kept<T>(in, &j);
    std::erase_if(values, [&](const T& v) { return v.name == without || (with && v.name == with->name); });
    if (with)
        values.push_back(*with);
    std::sort(values.begin(), values.end(), [](const T& a, const T& b) { return a.name < b.name; });
    j[in.key] = Coded<std::vector<T>>::write(values);
    write_whole_file(in.file, json_text(j, 2) + '\n');
    return values;
}

}
