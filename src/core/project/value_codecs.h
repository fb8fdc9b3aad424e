#pragma once
// How the types that values are made of are coded (field_json.h), where they are no structs of
// fields.
#include "core/base/opencv_json.h"
#include "core/base/text.h"
#include "core/project/project.h"
#include "core/project/step_json.h"

#include <filesystem>

namespace frenlo {

/// A type that has a text of its own: parse gives std::optional, text the text, sample one for tests.
template <class T>
struct TextOf;

template <>
struct TextOf<Fraction>
{
    static constexpr const char* what = "a fraction";
    static std::optional<Fraction> parse(const std::string& t) { return parse_fraction(t); }
    static std::string text(Fraction f) { return f.text(); }
    static Fraction sample(int n) { return {n + 1, 7}; }
};
template <>
struct TextOf<Rate>
{
    static constexpr const char* what = "a frame rate";
    static std::optional<Rate> parse(const std::string& t) { return parse_rate(t); }
    static std::string text(Rate r) { return r.text(); }
    static Rate sample(int n) { return Rate(Fraction(n % 60 + 1, 3)); }
};
template <>
struct TextOf<Seconds> ///< a length, not below 0
{
    static constexpr const char* what = "a length in seconds";
    static std::optional<Seconds> parse(const std::string& t)
    {
        const auto f = parse_fraction(t);
        return f && *f >= Fraction(0) ? std::optional(Seconds{*f}) : std::nullopt;
    }
    static std::string text(Seconds s) { return s.value.text(); }
    static Seconds sample(int n) { return {Fraction(n + 1, 3)}; }
};
template <>
struct TextOf<Hold>
{
    static constexpr const char* what = "a hold";
    static std::optional<Hold> parse(const std::string& t) { return parse_hold(t); }
    static std::string text(const Hold& h) { return hold_text(h); }
    static Hold sample(int n) { return n % 2 ? Hold(Frames{n + 2}) : Hold(Seconds{Fraction(n + 1, 24)}); }
};
template <>
struct TextOf<CaptureTime>
{
    static constexpr const char* what = "a time";
    static std::optional<CaptureTime> parse(const std::string& t) { return parse_capture_time(t); }
    static std::string text(CaptureTime c) { return c.text(); }
    static CaptureTime sample(int n) { return {1'777'804'924'060'000 + n}; }
};

template <class T>
requires requires(const T& v)
{
    TextOf<T>::text(v);
}
struct Coded<T>
{
    static Json write(const T& v) { return TextOf<T>::text(v); }
    static T read(const Json& j, const Limits&)
    {
        const std::optional<T> v = TextOf<T>::parse(j.get<std::string>());
        if (!v)
            wrong(json_text(j) + " is not " + TextOf<T>::what);
        return *v;
    }
    static Json schema(const Limits&) { return {{"type", "string"}}; }
    static T sample(int n, const Limits&) { return TextOf<T>::sample(n); }
};

/// File names are bytes on Linux, JSON is UTF-8: names that are not are their bytes in hexadecimal.
template <>
struct Coded<std::filesystem::path>
{
    static Json write(const std::filesystem::path& p)
    {
        if (is_utf8(p.native()))
            return p.native();
        std::string hex;
        for (const char c : p.native()) {
            constexpr std::string_view digits = "0123456789abcdef";
            hex += digits[static_cast<unsigned char>(c) >> 4];
            hex += digits[static_cast<unsigned char>(c) & 15];
        }
        return {{"hex", hex}};
    }
    static std::filesystem::path read(const Json& j, const Limits&)
    {
        if (j.is_string())
            return j.get<std::string>();
        const auto hex = j.at("hex").get<std::string>();
        if (hex.size() % 2 != 0 || hex.find_first_not_of("0123456789abcdef") != std::string::npos)
            wrong("\"hex\" is not pairs of hexadecimal digits");
        std::string name;
        for (std::size_t i = 0; i < hex.size(); i += 2)
            name += static_cast<char>(std::stoi(hex.substr(i, 2), nullptr, 16));
        return name;
    }
    static Json schema(const Limits&)
    {
        const Json hex{{"type", "object"},
                       {"required", {"hex"}},
                       {"properties", {{"hex", {{"type", "string"}, {"pattern", "^([0-9a-f]{2})+$"}}}}},
                       {"additionalProperties", false}};
        return {{"oneOf", Json::array({{{"type", "string"}}, hex})}};
    }
    static std::filesystem::path sample(int n, const Limits&)
    {
        return "/films/harbour/" + std::string(n % 2 ? "\xff" : "p") + std::to_string(n) + ".png";
    }
};

template <>
struct Coded<KeptRange>
{
    static constexpr Limits positions{0, 1e8}; // more photos than any shot has
    static Json write(const KeptRange& kept)
    {
        Json j{{"from", kept.begin.value}};
        if (const auto* end = std::get_if<PhotoIndex>(&kept.extent))
            j["to"] = end->value;
        else if (const auto* count = std::get_if<PhotoCount>(&kept.extent))
            j["photos"] = count->count;
        else
            j["seconds"] = Coded<Seconds>::write(std::get<Seconds>(kept.extent));
        return j;
    }
    static KeptRange read(const Json& j, const Limits&)
    {
        KeptRange kept{Coded<PhotoIndex>::read(j.at("from"), positions), PhotoIndex(0)};
        if (j.contains("photos"))
            kept.extent = PhotoCount{Coded<std::int64_t>::read(j.at("photos"), {1, positions.high})};
        else if (j.contains("seconds"))
            kept.extent = Coded<Seconds>::read(j.at("seconds"), {});
        else
            kept.extent = Coded<PhotoIndex>::read(j.at("to"), positions);
        return kept;
    }
    static Json schema(const Limits&)
    {
        const auto position = Coded<std::int64_t>::schema(positions);
        Json j{{"type", "object"}, {"required", {"from"}}};
        j["properties"] = {{"from", position},
                           {"to", position},
                           {"photos", Coded<std::int64_t>::schema({1, positions.high})},
                           {"seconds", Coded<Seconds>::schema({})}};
        j["oneOf"] = Json::array({{{"required", {"to"}}}, {{"required", {"photos"}}}, {{"required", {"seconds"}}}});
        j["additionalProperties"] = false;
        return j;
    }
    static KeptRange sample(int n, const Limits&)
    {
        if (n % 3 == 0)
            return {PhotoIndex(n), PhotoCount{n + 2}};
        return n % 3 == 1 ? KeptRange{PhotoIndex(n), PhotoIndex(n + 5)}
                          : KeptRange{PhotoIndex(n), Seconds{Fraction(n, 3)}};
    }
};

template <class T>
struct Coded<std::shared_ptr<const T>>
{
    static Json write(const std::shared_ptr<const T>& v) { return Coded<T>::write(*v); }
    static std::shared_ptr<const T> read(const Json& j, const Limits& r)
    {
        return std::make_shared<const T>(Coded<T>::read(j, r));
    }
    static Json schema(const Limits& r) { return Coded<T>::schema(r); }
    static std::shared_ptr<const T> sample(int n, const Limits& r)
    {
        return std::make_shared<const T>(Coded<T>::sample(n, r));
    }
};

template <>
struct Coded<PhotoList> : CodedList<PhotoList, ShotPhoto>
{
    static PhotoList read(const Json& j, const Limits& r)
    {
        check(j, 0);
        PhotoList list;
        for (const Json& v : j)
            list.push_back(Coded<ShotPhoto>::read(v, r));
        return list;
    }
    static Json schema(const Limits& r) { return schema_of(r, 0); }
    static PhotoList sample(int n, const Limits& r)
    {
        return {Coded<ShotPhoto>::sample(n, r), Coded<ShotPhoto>::sample(n + 50, r)};
    }
};

}
