#include "core/steps/sort/filing.h"

#include "core/base/atomic_file.h"
#include "core/base/file_lock.h"
#include "core/base/folders.h"
#include "core/base/json.h"
#include "core/base/text.h"
#include "core/source/preview_store.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <chrono>
#include <cstring>
#include <random>
#include <set>
#include <unistd.h>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

constexpr std::string_view running_ending = ".filing"; ///< not finished
constexpr std::string_view done_ending = ".filed";
constexpr std::array way_names{"copy", "move", "take-back"};

/// "Paper ferry" as part of a file name: "Paper_ferry".
std::string file_word(const std::string& name)
{
    std::string word;
    for (const char c : name) {
        const auto u = static_cast<unsigned char>(c);
        word += u >= 0x80 || std::isalnum(u) || c == '-' || c == '.' ? c : '_';
    }
    while (word.starts_with('.'))
        word.erase(0, 1);
    return word.empty() ? "Shot" : word;
}

std::string lower(std::string s)
{
    std::transform(s.begin(), s.end(), s.begin(), [](unsigned char c) { return char(std::tolower(c)); });
    return s;
}

std::string numbered_name(const std::string& word, std::int64_t number, std::int64_t count)
{
    std::array<char, 24> digits{};
    std::snprintf(digits.data(), digits.size(), count > 9'999 ? "_%05lld" : "_%04lld", static_cast<long long>(number));
    return word + digits.data();
}

/// Sidecars of a photo with the names they get beside the new one.
std::vector<FilingStep> sidecars_of(const fs::path& photo, const fs::path& to)
{
    std::vector<FilingStep> steps;
    for (const char* ending : {".xmp", ".XMP"}) {
        std::error_code ec;
        if (const fs::path beside = fs::path(photo).replace_extension(ending); fs::is_regular_file(beside, ec))
            steps.push_back({beside, fs::path(to).replace_extension(ending)});
        if (const fs::path behind = photo.native() + ending; fs::is_regular_file(behind, ec))
            steps.push_back({behind, to.native() + ending});
    }
    return steps;
}

void plan_shot(const Shot& shot, const fs::path& folder, FilingPlan& plan)
{
    if (!shot.parts.empty()) {
        plan.problems.push_back(
            {"\"" + shot.name + "\" is an unsorted card", {}, "Make its shots first, or remove it"});
        return;
    }
    const auto shown = in_film(shot);
    const auto count = std::count(shown.begin(), shown.end(), true);
    const std::string word = file_word(shot.name);
    std::int64_t number = 0;
    for (std::size_t i = 0; i < shown.size(); ++i) {
        if (!shown[i])
            continue;
        const fs::path& from = shot.photos[i].photo->file;
        if (!is_on_disk(*shot.photos[i].photo)) // a card
            continue;
        if (is_one_of_several(*shot.photos[i].photo)) { // the clip, whole, under its own name
            if (plan.steps.empty() || plan.steps.back().from != from)
                plan.steps.push_back({from, folder / word / from.filename()});
            continue;
        }
        const fs::path to = folder / word / (numbered_name(word, ++number, count) + lower(from.extension()));
        plan.steps.push_back({from, to});
        for (auto& sidecar : sidecars_of(from, to))
            plan.steps.push_back(std::move(sidecar));
    }
}

/// What stands in the way of a plan.
void find_obstacles(FilingPlan& plan)
{
    std::set<fs::path> sources, targets;
    for (const auto& [from, to] : plan.steps) {
        std::error_code ec;
        if (fs::exists(fs::symlink_status(to, ec)) && !ec)
            plan.problems.push_back(
                {"a file of this name is there already and is not replaced", to, "Choose another folder"});
        else if (!targets.insert(to).second)
            plan.problems.push_back({"two files would get this name", to, "Give the shots different names"});
        if (!sources.insert(from).second && plan.way == FilingWay::move)
            plan.problems.push_back(
                {"this photo is in the film twice and cannot be moved to two places", from, "Write copies instead"});
        const auto bytes = fs::file_size(from, ec);
        if (ec)
            plan.problems.push_back({"the photo is missing", from, "Find it again first, or set it aside"});
        else
            plan.bytes += bytes;
    }
    if (plan.steps.empty() && plan.problems.empty())
        plan.problems.push_back({"there are no photos to put in order", {}, "Bring photos in first"});
}

Json journal_json(const FilingPlan& plan)
{
    Json j;
    j["frenlo_filing"] = 1;
    j["way"] = way_names.at(std::size_t(plan.way));
    j["steps"] = Json::array();
    for (const auto& [from, to] : plan.steps) {
        if (!is_utf8(from.native()) || !is_utf8(to.native()))
            throw Failure({"the file's name is not valid UTF-8", from, "Rename it first"});
        j["steps"].push_back({from.native(), to.native()});
    }
    return j;
}

std::optional<FilingPlan> read_journal(const fs::path& file)
{
    try {
        const auto j = json_from(read_whole_file(file));
        FilingPlan plan;
        const auto way = std::find(way_names.begin(), way_names.end(), j.at("way").get<std::string>());
        if (way == way_names.end())
            return std::nullopt;
        plan.way = FilingWay(way - way_names.begin());
        for (const auto& s : j.at("steps"))
            plan.steps.push_back({s.at(0).get<std::string>(), s.at(1).get<std::string>()});
        return plan;
    } catch (const std::exception&) { // not ours, or damaged: a journal is written whole, so nothing was begun from it
        return std::nullopt;
    }
}

bool there(const fs::path& p)
{
    std::error_code ec;
    return fs::exists(fs::symlink_status(p, ec));
}

/// One step, which may be done already, wholly or half. Throws Failure.
void do_step(FilingWay way, const FilingStep& step)
{
    const auto& [from, to] = step;
    switch (way) {
    case FilingWay::copy:
        if (!there(to))
            copy_to_new(from, to);
        else if (!same_bytes(from, to))
            throw Failure(
                {"another file has this name meanwhile and is not replaced", to, "Look at both and rename one"});
        return;
    case FilingWay::move:
        if (there(from) && there(to)) { // killed between copying to another disk and removing the original
            if (!same_bytes(from, to))
                throw Failure(
                    {"another file has this name meanwhile and is not replaced", to, "Look at both and rename one"});
            fs::remove(from);
        } else if (there(from)) {
            move_to_new(from, to);
        } else if (!there(to)) {
            throw Failure({"the file is gone", from, "It was moved or deleted by another program"});
        }
        return;
    case FilingWay::take_back:
        if (!there(to))
            return;
        if (!there(from) || !same_bytes(from, to))
            throw Failure({"the copy differs from its original by now and is kept", to,
                           "Delete it yourself if it is not needed"});
        fs::remove(to);
        return;
    }
}

/// The folder that an undone filing had made for a shot.
void remove_empty_folders(const FilingPlan& plan)
{
    if (plan.way != FilingWay::take_back)
        return;
    std::set<fs::path> folders;
    for (const auto& s : plan.steps)
        folders.insert(s.to.parent_path());
    for (const auto& f : folders) {
        std::error_code ec;
        if (fs::is_empty(f, ec) && !ec)
            fs::remove(f, ec);
    }
}

/// The journal of one filing, held while it runs.
class Journal
{
public:
    /// Takes over a journal that is there.
    Journal(fs::path file, FileLock lock) : file_(std::move(file)), lock_(std::move(lock)) {}

    static Journal begin(const fs::path& folder, const FilingPlan& plan)
    {
        std::error_code ec;
        fs::create_directories(folder, ec);
        std::random_device random;
        const auto now =
            std::chrono::system_clock::now().time_since_epoch().count(); // their order by name is that in time
        const fs::path file =
            folder / (std::to_string(now) + '-' + std::to_string(random()) + std::string(running_ending));
        auto lock = FileLock::try_take(lock_of(file));
        if (!lock)
            throw Failure({std::string("a journal cannot be kept here (") + std::strerror(errno) + ")", folder,
                           "Make the folder writable"});
        Journal journal(file, std::move(*lock));
        write_whole_file(file, json_text(journal_json(plan), 1));
        return journal;
    }

    /// What was done is kept, so that moved photos are found again.
    void end(const FilingPlan& done)
    {
        write_whole_file(file_, json_text(journal_json(done), 1));
        std::error_code ec;
        fs::rename(file_, fs::path(file_).replace_extension(done_ending), ec);
        fs::remove(lock_of(file_), ec);
    }

    static fs::path lock_of(const fs::path& file) { return fs::path(file).replace_extension(".lock"); }

private:
    fs::path file_;
    FileLock lock_;
};

std::vector<fs::path> journals_in(const fs::path& folder, std::string_view ending)
{
    std::vector<fs::path> found;
    std::error_code ec;
    for (fs::directory_iterator it(folder, ec), end; !ec && it != end; it.increment(ec))
        if (it->path().extension() == ending && !it->path().filename().native().starts_with('.'))
            found.push_back(it->path());
    std::sort(found.begin(), found.end());
    return found;
}

}

FilingPlan plan_filing(const Project& project, const fs::path& folder, FilingWay way)
{
    FilingPlan plan;
    plan.way = way;
    for (const auto& shot : project.shots)
        plan_shot(*shot, fs::absolute(folder).lexically_normal(), plan);
    find_obstacles(plan);
    return plan;
}

FilingPlan reversed(const FilingPlan& plan)
{
    FilingPlan back;
    if (plan.way == FilingWay::copy) {
        back = plan;
        back.way = FilingWay::take_back;
        return back;
    }
    back.way = FilingWay::move;
    back.steps.reserve(plan.steps.size());
    for (const FilingStep& step : plan.steps)
        back.steps.push_back({step.to, step.from});
    std::reverse(back.steps.begin(), back.steps.end());
    return back;
}

Filing run_filing(const FilingPlan& plan, const fs::path& journal_folder, const Job& job,
                  const std::function<void()>& after_each)
{
    if (!plan.problems.empty())
        throw Failure(plan.problems.front());
    const auto changed = [&] {
        if (after_each)
            after_each();
    };
    Filing filing;
    filing.done.way = plan.way;
    Journal journal = Journal::begin(journal_folder, plan);
    changed();
    try {
        for (const auto& step : plan.steps) {
            job.check();
            do_step(plan.way, step);
            changed();
            filing.done.steps.push_back(step);
            job.report(double(filing.done.steps.size()) / double(plan.steps.size()),
                       "file " + std::to_string(filing.done.steps.size()) + " of " + std::to_string(plan.steps.size()));
        }
    } catch (const Stopped&) {
        filing.stopped = true;
    } catch (const Failure& failure) {
        filing.problem = failure.problem();
    }
    remove_empty_folders(filing.done);
    journal.end(filing.done);
    changed();
    return filing;
}

std::vector<FinishedFiling> finish_filings(const fs::path& journal_folder, const Job& job,
                                           const std::function<void()>& after_each)
{
    std::vector<FinishedFiling> finished;
    for (const auto& file : journals_in(journal_folder, running_ending)) {
        auto lock = FileLock::try_take(Journal::lock_of(file));
        const auto plan = lock ? read_journal(file) : std::nullopt;
        if (!plan)
            continue;
        Journal journal(file, std::move(*lock));
        FinishedFiling f;
        FilingPlan done;
        done.way = plan->way;
        for (const auto& step : plan->steps) {
            job.check();
            try {
                do_step(plan->way, step);
                ++f.files;
                done.steps.push_back(step);
            } catch (const Failure& failure) {
                f.problems.push_back(failure.problem());
            }
            if (after_each)
                after_each();
        }
        remove_empty_folders(*plan);
        journal.end(done);
        finished.push_back(std::move(f));
    }
    return finished;
}

Moved moved_files(const fs::path& journal_folder)
{
    Moved moved;
    for (const auto& file : journals_in(journal_folder, done_ending))
        if (const auto plan = read_journal(file); plan && plan->way == FilingWay::move)
            for (const auto& [from, to] : plan->steps) {
                for (auto& [first, last] : moved) // moved on from where an earlier filing put it
                    if (last == from)
                        last = to;
                moved[from] = to;
            }
    std::erase_if(moved, [](const auto& m) { return m.first == m.second; });
    return moved;
}

fs::path usual_filing_folder()
{
    return state_folder() / "filings";
}

}
