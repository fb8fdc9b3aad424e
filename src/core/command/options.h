#pragma once
#include "core/base/fields.h"
#include "core/command/output.h"
#include "core/project/project.h"

#include <functional>
#include <map>
#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace CLI {
class App;
class Option;
}

namespace frenlo::command {

/// A command adds its grammar to that of the call; the one that is called puts what is to be done into run. Returns the
/// exit status (output.h).
using Run = std::function<int(const Context&)>;

/// "--rate 23.976" and its like; throw WrongCall.
Rate rate_option(const std::string& text);
Hold hold_option(const std::string& text);
/// "4s", or "96f" of frames at this rate.
Seconds length_option(const std::string& text, Rate rate);
/// "X,Y,W,H" in pixels of pictures of this size, as shares of them; throws WrongCall.
cv::Rect2d box_option(const std::string& text, cv::Size size);
/// Numbers apart by commas; what says what they should have been. Throws WrongCall.
std::vector<double> numbers_option(const std::string& text, const std::string& what);
/// "A-B" or "A", numbers from 1, both ends included, the last at most so large; of is what they number: "photos of this
/// shot". Throws WrongCall.
std::pair<std::int64_t, std::int64_t> span_option(const std::string& text, std::int64_t most, const std::string& of);
/// "#RRGGBB"; throws WrongCall.
Backdrop colour_option(const std::string& text);
/// Several of them; "all" is none. Each in pixels of pictures of this size, as shares of them; throw WrongCall.
std::vector<cv::Rect2d> boxes_option(const std::vector<std::string>& texts, cv::Size size);
/// The shot of this name, the only one for an empty name; throws WrongCall.
ShotIndex named_shot(const Project& project, const std::string& name);
/// The same shot in the project as it is by now, however it is called; by its name where the file is of a version
/// without identities. Throws as named_shot does.
ShotIndex same_shot(const Project& now, const Shot& before);
/// A switch that is on ("--name"), off ("--no-name") or not spoken of: then value stays empty, and what was set before
/// stays.
CLI::Option* add_switch(CLI::App& command, const std::string& name, std::optional<bool>& value,
                        const std::string& help);

/// The words of an enum, for an option that takes one of them.
template <class E>
std::map<std::string, E> words()
{
    std::map<std::string, E> all;
    for (std::size_t i = 0; i < Words<E>::words.size(); ++i)
        all.emplace(Words<E>::words[i], E(i));
    return all;
}

}
