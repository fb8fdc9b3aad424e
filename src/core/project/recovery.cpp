#include "core/project/recovery.h"

#include "core/base/atomic_file.h"
#include "core/base/folders.h"
#include "core/base/input_file.h"
#include "core/project/project_file.h"
#include "core/project/value_codecs.h"

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <random>
#include <unistd.h>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

constexpr std::string_view work_ending = ".frenlo";
constexpr std::string_view lock_ending = ".lock";

fs::path lock_beside(const fs::path& work)
{
    return fs::path(work).replace_extension(lock_ending);
}

}

fs::path RecoverySlot::usual_folder()
{
    return state_folder() / "recovery";
}

RecoverySlot::RecoverySlot(const fs::path& folder)
{
    std::error_code ec;
    fs::create_directories(folder, ec);
    std::random_device random;
    const std::string id = std::to_string(::getpid()) + '-' + std::to_string(random());
    work_ = folder / (id + std::string(work_ending));
    lock_file_ = lock_beside(work_);
    lock_ = FileLock::try_take(lock_file_);
    if (!lock_)
        throw Failure({std::string("unsaved work cannot be kept here (") + std::strerror(errno) + ")", folder,
                       "Save often, or make the folder writable"});
}

RecoverySlot::~RecoverySlot()
{
    std::error_code ec;
    if (!fs::exists(work_, ec))
        fs::remove(lock_file_, ec);
}

void RecoverySlot::keep(const Project& project, const fs::path& saved_as)
{
    auto j = json_from(project_to_json(project, work_));
    if (!saved_as.empty())
        j["saved_as"] = to_json(saved_as);
    write_whole_file(work_, json_text(j, 1));
}

void RecoverySlot::clear()
{
    std::error_code ec;
    fs::remove(work_, ec);
}

std::vector<AbandonedWork> abandoned_work(const fs::path& folder)
{
    std::vector<AbandonedWork> found, damaged;
    std::error_code ec;
    for (fs::directory_iterator it(folder, ec), end; !ec && it != end; it.increment(ec)) {
        const fs::path file = it->path();
        if (file.extension() != work_ending || file.filename().native().starts_with('.'))
            continue;
        if (!FileLock::try_take(lock_beside(file)))
            continue; // its Frenlo is running
        AbandonedWork work{.kept = file, .saved_as = {}, .when = fs::last_write_time(file, ec)};
        try {
            const auto j = json_from(read_whole_file(file));
            check_object(j);
            if (const auto saved_as = j.find("saved_as"); saved_as != j.end())
                work.saved_as = from_json<fs::path>(*saved_as);
        } catch (const Failure& failure) {
            work.damaged = failure.problem();
        } catch (const std::exception&) { // written whole or not at all: something else was there since
            work.damaged = Problem{"unsaved work that was kept here is damaged", file,
                                   "Open the project as it was saved; throw this away when nothing is missed"};
        }
        (work.damaged ? damaged : found).push_back(std::move(work));
    }
    std::sort(found.begin(), found.end(), [](const auto& a, const auto& b) { return a.when > b.when; });
    found.insert(found.end(), damaged.begin(), damaged.end());
    return found;
}

Project recovered(const AbandonedWork& work)
{
    return load_project(work.kept).project;
}

void forget(const AbandonedWork& work)
{
    std::error_code ec;
    fs::remove(work.kept, ec);
    fs::remove(lock_beside(work.kept), ec);
}

}
