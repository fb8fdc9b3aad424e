#pragma once
// How values that have fields (fields.h) are written as JSON, read again, described, and made up for tests. What is
// read may come from anywhere and hold anything: each number is checked for its range, and what is wrong is said by its
// field.
#include "core/base/fields.h"
#include "core/base/id.h"
#include "core/base/strong.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>
#include <stdexcept>
#include <string>
#include <variant>

namespace frenlo {

using Json = nlohmann::ordered_json;

[[noreturn]] inline void wrong(const std::string& what)
{
    throw std::invalid_argument(what);
}

/// How one type is coded. write: to JSON; read: throws std::invalid_argument or nlohmann's exceptions, without the
/// field's name; schema: JSON Schema 2020-12; sample: values that differ by n and are not the default.
template <class T>
struct Coded;

template <>
struct Coded<bool>
{
    static Json write(bool v) { return v; }
    static bool read(const Json& j, const Limits&) { return j.get<bool>(); }
    static Json schema(const Limits&) { return {{"type", "boolean"}}; }
    static bool sample(int n, const Limits&) { return n % 2 == 0; }
};

template <std::floating_point T>
struct Coded<T>
{
    static Json write(T v) { return v; }
    static T read(const Json& j, const Limits& r)
    {
        if (const double v = j.is_number() ? j.get<double>() : std::nan(""); v >= r.low && v <= r.high)
            return T(v);
        wrong(j.dump() + " is out of range");
    }
    static Json schema(const Limits& r)
    {
        Json j{{"type", "number"}};
        if (r.low > -1e300)
            j["minimum"] = r.low;
        if (r.high < 1e300)
            j["maximum"] = r.high;
        return j;
    }
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
        wrong(j.dump() + " is not " + std::to_string(low) + " to " + std::to_string(high));
    }
    static Json schema(const Limits& r)
    {
        Json j{{"type", "integer"}};
        if (r.low > -1e300)
            j["minimum"] = std::int64_t(r.low);
        if (r.high < 1e18)
            j["maximum"] = std::int64_t(r.high);
        return j;
    }
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
    static Json schema(const Limits&) { return {{"type", "string"}}; }
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
            wrong(j.dump() + " is none of its words");
        return *e;
    }
    static Json schema(const Limits&) { return {{"enum", Words<E>::words}}; }
    static E sample(int n, const Limits&) { return E(std::size_t(n) % Words<E>::words.size()); }
};

template <class Tag>
struct Coded<Id<Tag>>
{
    static Json write(Id<Tag> v) { return id_text(v.value); }
    static Id<Tag> read(const Json& j, const Limits&)
    {
        const auto id = parse_id(j.get<std::string>());
        if (!id)
            wrong(j.dump() + " is no identity");
        return {*id};
    }
    static Json schema(const Limits&) { return {{"type", "string"}, {"pattern", "^[0-9a-f]{16}$"}}; }
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
    static void check(const Json& j, std::size_t count)
    {
        if (!j.is_array() || (count > 0 && j.size() != count))
            wrong(count > 0 ? "has not " + std::to_string(count) + " values" : "is no list");
    }
    static Json schema_of(const Limits& r, std::size_t count)
    {
        Json j{{"type", "array"}, {"items", Coded<Value>::schema(r)}};
        if (count > 0)
            j["minItems"] = j["maxItems"] = count;
        return j;
    }
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
                j[f.name] = Coded<std::remove_cvref_t<decltype(value.*f.member)>>::write(value.*f.member);
        });
        return j;
    }
    static T read(const Json& j, const Limits& = {})
    {
        if (!j.is_object())
            wrong("is no object");
        T value{};
        for_each_field<T>([&](const auto& f) {
            const auto at = j.find(f.name);
            if (at == j.end()) {
                if (f.required)
                    wrong('"' + std::string(f.name) + "\" is missing");
                return;
            }
            try {
                value.*f.member = Coded<std::remove_cvref_t<decltype(value.*f.member)>>::read(*at, f.range);
            } catch (const std::exception& e) { // of any depth: the path to the field is what is to be known
                wrong('"' + std::string(f.name) + "\": " + e.what());
            }
        });
        if constexpr (requires { check_value(value); })
            check_value(value);
        return value;
    }
    static Json schema(const Limits& = {})
    {
        Json j{{"type", "object"}};
        for_each_field<T>([&](const auto& f) {
            if (f.required)
                j["required"].push_back(f.name);
            Json s = Coded<std::remove_cvref_t<decltype(std::declval<T>().*f.member)>>::schema(f.range);
            if (*f.says)
                s["description"] = f.says;
            j["properties"][f.name] = std::move(s);
        });
        j["additionalProperties"] = false;
        return j;
    }
    static T sample(int n, const Limits& = {})
    {
        T value{};
        for_each_field<T>([&](const auto& f) {
            using Member = std::remove_cvref_t<decltype(value.*f.member)>;
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
