#pragma once
// Private to document/: values of a project file, which may come from anywhere and hold anything. Each throws
// std::invalid_argument that names the field.
#include <nlohmann/json.hpp>

#include <algorithm>
#include <cstdint>
#include <limits>
#include <stdexcept>
#include <string>
#include <string_view>
#include <vector>

namespace frenlo {

/// Sides and positions in pixels: more than any picture has.
inline constexpr int most_side = 1 << 20;

[[noreturn]] inline void wrong(const std::string& what)
{
    throw std::invalid_argument(what);
}

/// Finite, and within [low, high].
inline double number_in(const nlohmann::ordered_json& j, double low, double high, std::string_view what)
{
    if (const double v = j.is_number() ? j.get<double>() : std::numeric_limits<double>::quiet_NaN(); v >= low && v <= high)
        return v;
    wrong('"' + std::string(what) + "\": " + j.dump() + " is out of range");
}

/// A whole number within [low, high].
inline std::int64_t whole_in(const nlohmann::ordered_json& j, std::int64_t low, std::int64_t high, std::string_view what)
{
    const bool fits = j.is_number_unsigned() ? j.get<std::uint64_t>() <= std::uint64_t(std::numeric_limits<std::int64_t>::max()) : j.is_number_integer();
    if (const std::int64_t v = fits ? j.get<std::int64_t>() : 0; fits && v >= low && v <= high)
        return v;
    wrong('"' + std::string(what) + "\": " + j.dump() + " is not " + std::to_string(low) + " to " + std::to_string(high));
}

/// The same of a field that may be missing.
inline int whole_or(const nlohmann::ordered_json& j, const char* field, int otherwise, int low, int high)
{
    return j.contains(field) ? int(whole_in(j.at(field), low, high, field)) : otherwise;
}

/// So many whole numbers, each within [low, high].
inline std::vector<int> wholes_in(const nlohmann::ordered_json& j, std::size_t count, int low, int high, std::string_view what)
{
    if (!j.is_array() || j.size() != count)
        wrong('"' + std::string(what) + "\" has not " + std::to_string(count) + " numbers");
    std::vector<int> values;
    for (const auto& v : j)
        values.push_back(int(whole_in(v, low, high, what)));
    return values;
}

/// The position of a word among names; none of them is an error.
template <class Names>
std::size_t one_of(const Names& names, const std::string& word, const char* what)
{
    const auto known = std::find(names.begin(), names.end(), word);
    if (known == names.end())
        wrong('"' + word + "\" is not " + what);
    return std::size_t(known - names.begin());
}

}
