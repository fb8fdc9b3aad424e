#pragma once
#include "cli/output.h"
#include "core/steps/sort/scan.h"

#include <CLI/CLI.hpp>

#include <functional>
#include <optional>

namespace frenlo::cli {

/// Each adds its commands to the call's grammar; the one that is called puts what is to be done into run.
using Run = std::function<int(const Context&)>;
void add_scan(CLI::App& app, Run& run);
void add_project_commands(CLI::App& app, Run& run);
void add_steady(CLI::App& app, Run& run);
void add_light(CLI::App& app, Run& run);
void add_export_commands(CLI::App& app, Run& run);

/// "--rate 23.976" and its like; throw WrongCall.
Rate rate_option(const std::string& text);
Hold hold_option(const std::string& text);
/// "4s", or "96f" of frames at this rate.
Seconds length_option(const std::string& text, Rate rate);
/// "X,Y,W,H", each in pixels of pictures of this size, as shares of them; throw WrongCall.
std::vector<cv::Rect2d> boxes_option(const std::vector<std::string>& texts, cv::Size size);
/// The shot of this name, the only one for an empty name; throws WrongCall.
ShotIndex named_shot(const Project& project, const std::string& name);
/// The same shot in the project as it is by now, however it is called; by its name where the file is of a version without
/// identities. Throws as named_shot does.
ShotIndex same_shot(const Project& now, const Shot& before);
/// A switch that is on ("--name"), off ("--no-name") or not spoken of: then value stays empty, and what was set before stays.
CLI::Option* add_switch(CLI::App& command, const std::string& name, std::optional<bool>& value, const std::string& help);
/// That what was measured no longer fits the project.
Failure changed_meanwhile(const std::string& project);
/// order: "name" or "time"; pause: "120s" or empty; throws WrongCall.
ScanOptions scan_options(const std::string& order, const std::string& pause, bool one_shot);

}
