#pragma once
#include "core/base/typed_values.h"

#include <string>
#include <utility>
#include <vector>

namespace frenlo {

/// What steps measure and decide of a shot and of its photos is theirs: a project keeps it without knowing what it is.
/// A step says beside each of its structs under which key it is kept:
///     template <> struct PhotoValue<Alignment> { static constexpr const char* key = "alignment"; };
/// and lists it in its Step (steps/step.h), so that files and schema have it.
template <class T>
struct PhotoValue; ///< of one photo in a shot
template <class T>
struct ShotValue; ///< of a shot

struct OfPhoto
{
    using Type = ValueType;
    template <class T>
    static constexpr ValueType type = value_type<T>(PhotoValue<T>::key);
    static bool before(const Type& a, const Type& b) { return std::string_view(a.key) < b.key; }
};
struct OfShot
{
    using Type = ValueType;
    template <class T>
    static constexpr ValueType type = value_type<T>(ShotValue<T>::key);
    static bool before(const Type& a, const Type& b) { return std::string_view(a.key) < b.key; }
};

using PhotoSteps = TypedValues<OfPhoto>;
using ShotSteps = TypedValues<OfShot>;

/// What a file has of steps that this version does not know: it goes back into the file as it was.
struct UnknownSteps
{
    std::vector<std::pair<std::string, std::string>> values; ///< key and JSON
    bool operator==(const UnknownSteps&) const = default;
};
template <>
struct PhotoValue<UnknownSteps>
{
    static constexpr const char* key = "";
};
template <>
struct ShotValue<UnknownSteps>
{
    static constexpr const char* key = "";
};
inline std::size_t hash_value(const UnknownSteps& unknown)
{
    std::size_t h = unknown.values.size();
    for (const auto& [key, json] : unknown.values)
        h = mixed_hash(mixed_hash(h, hash_of(key)), hash_of(json));
    return h;
}
inline std::size_t heap_of(const UnknownSteps& unknown)
{
    std::size_t bytes = 0;
    for (const auto& [key, json] : unknown.values)
        bytes += 2 * sizeof(std::string) + key.capacity() + json.capacity();
    return bytes;
}

}
