#include "core/photo/listing.h"

#include "core/base/problem.h"
#include "core/photo/names.h"

#include <algorithm>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

bool hidden(const fs::path& file)
{
    return file.filename().native().starts_with('.');
}

void add_folder(const fs::path& folder, std::vector<fs::path>& files)
{
    std::error_code ec;
    fs::recursive_directory_iterator it(folder, fs::directory_options::skip_permission_denied, ec);
    for (const fs::recursive_directory_iterator end; !ec && it != end; it.increment(ec)) {
        std::error_code gone;
        if (it->is_directory(gone) && hidden(it->path()))
            it.disable_recursion_pending();
        else if (it->is_regular_file(gone) && !hidden(it->path()))
            files.push_back(it->path());
    }
    if (ec)
        throw Failure({"the folder cannot be read (" + ec.message() + ")", folder, "Check that it is there and that you may read it"});
}

void add_run(const fs::path& one, std::vector<fs::path>& files)
{
    const auto name = numbered(one);
    std::error_code ec;
    for (fs::directory_iterator it(one.parent_path(), ec), end; !ec && it != end; it.increment(ec)) {
        const auto other = numbered(it->path());
        if (it->path() == one || (name && other && other->before == name->before && other->after == name->after))
            files.push_back(it->path());
    }
    if (ec)
        throw Failure({"the folder cannot be read (" + ec.message() + ")", one.parent_path(), "Check that you may read it"});
}

}

std::vector<fs::path> files_in(std::span<const fs::path> places)
{
    std::vector<fs::path> files;
    for (const auto& place : places) {
        const fs::path p = fs::absolute(place).lexically_normal();
        std::error_code ec;
        if (fs::is_directory(p, ec))
            add_folder(p, files);
        else if (fs::is_regular_file(p, ec))
            add_run(p, files);
        else
            throw Failure({"there is no such folder or photo", p, "Check its name"});
    }
    std::sort(files.begin(), files.end(), natural_path_less);
    files.erase(std::unique(files.begin(), files.end()), files.end());
    return files;
}

}
