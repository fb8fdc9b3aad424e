#include "cli/commands.h"
#include "core/project/project_file.h"

#include <CLI/CLI.hpp>

#include <memory>

namespace frenlo::cli {

using namespace command;

namespace {

int show_project(const std::string& file, const Context& context)
{
    const LoadedProject loaded = load_project(file);
    context.json ? print_json(project_json(loaded.project, loaded.problems))
                 : print_project(loaded.project, loaded.problems);
    return loaded.problems.empty() ? done : done_with_problems;
}

}

void add_info(CLI::App& app, Run& run)
{
    auto file = std::make_shared<std::string>();
    CLI::App* info = app.add_subcommand("info", "Say what is in a project");
    info->add_option("project", *file, "The project")->required();
    info->callback([file, &run] { run = [file](const Context& c) { return show_project(*file, c); }; });
}

}
