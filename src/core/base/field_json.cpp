#include "core/base/field_json.h"

#include <exception>
#include <utility>

namespace frenlo {

void wrong(const std::string& what)
{
    throw std::invalid_argument(what);
}

double number_from(const Json& j, const Limits& r)
{
    if (const double v = j.is_number() ? j.get<double>() : std::nan(""); v >= r.low && v <= r.high)
        return v;
    wrong(json_text(j) + " is out of range");
}

std::uint64_t identity_from(const Json& j)
{
    const auto id = parse_id(j.get<std::string>());
    if (!id)
        wrong(json_text(j) + " is no identity");
    return *id;
}

void check_list(const Json& j, std::size_t count)
{
    if (!j.is_array() || (count > 0 && j.size() != count))
        wrong(count > 0 ? "has not " + std::to_string(count) + " values" : "is no list");
}

void check_object(const Json& j)
{
    if (!j.is_object())
        wrong("is no object");
}

Json type_schema(const char* type)
{
    Json j = Json::object();
    j["type"] = type;
    return j;
}

Json number_schema(const Limits& r)
{
    Json j = type_schema("number");
    if (r.low > -1e300)
        j["minimum"] = r.low;
    if (r.high < 1e300)
        j["maximum"] = r.high;
    return j;
}

Json integer_schema(const Limits& r)
{
    Json j = type_schema("integer");
    if (r.low > -1e300)
        j["minimum"] = std::int64_t(r.low);
    if (r.high < 1e18)
        j["maximum"] = std::int64_t(r.high);
    return j;
}

Json identity_schema()
{
    Json j = type_schema("string");
    j["pattern"] = "^[0-9a-f]{16}$";
    return j;
}

Json list_schema(Json items, std::size_t count)
{
    Json j = type_schema("array");
    j["items"] = std::move(items);
    if (count > 0)
        j["minItems"] = j["maxItems"] = count;
    return j;
}

void write_field(Json& object, const char* name, const void* member, const MemberCoding& coding)
{
    object[name] = coding.write(member);
}

void read_field(const Json& object, const char* name, bool required, const Limits& range, void* member,
                const MemberCoding& coding)
{
    const auto at = object.find(name);
    if (at == object.end()) {
        if (required)
            wrong('"' + std::string(name) + "\" is missing");
        return;
    }
    try {
        coding.read(member, *at, range);
    } catch (const std::exception& e) { // of any depth: the path to the field is what is to be known
        wrong('"' + std::string(name) + "\": " + e.what());
    }
}

void describe_field(Json& schema, const char* name, const char* says, bool required, const Limits& range,
                    const MemberCoding& coding)
{
    if (required)
        schema["required"].push_back(name);
    Json s = coding.schema(range);
    if (*says)
        s["description"] = says;
    schema["properties"][name] = std::move(s);
}

}
