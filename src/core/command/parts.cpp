#include "core/command/parts.h"

#include "core/command/output.h"

#include <algorithm>

namespace frenlo::command {

namespace {

template <class T>
auto named(const std::vector<T>& all, const std::string& name, const char* kind) -> std::optional<decltype(T::id)>
{
    if (name.empty())
        return std::nullopt;
    std::string names;
    for (const T& one : all) {
        if (one.name == name)
            return one.id;
        names += (names.empty() ? "" : ", ") + one.name;
    }
    throw WrongCall(std::string("there is no ") + kind + " \"" + name + "\"" +
                    (names.empty() ? "" : "; there is " + names));
}

}

std::optional<AreaId> named_area(const Shot& shot, const std::string& name)
{
    return named(shot.steps.get<Areas>().all, name, "area");
}

std::optional<StateId> named_state(const Shot& shot, const std::string& name)
{
    return named(shot.steps.get<States>().all, name, "state");
}

}
