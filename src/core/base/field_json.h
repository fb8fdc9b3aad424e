#pragma once
// How values that have fields (fields.h) are written as JSON, read again, described, and made up for tests. What is
// read may come from anywhere and hold anything: each number is checked for its range, and what is wrong is said by its
// field.
#include "core/base/fields.h"
#include "core/base/id.h"
#include "core/base/json.h"
#include "core/base/strong.h"

#include <algorithm>
#include <cmath>
#include <stdexcept>
#include <string>
#include <variant>

namespace frenlo {

[[noreturn]] void wrong(const std::string& what);

// What does not depend on the type, so that it is compiled once.
double number_from(const Json& j, const Limits& r); ///< throws where it is out of range
std::uint64_t identity_from(const Json& j);         ///< throws where it is none
void check_list(const Json& j, std::size_t count);  ///< throws where it has not so many values; 0: any
void check_object(const Json& j);                   ///< throws where it is none
Json type_schema(const char* type);
Json number_schema(const Limits& r);
Json integer_schema(const Limits& r);
Json identity_schema();
Json list_schema(Json items, std::size_t count);

/// How a field of one type is coded, its type forgotten: functions for each type, not for each field.
struct MemberCoding
{
    Json (*write)(const void* member);
    void (*read)(void* member, const Json& j, const Limits& r);
    Json (*schema)(const Limits& r);
};
void write_field(Json& object, const char* name, const void* member, const MemberCoding& coding);
/// Throws std::invalid_argument, with the field's name before what is wrong in it, at any depth.
void read_field(const Json& object, const char* name, bool required, const Limits& range, void* member,
                const MemberCoding& coding);
void describe_field(Json& schema, const char* name, const char* says, bool required, const Limits& range,
                    const MemberCoding& coding);

/// How one type is coded. write: to JSON; read: throws std::invalid_argument or nlohmann's exceptions, without the
/// field's name; schema: JSON Schema 2020-12; sample: values that differ by n and are not the default.
template <class T>
struct Coded;

template <>
struct Coded<bool>
{
    static Json write(bool v) { return v; }
    static bool read(const Json& j, const Limits&) { return j.get<bool>(); }
    static Json schema(const Limits&) { return type_schema("boolean"); }
    static bool sample(int n, const Limits&) { return n % 2 == 0; }
};

template <std::floating_point T>
struct Coded<T>
{
    static Json write(T v) { return v; }
    static T read(const Json& j, const Limits& r) { return T(number_from(j, r)); }
    static Json schema(const Limits& r) { return number_schema(r); }
    static T sample(int n, const Limits& r)
    {
        const double low = std::max(r.low, -1000.0), high = std::min(r.high, std::max(1000.0, low + 1000));
        return T(low + (high - low) * ((n * 37 + 11) % 97) / 128.0);
    }
};

template <std::integral T>
struct Coded<T>
{
    static Json write(T v) { return v; }
    static T read(const Json& j, const Limits& r)
    {
        const auto low = T(std::max(r.low, double(std::numeric_limits<T>::min())));
        const T high = r.high >= double(std::numeric_limits<T>::max()) ? std::numeric_limits<T>::max() : T(r.high);
        const bool fits = j.is_number_unsigned() ? j.get<std::uint64_t>() <= std::uint64_t(high)
                                                 : j.is_number_integer() && std::int64_t(low) <= j.get<std::int64_t>();
        if (const T v = fits ? j.get<T>() : T(); fits && v >= low && v <= high)
            return v;
        wrong(json_text(j) + " is not " + std::to_string(low) + " to " + std::to_string(high));
    }
    static Json schema(const Limits& r) { return integer_schema(r); }
    static T sample(int n, const Limits& r)
    {
        const double low = std::max({r.low, double(std::numeric_limits<T>::min()), -50.0}),
                     high = std::min(r.high, double(std::numeric_limits<T>::max()));
        return T(low + double((n * 3 + 2) % std::int64_t(std::min(high - low + 1, 100.0))));
    }
};

template <>
struct Coded<std::string>
{
    static Json write(const std::string& v) { return v; }
    static std::string read(const Json& j, const Limits&) { return j.get<std::string>(); }
    static Json schema(const Limits&) { return type_schema("string"); }
    static std::string sample(int n, const Limits&) { return "text " + std::to_string(n); }
};

template <HasWords E>
struct Coded<E>
{
    static Json write(E v) { return word_of(v); }
    static E read(const Json& j, const Limits&)
    {
        const auto e = from_word<E>(j.get<std::string>());
        if (!e)
            wrong(json_text(j) + " is none of its words");
        return *e;
    }
    static Json schema(const Limits&) { return {{"enum", Words<E>::words}}; }
    static E sample(int n, const Limits&) { return E(std::size_t(n) % Words<E>::words.size()); }
};

template <class Tag>
struct Coded<Id<Tag>>
{
    static Json write(Id<Tag> v) { return id_text(v.value); }
    static Id<Tag> read(const Json& j, const Limits&) { return {identity_from(j)}; }
    static Json schema(const Limits&) { return identity_schema(); }
    static Id<Tag> sample(int n, const Limits&) { return {std::uint64_t(n) + 1}; }
};

template <class Tag>
struct Coded<Strong<Tag>>
{
    static Json write(Strong<Tag> v) { return v.value; }
    static Strong<Tag> read(const Json& j, const Limits& r) { return Strong<Tag>(Coded<std::int64_t>::read(j, r)); }
    static Json schema(const Limits& r) { return Coded<std::int64_t>::schema(r); }
    static Strong<Tag> sample(int n, const Limits& r) { return Strong<Tag>(Coded<std::int64_t>::sample(n, r)); }
};

template <class T>
struct Coded<std::optional<T>> ///< only where it has a value
{
    static Json write(const std::optional<T>& v) { return Coded<T>::write(*v); }
    static std::optional<T> read(const Json& j, const Limits& r) { return Coded<T>::read(j, r); }
    static Json schema(const Limits& r) { return Coded<T>::schema(r); }
    static std::optional<T> sample(int n, const Limits& r) { return Coded<T>::sample(n, r); }
};

/// Lists of any kind, and arrays, whose length is theirs.
template <class List, class Value>
struct CodedList
{
    static Json write(const List& list)
    {
        Json j = Json::array();
        for (const Value& v : list)
            j.push_back(Coded<Value>::write(v));
        return j;
    }
    static void check(const Json& j, std::size_t count) { check_list(j, count); }
    static Json schema_of(const Limits& r, std::size_t count) { return list_schema(Coded<Value>::schema(r), count); }
};

template <class T>
struct Coded<std::vector<T>> : CodedList<std::vector<T>, T>
{
    static std::vector<T> read(const Json& j, const Limits& r)
    {
        Coded::check(j, r.count);
        std::vector<T> list;
        list.reserve(j.size());
        for (const Json& v : j)
            list.push_back(Coded<T>::read(v, r));
        return list;
    }
    static Json schema(const Limits& r) { return Coded::schema_of(r, r.count); }
    static std::vector<T> sample(int n, const Limits& r)
    {
        std::vector<T> list;
        for (std::size_t i = 0; i < (r.count > 0 ? r.count : 2); ++i)
            list.push_back(Coded<T>::sample(n + int(i), r));
        return list;
    }
};

template <class T, std::size_t N>
struct Coded<std::array<T, N>> : CodedList<std::array<T, N>, T>
{
    static std::array<T, N> read(const Json& j, const Limits& r)
    {
        Coded::check(j, N);
        std::array<T, N> list{};
        std::transform(j.begin(), j.end(), list.begin(), [&](const Json& v) { return Coded<T>::read(v, r); });
        return list;
    }
    static Json schema(const Limits& r) { return Coded::schema_of(r, N); }
    static std::array<T, N> sample(int n, const Limits& r)
    {
        std::array<T, N> list{};
        for (T& v : list)
            v = Coded<T>::sample(n++, r);
        return list;
    }
};

template <class F>
using MemberOf = typename std::remove_cvref_t<F>::MemberType;

template <class Member>
constexpr MemberCoding coding_of{
    [](const void* member) -> Json { return Coded<Member>::write(*static_cast<const Member*>(member)); },
    [](void* member, const Json& j, const Limits& r) { *static_cast<Member*>(member) = Coded<Member>::read(j, r); },
    [](const Limits& r) -> Json { return Coded<Member>::schema(r); }};

/// A struct with fields: an object, in which fields that have their default are absent. Where a function
/// check_value(const T&) is there, it has the last word, by an exception.
template <HasFields T>
struct Coded<T>
{
    static Json write(const T& value)
    {
        static const T usual{};
        (void)all_fields(usual);
        Json j = Json::object();
        for_each_field<T>([&](const auto& f) {
            if (f.required || !same_value(value.*f.member, usual.*f.member))
                write_field(j, f.name, &(value.*f.member), coding_of<MemberOf<decltype(f)>>);
        });
        return j;
    }
    static T read(const Json& j, const Limits& = {})
    {
        T value{};
        check_object(j);
        for_each_field<T>([&](const auto& f) {
            read_field(j, f.name, f.required, f.range, &(value.*f.member), coding_of<MemberOf<decltype(f)>>);
        });
        if constexpr (requires { check_value(value); })
            check_value(value);
        return value;
    }
    static Json schema(const Limits& = {})
    {
        Json j = type_schema("object");
        for_each_field<T>([&](const auto& f) {
            describe_field(j, f.name, f.says, f.required, f.range, coding_of<MemberOf<decltype(f)>>);
        });
        j["additionalProperties"] = false;
        return j;
    }
    static T sample(int n, const Limits& = {})
    {
        T value{};
        for_each_field<T>([&](const auto& f) {
            using Member = MemberOf<decltype(f)>;
            const Member usual = value.*f.member;
            for (int i = n++; same_value(value.*f.member, usual) && i < n + 5; ++i)
                value.*f.member = Coded<Member>::sample(i, f.range);
        });
        return value;
    }
};

template <class T>
Json to_json(const T& value)
{
    return Coded<T>::write(value);
}

template <class T>
T from_json(const Json& j)
{
    return Coded<T>::read(j, {});
}

}
