#pragma once
// How the values of steps are written into project files, and read again (step_values.h).
#include "core/base/field_json.h"
#include "core/project/step_values.h"

#include <span>

namespace frenlo {

struct StepCoding
{
    const ValueType* type;
    const char* says; ///< for the schema
    Json (*write)(const void*);
    std::shared_ptr<const void> (*read)(const Json&); ///< throws as Coded<T>::read
    Json (*schema)();
    std::shared_ptr<const void> (*sample)(int n); ///< for tests
};

/// All that steps keep of a photo, or of a shot. Which steps there are is said above the project (steps/steps.cpp).
std::span<const StepCoding> photo_step_codings();
std::span<const StepCoding> shot_step_codings();

template <class Of, class T>
StepCoding step_coding(const char* says)
{
    return {
        &Of::template type<T>,
        says,
        [](const void* v) { return Coded<T>::write(*static_cast<const T*>(v)); },
        [](const Json& j) -> std::shared_ptr<const void> { return std::make_shared<const T>(Coded<T>::read(j, {})); },
        [] { return Coded<T>::schema({}); },
        [](int n) -> std::shared_ptr<const void> { return std::make_shared<const T>(Coded<T>::sample(n, {})); }};
}

template <class Of>
struct CodedSteps
{
    using Values = TypedValues<Of>;

    static std::span<const StepCoding> codings()
    {
        if constexpr (std::is_same_v<Of, OfPhoto>)
            return photo_step_codings();
        else
            return shot_step_codings();
    }
    static Json write(const Values& values)
    {
        Json j = Json::object();
        for (const auto& e : values.entries())
            for (const StepCoding& c : codings())
                if (c.type == e.type)
                    j[c.type->key] = c.write(e.value.get());
        if (const auto* unknown = values.template find<UnknownSteps>())
            for (const auto& [key, text] : unknown->values)
                j[key] = json_from(text);
        return j;
    }
    static Values read(const Json& j, const Limits&)
    {
        if (!j.is_object())
            wrong("is no object");
        Values values;
        for (const auto& [key, value] : j.items()) {
            const auto all = codings();
            const auto c =
                std::find_if(all.begin(), all.end(), [&k = key](const StepCoding& one) { return one.type->key == k; });
            if (c == all.end()) {
                values.template edit<UnknownSteps>().values.emplace_back(key, json_text(value));
                continue;
            }
            try {
                values.put({c->type, c->read(value)});
            } catch (const std::exception& e) { // the path to the field is what is to be known
                wrong('"' + key + "\": " + e.what());
            }
        }
        return values;
    }
    static Json schema(const Limits&)
    {
        Json j{{"type", "object"}};
        for (const StepCoding& c : codings()) {
            Json s = c.schema();
            s["description"] = c.says;
            j["properties"][c.type->key] = std::move(s);
        }
        return j; // keys of a newer version may be there, too
    }
    static Values sample(int n, const Limits&)
    {
        Values values;
        for (const StepCoding& c : codings())
            values.put({c.type, c.sample(n++)});
        values.set(UnknownSteps{{{"of_tomorrow", std::to_string(n)}}});
        return values;
    }
};

template <>
struct Coded<PhotoSteps> : CodedSteps<OfPhoto>
{
};
template <>
struct Coded<ShotSteps> : CodedSteps<OfShot>
{
};

}
