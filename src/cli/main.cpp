#include "cli/commands.h"
#include "cli/stop_on_signal.h"
#include "core/base/picture_memory.h"
#include "core/base/text.h"
#include "core/base/unfinished.h"
#include "core/steps/step.h"

#include <CLI/CLI.hpp>
#include <tbb/global_control.h>

#include <cerrno>
#include <cstdio>
#include <cstring>
#include <iostream>
#include <malloc.h>

namespace frenlo::cli {

using namespace command;

namespace {

/// What was printed is with whoever reads it; a full disk or a reader that went away is an error.
void flush_output()
{
    if (!std::cout.flush() || std::fflush(stdout) != 0)
        throw Failure({std::string("the output cannot be written (") + std::strerror(errno) + ")",
                       {},
                       "What was to be done is done"});
}

int run_guarded(const Run& run, const Context& context)
{
    try {
        const int status = run(context);
        flush_output();
        return status;
    } catch (const WrongCall& e) {
        std::cerr << "frenlo-cli: " << e.what() << ".\n";
        return wrong_call;
    } catch (const Stopped&) {
        std::cerr << "frenlo-cli: stopped. What was half written is removed.\n";
        return stopped;
    } catch (const std::bad_alloc&) {
        std::cerr << "frenlo-cli: there is too little memory. Close other programs, or use fewer cores with --jobs.\n";
        return failed;
    } catch (const std::exception& e) {
        std::cerr << "frenlo-cli: " << e.what() << '\n';
        return failed;
    }
}

int run(int argc, char** argv)
{
    CLI::App app{"Frenlo without a window: photos in, films and loops out."};
    app.name("frenlo-cli");
    app.set_version_flag("--version", std::string("frenlo-cli ") + FRENLO_VERSION);
    app.require_subcommand(1);
    app.fallthrough();
    app.footer("Exit status: 0 done, 1 done but with problems that are listed, 2 the call is wrong,\n"
               "3 it could not be done, 130 stopped by the user.");
    Context context;
    int jobs = 0;
    app.add_flag("--json", context.json, "Print one JSON document on standard output and nothing else there");
    app.add_option("--jobs", jobs, "Use this many cores (all of them when not given)")->check(CLI::Range(1, 1024));
    Run chosen;
    for (const Step* step : all_steps())
        if (step->add_commands)
            step->add_commands(app, chosen);
    add_info(app, chosen);
    add_collect(app, chosen);
    add_export_commands(app, chosen);
    add_presets(app, chosen);
    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        const int code = app.exit(e); // prints help, version or what is wrong
        return code == 0 ? done : wrong_call;
    }
    const StopOnSignal stop;
    context.stop = stop.token();
    std::optional<tbb::global_control> cores;
    if (jobs > 0)
        cores.emplace(tbb::global_control::max_allowed_parallelism, std::size_t(jobs));
    sweep_unfinished();
    return run_guarded(chosen, context);
}

}

}

int main(int argc, char** argv)
{
    // What is freed goes back to the system at once, and the memory of pictures is used again: without the first a long
    // export keeps a fifth more memory than it uses, without the second it waits for the system.
    mallopt(M_MMAP_THRESHOLD, 1 << 20);
    frenlo::PictureMemory memory;
    cv::Mat::setDefaultAllocator(&memory);
    try {
        return frenlo::cli::run(argc, argv);
    } catch (const std::exception& e) {
        std::cerr << "frenlo-cli: " << e.what() << '\n';
        return frenlo::command::failed;
    }
}
