#include "cli/commands.h"
#include "core/project/collect.h"
#include "core/project/project_file.h"

#include <CLI/CLI.hpp>

#include <iostream>

namespace frenlo::cli {

using namespace command;

namespace {

struct CollectCall
{
    std::string project, folder;
};

int run_collect(const CollectCall& call, const Context& context)
{
    const LoadedProject loaded = load_project(call.project);
    const Collected done_now = collect_project(loaded.project, call.folder,
                                               std::filesystem::path(call.project).stem().string(), context.long_job());
    if (context.json)
        print_json({{"project", json_path(done_now.project)},
                    {"files", done_now.files},
                    {"copied", done_now.copied},
                    {"bytes", done_now.bytes},
                    {"problems", problems_json(done_now.problems)}});
    else {
        std::cout << json_path(done_now.project) << ": " << done_now.files << " files, " << done_now.copied
                  << " copied and compared\n";
        print_problems(done_now.problems);
    }
    return done_now.problems.empty() ? done : done_with_problems;
}

}

void add_collect(CLI::App& app, Run& run)
{
    auto call = std::make_shared<CollectCall>();
    CLI::App* collect = app.add_subcommand(
        "collect", "A project with its photos and sounds copied into one folder, each copy compared");
    collect->add_option("project", call->project, "The project")->required();
    collect->add_option("-o,--to", call->folder, "The folder; what was stopped goes on there")->required();
    collect->callback([call, &run] { run = [call](const Context& c) { return run_collect(*call, c); }; });
}

}
