#include "core/project/collect.h"

#include "core/base/atomic_file.h"
#include "core/base/input_file.h"
#include "core/base/text.h"
#include "core/project/project_file.h"
#include "core/project/relocation.h"

#include <algorithm>
#include <set>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

/// A file to be copied, and where to.
struct Piece
{
    fs::path from, folder;
};

/// A name as a folder: without what a path would take for something else.
std::string folder_name(const std::string& name)
{
    std::string out = name.empty() ? std::string("shot") : name;
    std::replace(out.begin(), out.end(), '/', '-');
    return out.front() == '.' ? '_' + out : out;
}

/// Each file once, with the folder of the first shot that has it.
std::vector<Piece> pieces_of(const Project& project, const fs::path& folder)
{
    std::vector<Piece> pieces;
    std::set<fs::path> known;
    const auto add = [&](const fs::path& file, const fs::path& to) {
        if (known.insert(file).second)
            pieces.push_back({file, to});
    };
    for (const ShotPtr& shot : project.shots)
        for (const ShotPhoto& p : shot->photos) {
            if (!is_on_disk(*p.photo))
                continue;
            const fs::path to = folder / "photos" / folder_name(shot->name);
            add(p.photo->file, to);
            for (const fs::path& other : p.photo->merged)
                add(other, to);
        }
    for (const ShotPtr& shot : project.shots)
        for (const ShotSteps::Entry& e : shot->steps.entries())
            if (e.type->file)
                add(e.type->file(e.value.get()), folder / "films");
    for (const Sound& sound : project.reel.sound.sounds)
        add(sound.file, folder / "sounds");
    return pieces;
}

void refuse_when_too_large(const std::vector<Piece>& pieces, const fs::path& folder)
{
    std::error_code ec;
    std::uintmax_t bytes = 0;
    for (const Piece& p : pieces)
        if (!fs::exists(p.folder / p.from.filename(), ec))
            if (const auto stamp = stamp_of(p.from))
                bytes += stamp->bytes;
    fs::path there = fs::absolute(folder);
    while (!fs::exists(there, ec) && there != there.parent_path())
        there = there.parent_path();
    const auto space = fs::space(there, ec);
    if (!ec && space.available < bytes)
        throw Failure({"there is too little room: " + shown_bytes(bytes) + " are needed, " +
                           shown_bytes(space.available) + " are left",
                       folder, "Choose a folder on another disk"});
}

/// Where the file lies in its folder then. Copies it unless the same bytes are there. taken: names that other files of
/// the project have there.
fs::path put(const Piece& piece, std::set<fs::path>& taken, bool& copied)
{
    const std::string stem = piece.from.stem().native(), ending = piece.from.extension().native();
    for (int number = 1;; ++number) {
        const fs::path to = piece.folder / (number == 1 ? stem + ending : stem + ' ' + std::to_string(number) + ending);
        if (taken.contains(to))
            continue;
        std::error_code ec;
        if (fs::exists(fs::symlink_status(to, ec))) {
            if (!fs::is_regular_file(to, ec) || !same_bytes(piece.from, to))
                continue;
        } else {
            copy_to_new(piece.from, to);
            copied = true;
            if (!same_bytes(piece.from, to)) { // a disk that does not keep what it is given
                fs::remove(to, ec);
                throw Failure({"the copy is not what was copied", to, "Look at the disk, or choose another one"});
            }
        }
        taken.insert(to);
        return to;
    }
}

}

Collected collect_project(const Project& project, const fs::path& folder, const std::string& name, const Job& job)
{
    Collected result;
    result.project = fs::absolute(folder) / (name + ".frenlo");
    std::error_code ec;
    if (fs::exists(result.project, ec) && !fs::is_directory(fs::absolute(folder) / "photos", ec))
        throw Failure(
            {"a project of this name lies there, which is no collection", result.project, "Choose an empty folder"});
    const auto pieces = pieces_of(project, fs::absolute(folder));
    refuse_when_too_large(pieces, folder);
    Moved moved;
    std::set<fs::path> taken;
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        job.check();
        job.report(double(i) / double(pieces.size()), std::to_string(i + 1) + " of " + std::to_string(pieces.size()));
        if (const auto stamp = stamp_of(pieces[i].from); !stamp) {
            result.problems.push_back({"the file is gone", pieces[i].from, "Find it again, and collect once more"});
            continue;
        } else {
            result.bytes += stamp->bytes;
        }
        bool copied = false;
        moved[pieces[i].from] = put(pieces[i], taken, copied);
        ++result.files;
        result.copied += copied ? 1 : 0;
    }
    save_project(Relocation(moved)(project), result.project);
    job.report(1, shown_path(result.project.filename()));
    return result;
}

}
