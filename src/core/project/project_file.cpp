#include "core/project/project_file.h"

#include "core/base/atomic_file.h"
#include "core/base/text.h"
#include "core/project/project_json.h"
#include "core/project/project_lock.h"
#include "core/source/inspect.h"
#include "core/source/preview_store.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cerrno>
#include <iterator>
#include <map>
#include <set>
#include <string_view>
#include <system_error>
#include <unistd.h>
#include <unordered_map>
#include <unordered_set>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

/// Of the file itself, not of a link to it: opened by either name it finds its photos.
fs::path folder_of(const fs::path& file)
{
    return fs::absolute(real_target(file)).lexically_normal().parent_path();
}

/// Commands find a shot by its name, so each needs one of its own.
void repair_names(Project& project, const fs::path& file, std::vector<Problem>& problems)
{
    std::set<std::string, std::less<>> taken;
    for (const auto& shot : project.shots)
        taken.insert(shot->name);
    std::set<std::string, std::less<>> seen;
    for (std::size_t i = 0; i < project.shots.size(); ++i) {
        const std::string& name = project.shots[i]->name;
        if (!name.empty() && seen.insert(name).second)
            continue;
        const std::string base = name.empty() ? "Shot" : name;
        std::size_t n = name.empty() ? i + 1 : 2;
        while (!taken.insert(base + ' ' + std::to_string(n)).second)
            ++n;
        Shot renamed = *project.shots[i];
        renamed.name = base + ' ' + std::to_string(n);
        seen.insert(renamed.name);
        problems.push_back({name.empty()
                                ? "a shot had no name and is called \"" + renamed.name + "\" now"
                                : "two shots were called \"" + name + "\"; the second is \"" + renamed.name + "\" now",
                            file, "Give it another name if you like"});
        project.shots[i] = std::make_shared<const Shot>(std::move(renamed));
    }
}

/// Versions before had no identities; and a file that was put together by hand may have one twice. Photos have theirs
/// within their shot: versions of a shot share them, and all that is told by them.
void repair_ids(Project& project)
{
    std::unordered_set<std::uint64_t> shots{0};
    for (ShotPtr& shot : project.shots) {
        auto now = std::make_shared<Shot>(*shot);
        if (!shots.insert(now->id.value).second)
            now->id = ShotId::fresh();
        std::unordered_set<std::uint64_t> photos{0};
        for (std::size_t i = 0; i < now->photos.size(); ++i)
            if (!photos.insert(now->photos[i].id.value).second)
                now->photos.edit(i).id = PhotoId::fresh();
        shot = std::move(now);
    }
}

/// A photo as the disk has it now, and what is wrong with it: missing ones become problems, changed ones are read
/// again.
struct OnDisk
{
    PhotoPtr photo; ///< the same where nothing changed
    std::vector<Problem> problems{};
    bool missing = false;
};

OnDisk on_disk(const PhotoPtr& photo, const std::map<fs::path, fs::path>& moved)
{
    OnDisk found{photo};
    if (!is_on_disk(*photo))
        return found;
    auto stamp = stamp_of(photo->file);
    if (const auto m = moved.find(photo->file); !stamp && m != moved.end() && (stamp = stamp_of(m->second))) {
        auto at_new_place = std::make_shared<PhotoFile>(*photo);
        at_new_place->file = m->second;
        found.photo = std::move(at_new_place);
    }
    const PhotoFile& p = *found.photo;
    if (!stamp) {
        std::error_code ec;
        const bool other = fs::exists(p.file, ec);
        found.missing = !other;
        found.problems.push_back({other ? "this is not a file" : "the photo is missing", p.file,
                                  "Bring it back to this place; its hold is kept"});
        return found;
    }
    if (::access(p.file.c_str(), R_OK) != 0)
        found.problems.push_back({"the photo cannot be read (" + std::generic_category().message(errno) + ")", p.file,
                                  "Check that you may read it"});
    if (stamp->bytes == p.bytes && stamp->modified_ns == p.modified_ns)
        return found;
    if (stamp->bytes != p.bytes)
        found.problems.push_back({"the photo has changed since the project was saved", p.file, ""});
    if (const Inspected now = inspect(p.file); now.state == PhotoState::fine) {
        found.photo = now.photo;
    } else {
        auto changed = std::make_shared<PhotoFile>(p);
        changed->bytes = stamp->bytes;
        changed->modified_ns = stamp->modified_ns;
        found.photo = std::move(changed);
    }
    return found;
}

}

std::string project_to_json(const Project& project, const fs::path& file)
{
    return project_text(project, folder_of(file));
}

LoadedProject project_from_json(std::string_view text, const fs::path& file)
{
    LoadedProject loaded;
    loaded.project = project_of_text(text, folder_of(file), file);
    repair_names(loaded.project, file, loaded.problems);
    repair_ids(loaded.project);
    return loaded;
}

LoadedProject read_project(const fs::path& file)
{
    const std::string text = read_whole_file(file);
    LoadedProject loaded = project_from_json(text, file);
    loaded.key = short_key(text);
    return loaded;
}

LoadedProject load_project(const fs::path& file, const std::map<fs::path, fs::path>& moved)
{
    LoadedProject loaded = read_project(file);
    for (ShotPtr& shot : loaded.project.shots) {
        std::vector<PhotoPtr> files; // one of each: a clip is many photos
        std::vector<std::size_t> file_of;
        std::unordered_map<std::string_view, std::size_t> known; // not of paths, which are large and slow to compare
        files.reserve(shot->photos.size());
        file_of.reserve(shot->photos.size());
        known.reserve(shot->photos.size());
        for (const ShotPhoto& p : shot->photos) {
            const auto [at, fresh] = known.emplace(p.photo->file.native(), files.size());
            if (fresh)
                files.push_back(p.photo);
            file_of.push_back(at->second);
        }
        std::vector<OnDisk> found(files.size());
        tbb::parallel_for(std::size_t(0), found.size(), [&](std::size_t i) { found[i] = on_disk(files[i], moved); });
        auto now = std::make_shared<Shot>(*shot);
        for (std::size_t i = 0; i < file_of.size(); ++i)
            if (const std::size_t f = file_of[i]; found[f].photo != files[f])
                now->photos.edit(i).photo = same_picture(*shot->photos[i].photo, found[f].photo);
        for (OnDisk& f : found) {
            loaded.missing += std::size_t(f.missing);
            std::move(f.problems.begin(), f.problems.end(), std::back_inserter(loaded.problems));
        }
        shot = std::move(now);
    }
    std::set<fs::path> silent;
    std::error_code ec;
    for (const Sound& s : loaded.project.reel.sound.sounds)
        if (!fs::exists(s.file, ec) && silent.insert(s.file).second) {
            ++loaded.missing;
            loaded.problems.push_back(
                {"the sound is missing", s.file, "Bring it back to this place; where it is cut is kept"});
        }
    return loaded;
}

std::string project_key(const fs::path& file)
{
    return stamp_of(file) ? short_key(read_whole_file(file)) : std::string();
}

namespace {

/// The project's text, which was read once: what could not be opened again must not take the place of what can.
std::string checked_text(const Project& project, const fs::path& file)
{
    std::string text = project_to_json(project, file);
    try {
        (void)project_of_text(text, folder_of(file), file);
    } catch (const Failure& failure) {
        throw Failure({"the project was not saved, for it could not be opened again: " + failure.problem().what, file,
                       "What was saved before is still there. Take back what you did last and save again"});
    }
    return text;
}

/// The key of what was written. The file must be locked.
std::string write_project(const Project& project, const fs::path& file)
{
    const std::string text = checked_text(project, file);
    write_whole_file(file, text);
    return short_key(text);
}

/// Throws Failure where what is there is no project of this Frenlo's.
void check_replaceable(const fs::path& file, const std::optional<std::string>& last_key)
{
    std::error_code ec;
    if (!fs::exists(file, ec))
        return;
    const std::string there = read_whole_file(file);
    try {
        check_is_project(there, file);
    } catch (const Failure& f) {
        Problem p = f.problem();
        p.what = "the file is there already and is not replaced: " + p.what;
        p.remedy = "Save under another name";
        throw Failure(std::move(p));
    }
    if (last_key && !last_key->empty() && short_key(there) != *last_key)
        throw ChangedOnDisk({"the project was changed on the disk by another program since it was opened", file,
                             "Take the change in, or save under another name"});
}

}

std::string save_project(const Project& project, const fs::path& file, const std::optional<std::string>& last_key)
{
    const ProjectLock lock(file);
    check_replaceable(file, last_key);
    return write_project(project, file);
}

void save_new_project(const Project& project, const fs::path& file)
{
    write_new_file(file, checked_text(project, file));
}

LoadedProject change_project(const fs::path& file, const std::function<Project(const Project&)>& change)
{
    const ProjectLock lock(file);
    LoadedProject loaded = load_project(file);
    Project changed = change(loaded.project);
    if (!(changed == loaded.project))
        loaded.key = write_project(changed, file);
    loaded.project = std::move(changed);
    return loaded;
}

}
