#include "app/steps/export/list_runner.h"

#include "core/base/atomic_file.h"
#include "core/base/text.h"
#include "core/project/project_file.h"
#include "core/source/open_files.h"

#include <QDate>

#include <algorithm>
#include <map>
#include <set>

namespace frenlo::app {

namespace fs = std::filesystem;

namespace {

constexpr const char* list_ending = ".json";
constexpr const char* project_ending = ".frenlo";

/// What is to lie in the folder: a list for each project as it was, and that project.
struct Kept
{
    std::map<std::string, ExportList> lists;
    std::map<std::string, std::shared_ptr<const Project>> projects; ///< that may not be there yet
};

/// What the folder has beyond that goes. Throws Failure.
bool write_kept(const Kept& kept, const fs::path& folder)
{
    std::error_code ec;
    if (kept.lists.empty() && !fs::exists(folder, ec))
        return true;
    fs::create_directories(folder, ec); // where it cannot be, writing into it says so
    for (const auto& [name, project] : kept.projects)
        if (const fs::path file = folder / (name + project_ending); project && !fs::exists(file, ec))
            write_whole_file(file, project_to_json(*project, file));
    for (const auto& [name, list] : kept.lists)
        write_export_list(list, folder / (name + list_ending));
    for (const auto& e : fs::directory_iterator(folder, ec))
        if ((e.path().extension() == list_ending || e.path().extension() == project_ending) &&
            !kept.lists.contains(e.path().stem().native()))
            fs::remove(e.path(), ec);
    return true;
}

}

ListRunner::ListRunner(Background& background, fs::path folder, SharedCache* memory, QObject* parent)
    : QObject(parent), background_(background), folder_(std::move(folder)), memory_(memory),
      task_(background, Rank::write), looking_(background, Rank::measure)
{
    connect(&looking_, &Task::progress, this, [this](double fraction, const QString& what) {
        Q_EMIT progress(fraction, what, looking_.left_seconds().value_or(-1));
    });
    connect(&looking_, &Task::changed, this, &ListRunner::changed);
    connect(&looking_, &Task::failed, this, &ListRunner::told);
    connect(&task_, &Task::progress, this, [this](double fraction, const QString& what) {
        Q_EMIT progress(fraction, what, task_.left_seconds().value_or(-1));
    });
    connect(&task_, &Task::failed, this, [this](const QString& why) {
        if (Entry* e = entry(current_)) {
            e->listed.state = ListState::failed;
            e->listed.said = why.toStdString();
            ++failed_;
        }
    });
    connect(&task_, &Task::changed, this, [this] {
        if (task_.running())
            return;
        current_ = {};
        keep();
        Q_EMIT changed();
        QMetaObject::invokeMethod(this, &ListRunner::next, Qt::QueuedConnection);
    });
}

ListRunner::Entry* ListRunner::entry(ListedId id)
{
    const auto it = std::find_if(entries_.begin(), entries_.end(), [&](const Entry& e) { return e.listed.id == id; });
    return it == entries_.end() ? nullptr : &*it;
}

std::optional<std::size_t> ListRunner::current() const
{
    for (std::size_t i = 0; current_ && i < entries_.size(); ++i)
        if (entries_[i].listed.id == current_)
            return i;
    return std::nullopt;
}

void ListRunner::restore()
{
    background_.run(
        this,
        [folder = folder_] {
            std::vector<Entry> found;
            std::error_code ec;
            for (const auto& e : fs::directory_iterator(folder, ec)) {
                if (e.path().extension() != list_ending)
                    continue;
                const auto list = Background::guarded([&] { return read_export_list(e.path()); });
                for (const ListedExport& one : list ? list->exports : std::vector<ListedExport>())
                    found.push_back({one, nullptr, e.path().stem().native()});
            }
            return found;
        },
        [this](std::vector<Entry> found) {
            for (Entry& e : found) {
                if (e.listed.state == ListState::running)
                    e.listed.state = ListState::waiting;
                entries_.push_back(std::move(e));
            }
            if (!found.empty())
                Q_EMIT changed();
        },
        Rank::measure);
}

void ListRunner::add(std::vector<ListedExport> exports, const Project& project)
{
    const auto snapshot = std::make_shared<const Project>(project);
    const std::string name = id_text(fresh_id());
    for (ListedExport& e : exports) {
        e.id = ListedId::fresh();
        entries_.push_back({std::move(e), snapshot, name});
    }
    keep();
    Q_EMIT changed();
}

void ListRunner::start()
{
    going_on_ = true;
    done_ = failed_ = 0;
    Q_EMIT changed();
    next();
}

void ListRunner::pause()
{
    going_on_ = false;
    Q_EMIT changed();
}

void ListRunner::next()
{
    if (task_.running())
        return;
    if (!going_on_) {
        awake_.reset();
        return;
    }
    const auto it = std::find_if(entries_.begin(), entries_.end(),
                                 [](const Entry& e) { return e.listed.state == ListState::waiting; });
    if (it == entries_.end()) {
        going_on_ = false;
        awake_.reset();
        if (done_ + failed_ > 0)
            Q_EMIT ended(done_, failed_);
        Q_EMIT changed();
        return;
    }
    if (!awake_)
        awake_ = std::make_unique<StayAwake>(tr("Films are being exported"));
    it->listed.state = ListState::running;
    current_ = it->listed.id;
    keep();
    task_.start(
        {{}, "export"},
        [listed = it->listed, project = it->project, file = folder_ / (it->snapshot + project_ending), memory = memory_,
         date = QDate::currentDate().toString(Qt::ISODate).toStdString()](const Job& job) {
            ListedExport done = listed;
            run_listed(done, project ? *project : load_project(file).project, Originals(memory), date, job);
            return done;
        },
        [this](const ListedExport& done) {
            if (Entry* e = entry(done.id))
                e->listed = done;
            ++(done.state == ListState::done ? done_ : failed_);
        });
    Q_EMIT changed();
}

void ListRunner::leave_out_current()
{
    if (Entry* e = entry(current_)) {
        e->listed.state = ListState::left_out;
        task_.stop();
    }
}

void ListRunner::move(std::size_t row, int by)
{
    const auto to = std::ptrdiff_t(row) + by;
    if (row >= entries_.size() || to < 0 || to >= std::ptrdiff_t(entries_.size()))
        return;
    std::swap(entries_[row], entries_[std::size_t(to)]);
    keep();
    Q_EMIT changed();
}

void ListRunner::remove(std::size_t row)
{
    if (row >= entries_.size())
        return;
    if (current() == row)
        task_.stop();
    entries_.erase(entries_.begin() + std::ptrdiff_t(row));
    keep();
    Q_EMIT changed();
}

void ListRunner::again(std::size_t row)
{
    if (row >= entries_.size() || current() == row)
        return;
    entries_[row].listed.state = ListState::waiting;
    entries_[row].listed.said.clear();
    keep();
    Q_EMIT changed();
}

void ListRunner::clear_done()
{
    std::erase_if(entries_, [](const Entry& e) { return e.listed.state == ListState::done; });
    keep();
    Q_EMIT changed();
}

void ListRunner::look_ahead()
{
    struct ToLook
    {
        ListedExport listed;
        std::shared_ptr<const Project> project;
        fs::path snapshot;
    };
    struct Seen
    {
        std::vector<std::pair<ListedId, std::string>> said;
        int photos = 0;
    };
    std::vector<ToLook> waiting;
    for (const Entry& e : entries_)
        if (e.listed.state == ListState::waiting)
            waiting.push_back({e.listed, e.project, folder_ / (e.snapshot + project_ending)});
    looking_.start(
        {{}, "export"},
        [waiting, date = QDate::currentDate().toString(Qt::ISODate).toStdString()](const Job& job) {
            LookedAt looked_at;
            Seen seen;
            for (std::size_t i = 0; i < waiting.size(); ++i) {
                const ToLook& one = waiting[i];
                const Job part(job.token(), [&](double fraction, std::string_view what) {
                    job.report((double(i) + fraction) / double(waiting.size()), what);
                });
                const auto problems =
                    frenlo::look_ahead(one.listed, one.project ? *one.project : load_project(one.snapshot).project,
                                       Originals(), date, part, looked_at);
                seen.said.emplace_back(one.listed.id, problems.empty() ? std::string()
                                                                       : shown_path(problems.front().file.filename()) +
                                                                             ": " + problems.front().what);
            }
            seen.photos = int(looked_at.photos.size());
            return seen;
        },
        [this](const Seen& seen) {
            int bad = 0;
            for (const auto& [id, said] : seen.said) {
                if (Entry* e = entry(id); e && e->listed.state == ListState::waiting)
                    e->listed.said = said;
                bad += int(!said.empty());
            }
            keep();
            Q_EMIT changed();
            Q_EMIT looked(int(seen.said.size()), seen.photos, bad);
        });
    Q_EMIT changed();
}

/// One writes at a time; what changes meanwhile is written after it.
void ListRunner::keep()
{
    if (keeping_) {
        keep_again_ = true;
        return;
    }
    Kept kept;
    for (const Entry& e : entries_) {
        ExportList& list = kept.lists[e.snapshot];
        list.project = folder_ / (e.snapshot + project_ending);
        list.exports.push_back(e.listed);
        kept.projects[e.snapshot] = e.project;
    }
    keeping_ = true;
    background_.run(
        this, [kept, folder = folder_] { return Background::guarded([&] { return write_kept(kept, folder); }); },
        [this](const Result<bool>& written) {
            keeping_ = false;
            if (!written)
                Q_EMIT told(tr("The export list cannot be kept for after a crash: %1")
                                .arg(QString::fromStdString(written.error().text())));
            if (std::exchange(keep_again_, false))
                keep();
        },
        Rank::save);
}

}
