#include "core/document/pacing_json.h"

#include "core/document/json_values.h"

#include <algorithm>
#include <array>
#include <stdexcept>

namespace frenlo {

using Json = nlohmann::ordered_json;

namespace {

constexpr std::array between_names{"repeat", "mix"};
constexpr std::array return_names{"none", "once", "to-first", "twice"};

template <class Value>
Value known(const std::optional<Value>& value, const Json& j, const char* what)
{
    if (!value)
        wrong(j.dump() + " is not " + what);
    return *value;
}

Seconds length_from(const Json& j)
{
    const Fraction length = known(parse_fraction(j.get<std::string>()), j, "a length in seconds");
    if (length < Fraction(0))
        wrong("a length is below 0");
    return {length};
}

constexpr std::int64_t most_photos = 100'000'000; // more than any shot has

Json kept_to_json(const KeptRange& kept)
{
    Json j;
    j["from"] = kept.begin.value;
    if (const auto* end = std::get_if<PhotoIndex>(&kept.extent))
        j["to"] = end->value;
    else if (const auto* count = std::get_if<PhotoCount>(&kept.extent))
        j["photos"] = count->count;
    else
        j["seconds"] = std::get<Seconds>(kept.extent).value.text();
    return j;
}

KeptRange kept_from(const Json& j)
{
    KeptRange kept{PhotoIndex(whole_in(j.at("from"), 0, most_photos, "from")), PhotoIndex(0)};
    if (j.contains("photos"))
        kept.extent = PhotoCount{whole_in(j.at("photos"), 1, most_photos, "photos")};
    else if (j.contains("seconds"))
        kept.extent = length_from(j.at("seconds"));
    else
        kept.extent = PhotoIndex(whole_in(j.at("to"), 0, most_photos, "to"));
    return kept;
}

}

void put_pacing(Json& s, const Pacing& pacing)
{
    if (pacing.paced_at)
        s["paced_at"] = pacing.paced_at->text();
    if (pacing.between != Between::repeat)
        s["between"] = between_names.at(std::size_t(pacing.between));
    if (pacing.keep_every != 1)
        s["keep_every"] = pacing.keep_every;
    if (pacing.kept)
        s["kept"] = kept_to_json(*pacing.kept);
    if (pacing.backwards)
        s["backwards"] = true;
    if (pacing.there_and_back != Return::none)
        s["there_and_back"] = return_names.at(std::size_t(pacing.there_and_back));
    if (pacing.times != 1)
        s["times"] = pacing.times;
    if (pacing.at_least)
        s["at_least_s"] = pacing.at_least->value.text();
    if (pacing.first_hold)
        s["first_hold"] = hold_text(*pacing.first_hold);
    if (pacing.last_hold)
        s["last_hold"] = hold_text(*pacing.last_hold);
}

Pacing pacing_from(const Json& s)
{
    Pacing pacing;
    const auto with = [&](const char* name, auto take) {
        if (s.contains(name))
            take(s.at(name));
    };
    const auto hold = [](const Json& j) { return known(parse_hold(j.get<std::string>()), j, "a hold"); };
    with("paced_at", [&](const Json& j) { pacing.paced_at = known(parse_rate(j.get<std::string>()), j, "a frame rate"); });
    with("between", [&](const Json& j) { pacing.between = Between(one_of(between_names, j.get<std::string>(), "a way between photos")); });
    with("keep_every", [&](const Json& j) { pacing.keep_every = int(whole_in(j, 1, 1'000'000, "keep_every")); });
    with("kept", [&](const Json& j) { pacing.kept = kept_from(j); });
    pacing.backwards = s.value("backwards", false);
    with("there_and_back", [&](const Json& j) { pacing.there_and_back = Return(one_of(return_names, j.get<std::string>(), "a way back")); });
    with("times", [&](const Json& j) { pacing.times = int(whole_in(j, 1, most_times, "times")); });
    with("at_least_s", [&](const Json& j) { pacing.at_least = length_from(j); });
    with("first_hold", [&](const Json& j) { pacing.first_hold = hold(j); });
    with("last_hold", [&](const Json& j) { pacing.last_hold = hold(j); });
    return pacing;
}

}
