#pragma once
#include "core/base/job.h"
#include "core/base/json.h"
#include "core/base/problem.h"
#include "core/project/project.h"

#include <stop_token>
#include <string>
#include <string_view>
#include <vector>

namespace frenlo::command {

/// Exit statuses, as documented for scripts.
enum Exit
{
    done = 0,
    done_with_problems = 1,
    wrong_call = 2,
    failed = 3,
    stopped = 130
};

/// The call is wrong: exit 2 with this message.
struct WrongCall : std::runtime_error
{
    using std::runtime_error::runtime_error;
};

/// What every command gets.
struct Context
{
    bool json = false;
    std::stop_token stop;
    /// A job that shows its progress on standard error.
    [[nodiscard]] Job job() const;
    /// The same for what takes hours: with --json a line of JSON a second, for schedulers.
    [[nodiscard]] Job long_job() const;
};

Json problems_json(const std::vector<Problem>& problems);
Json project_json(const Project& project, const std::vector<Problem>& problems);
void print_json(const Json& json);
void print_problems(const std::vector<Problem>& problems);
void print_project(const Project& project, const std::vector<Problem>& problems);
/// File names in JSON must be UTF-8; bytes that are not are shown replaced.
std::string json_path(const std::filesystem::path& path);

}
