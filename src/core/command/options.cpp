#include "core/command/options.h"

#include <CLI/CLI.hpp>

#include <array>
#include <cmath>
#include <sstream>

namespace frenlo::command {

Rate rate_option(const std::string& text)
{
    if (const auto rate = parse_rate(text))
        return *rate;
    throw WrongCall("\"" + text + "\" is not a frame rate; 24, 23.976 and 30000/1001 are");
}

CLI::Option* add_switch(CLI::App& command, const std::string& name, std::optional<bool>& value, const std::string& help)
{
    // Not add_flag with a variable: that sets one that the call does not speak of to false.
    return command.add_flag_function(
        "--" + name + ",!--no-" + name, [&value](std::int64_t times) { value = times > 0; }, help);
}

Hold hold_option(const std::string& text)
{
    if (const auto hold = parse_hold(text))
        return *hold;
    throw WrongCall("\"" + text + "\" is not a hold; 2f, 0.15s and 1/6s are, up to " + std::to_string(max_hold_frames) +
                    " frames or " + std::to_string(max_hold_seconds) + " s");
}

Seconds length_option(const std::string& text, Rate rate)
{
    const auto length = parse_hold(text);
    if (!length || !is_shown(*length))
        throw WrongCall("\"" + text + "\" is not a length; 4s and 96f are");
    return length_of(*length, rate);
}

cv::Rect2d box_option(const std::string& text, cv::Size size)
{
    std::array<double, 4> v{};
    std::istringstream in(text);
    char comma = ',';
    for (std::size_t i = 0; i < v.size(); ++i)
        if ((i > 0 && !(in >> comma)) || comma != ',' || !(in >> v[i]))
            throw WrongCall("\"" + text + "\" is not a region; X,Y,W,H in pixels is");
    if (v[2] < 1 || v[3] < 1 || v[0] < 0 || v[1] < 0 || v[0] + v[2] > size.width || v[1] + v[3] > size.height)
        throw WrongCall("the region " + text + " does not lie within the photos, which are " +
                        std::to_string(size.width) + " x " + std::to_string(size.height));
    return {v[0] / size.width, v[1] / size.height, v[2] / size.width, v[3] / size.height};
}

std::vector<cv::Rect2d> boxes_option(const std::vector<std::string>& texts, cv::Size size)
{
    std::vector<cv::Rect2d> boxes;
    for (const std::string& text : texts)
        if (text != "all")
            boxes.push_back(box_option(text, size));
    return boxes;
}

std::vector<double> numbers_option(const std::string& text, const std::string& what)
{
    std::vector<double> numbers;
    std::istringstream in(text);
    for (std::string one; std::getline(in, one, ',');) {
        std::istringstream number(one);
        double n = 0;
        char rest = 0;
        if (!(number >> n) || number >> rest || !std::isfinite(n)) {
            std::string said = what;
            said += ", not \"";
            said += text;
            said += '"';
            throw WrongCall(said);
        }
        numbers.push_back(n);
    }
    return numbers;
}

std::pair<std::int64_t, std::int64_t> span_option(const std::string& text, std::int64_t most, const std::string& of)
{
    const auto dash = text.find('-');
    const auto a = parse_fraction(text.substr(0, dash));
    const auto b = dash == std::string::npos ? a : parse_fraction(text.substr(dash + 1));
    if (!a || !b || a->den() != 1 || b->den() != 1 || a->num() < 1 || b->num() > most || *b < *a)
        throw WrongCall("\"" + text + "\" are not " + of + "; 1-" + std::to_string(most) + " are");
    return {a->num(), b->num()};
}

Backdrop colour_option(const std::string& text)
{
    unsigned n = 0;
    std::istringstream in(text.starts_with('#') ? text.substr(1) : text);
    char rest = 0;
    if (text.size() != 7 || !text.starts_with('#') || !(in >> std::hex >> n) || in >> rest)
        throw WrongCall("\"" + text + "\" is no colour; #RRGGBB is");
    return {std::uint8_t(n >> 16U), std::uint8_t(n >> 8U & 0xFFU), std::uint8_t(n & 0xFFU)};
}

ShotIndex named_shot(const Project& project, const std::string& name)
{
    if (const auto shot = project.find_shot(name))
        return *shot;
    if (name.empty() && project.shots.size() == 1)
        return ShotIndex(0);
    std::string names;
    for (const auto& s : project.shots)
        names += (names.empty() ? "" : ", ") + s->name;
    throw WrongCall("there is no shot \"" + name + "\"; there are: " + names);
}

ShotIndex same_shot(const Project& now, const Shot& before)
{
    const auto same = now.find_shot(before.id);
    return same ? *same : named_shot(now, before.name);
}

}
