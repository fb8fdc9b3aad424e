#pragma once
// JSON as it is kept here: what an object has stays in the order in which it was put in. Reading and writing are
// compiled once, in place of in every source that does either.
#include <nlohmann/json.hpp>

#include <string>
#include <string_view>

namespace frenlo {

using Json = nlohmann::ordered_json;

/// Throws nlohmann's exceptions where it is none.
Json json_from(std::string_view text);

/// On one line, or with so many spaces before what lies one deeper. What is no UTF-8 in it is replaced.
std::string json_text(const Json& j, int indent = -1);

}
