#include "core/source/listing.h"

#include "core/source/decode.h"
#include "core/source/decoders.h"
#include "core/source/names.h"

#include <algorithm>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

bool hidden(const fs::path& file)
{
    return file.filename().native().starts_with('.');
}

tl::unexpected<Problem> no_folder(const fs::path& folder, const std::error_code& ec)
{
    return problem("the folder cannot be read (" + ec.message() + ")", folder,
                   "Check that it is there and that you may read it");
}

/// The files of this folder and of those in it. One below that cannot be read is told, and the others are read all the
/// same.
Result<bool> add_folder(const fs::path& folder, Listing& found)
{
    std::vector<fs::path> below;
    std::error_code ec;
    for (fs::directory_iterator it(folder, ec), end; !ec && it != end; it.increment(ec)) {
        std::error_code gone;
        if (hidden(it->path()))
            continue;
        if (it->is_directory(gone) && !it->is_symlink(gone)) // a link to a folder may lead back here
            below.push_back(it->path());
        else if (it->is_regular_file(gone) || (!it->is_directory(gone) && has_photo_extension(it->path())))
            found.files.push_back(it->path());
    }
    if (ec)
        return no_folder(folder, ec);
    for (const fs::path& b : below)
        if (auto read = add_folder(b, found); !read)
            found.problems.push_back(std::move(read.error()));
    return true;
}

void add_run(const fs::path& one, Listing& found)
{
    if (named_as_clip(one)) { // the next clip of a card is no part of this one
        found.files.push_back(one);
        return;
    }
    const auto name = numbered(one);
    std::error_code ec;
    for (fs::directory_iterator it(one.parent_path(), ec), end; !ec && it != end; it.increment(ec)) {
        const auto other = numbered(it->path());
        if (it->path() == one || (name && other && other->before == name->before && other->after == name->after))
            found.files.push_back(it->path());
    }
    if (ec)
        throw Failure(no_folder(one.parent_path(), ec).value());
}

}

Listing files_in(std::span<const fs::path> places)
{
    Listing found;
    for (const auto& place : places) {
        const fs::path p = fs::absolute(place).lexically_normal();
        std::error_code ec;
        if (fs::is_directory(p, ec))
            value_or_throw(add_folder(p, found));
        else if (fs::is_regular_file(p, ec))
            add_run(p, found);
        else
            throw Failure(
                {fs::exists(p, ec) ? "this is neither a folder nor a file" : "there is no such folder or photo", p,
                 "Check its name"});
    }
    std::sort(found.files.begin(), found.files.end(), natural_path_less);
    found.files.erase(std::unique(found.files.begin(), found.files.end()), found.files.end());
    return found;
}

}
