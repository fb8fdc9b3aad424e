#include "core/interchange/timing_file.h"
#include "core/project/project_file.h"
#include "core/steps/pace/pace_command.h"

#include <CLI/CLI.hpp>

#include <iostream>

namespace frenlo::command {

namespace {

struct TimingCall
{
    std::string project, shot, to, from;
    bool reel = false, overwrite = false;
};

int run_timing(const TimingCall& call, const Context& context)
{
    if (call.to.empty() == call.from.empty())
        throw WrongCall("either -o FILE writes the timing, or --holds FILE.csv reads holds");
    if (call.reel && (!call.shot.empty() || !call.from.empty()))
        throw WrongCall("--reel is all shots as one film; --shot and --holds are about one of them");
    LoadedProject loaded;
    if (!call.from.empty()) {
        loaded = change_project(call.project,
                                [&](const Project& p) { return read_holds(p, named_shot(p, call.shot), call.from); });
    } else {
        loaded = load_project(call.project);
        const auto shot = call.reel ? std::nullopt : std::optional(named_shot(loaded.project, call.shot));
        write_timing(loaded.project, shot, call.to, call.overwrite);
    }
    if (context.json)
        print_json({{"file", call.to.empty() ? call.from : call.to}, {"problems", problems_json(loaded.problems)}});
    else
        print_problems(loaded.problems);
    return loaded.problems.empty() ? done : done_with_problems;
}

}

void add_timing_command(CLI::App& app, Run& run)
{
    auto call = std::make_shared<TimingCall>();
    CLI::App* timing = app.add_subcommand("timing", "The timing as a table or an edit list, or holds out of a table");
    timing->add_option("project", call->project, "The project")->required();
    timing->add_option("--shot", call->shot, "The shot's name");
    timing->add_flag("--reel", call->reel, "The Reel");
    timing->add_option("-o,--to", call->to,
                       "What to write: .csv is a dopesheet, .otio OpenTimelineIO, .edl a CMX 3600 list");
    timing->add_flag("--overwrite", call->overwrite, "A file that is there is replaced");
    timing->add_option("--holds", call->from, "A table with the columns hold, and photo or file");
    timing->callback([call, &run] { run = [call](const Context& c) { return run_timing(*call, c); }; });
}

}
