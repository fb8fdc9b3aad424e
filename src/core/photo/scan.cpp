#include "core/photo/scan.h"

#include "core/base/text.h"
#include "core/photo/decode.h"
#include "core/photo/metadata.h"
#include "core/photo/names.h"
#include "core/photo/preview_store.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <fstream>
#include <map>
#include <set>

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

std::vector<fs::path> listed(std::span<const fs::path> places)
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

/// The first and the last bytes; enough to know the format and to see whether the end is there.
struct Ends
{
    std::string first, last;
    bool readable = false;
};

Ends ends_of(const fs::path& file, std::uintmax_t bytes)
{
    constexpr std::uintmax_t tail = 256;
    Ends e;
    std::ifstream in(file, std::ios::binary);
    e.first.resize(16);
    in.read(e.first.data(), 16);
    e.readable = !in.bad() && in.gcount() > 0;
    e.first.resize(static_cast<std::size_t>(in.gcount()));
    in.clear();
    in.seekg(static_cast<std::streamoff>(bytes - std::min(bytes, tail)));
    e.last.resize(tail);
    in.read(e.last.data(), tail);
    e.last.resize(static_cast<std::size_t>(in.gcount()));
    return e;
}

/// Cheap, and never wrong in the direction that matters: a file whose end looks as it should is taken as whole, every
/// other one is decoded to know.
bool end_looks_whole(PhotoFormat format, const Ends& ends, std::uintmax_t bytes)
{
    std::string_view last = ends.last;
    switch (format) {
    case PhotoFormat::jpeg:
        last = last.substr(0, last.find_last_not_of('\0') + 1); // some cameras pad with zeros
        return last.ends_with("\xFF\xD9");
    case PhotoFormat::png:
        return last.find("IEND") != std::string_view::npos;
    case PhotoFormat::webp: {
        std::uintmax_t size = 0; // RFC 9649, 2.3: bytes after the first eight, little-endian
        for (std::size_t i = 0; i < 4; ++i)
            size |= std::uintmax_t(static_cast<unsigned char>(ends.first[4 + i])) << (8 * i);
        return size + 8 <= bytes;
    }
    case PhotoFormat::tiff:
        return true; // its strips may stand anywhere; what is missing is found when the photo is first decoded
    }
    return false;
}

struct Looked
{
    FoundPhoto found;
    std::optional<Finding> finding;
    bool ignored = false;
};

Looked look_at(const fs::path& file)
{
    auto photo = std::make_shared<PhotoFile>();
    photo->file = file;
    Looked result;
    const auto flawed = [&](PhotoState state, FindingKind kind, const std::string& text) {
        result.found = {photo, state};
        result.finding = Finding{kind, {file}, text};
        return result;
    };
    const std::string name = shown_path(file.filename());
    const auto stamp = stamp_of(file);
    if (!stamp)
        return flawed(PhotoState::unreadable, FindingKind::unreadable, name + " cannot be opened.");
    photo->bytes = stamp->bytes;
    photo->modified_ns = stamp->modified_ns;
    const bool named_so = has_photo_extension(file);
    if (photo->bytes == 0) {
        result.ignored = !named_so;
        return flawed(PhotoState::empty, FindingKind::empty, name + " is empty.");
    }
    const Ends ends = ends_of(file, photo->bytes);
    const auto format = ends.readable ? sniff(ends.first) : std::nullopt;
    if (!format) {
        result.ignored = !named_so;
        if (!ends.readable)
            return flawed(PhotoState::unreadable, FindingKind::unreadable, name + " cannot be opened.");
        return flawed(PhotoState::not_a_photo, FindingKind::not_a_photo,
                      name + " is not a photo, whatever its name says.");
    }
    if (!named_so) { // a TIFF-based file of another trade, a download: only what is named as a photo is one
        result.ignored = true;
        return result;
    }
    photo->format = *format;
    const auto metadata = read_metadata(file);
    if (metadata) {
        photo->orientation = metadata->orientation;
        photo->size = seen_size(metadata->stored_size, metadata->orientation);
        photo->captured = metadata->captured;
    }
    if (metadata && end_looks_whole(*format, ends, photo->bytes)) {
        result.found.photo = photo;
        return result;
    }
    const auto decoded = decode(*photo, cv::Size(1, 1));
    if (!decoded)
        return flawed(PhotoState::unreadable, FindingKind::unreadable, name + " cannot be read.");
    if (!decoded->flaw.empty())
        return flawed(PhotoState::unreadable, FindingKind::unreadable, name + ": " + decoded->flaw + ".");
    if (!metadata) {
        const auto whole = decode(*photo);
        photo->size = whole ? whole->pixels.size() : cv::Size();
    }
    result.found.photo = photo;
    return result;
}

/// One shot a folder: what a photographer has already put together.
std::vector<FoundShot> shots_by_folder(const std::vector<FoundPhoto>& photos)
{
    std::vector<FoundShot> shots;
    std::map<fs::path, std::size_t> shot_of;
    for (std::size_t i = 0; i < photos.size(); ++i) {
        if (photos[i].state != PhotoState::fine)
            continue;
        const fs::path folder = photos[i].photo->file.parent_path();
        const auto [it, added] = shot_of.try_emplace(folder, shots.size());
        if (added)
            shots.push_back({shown_path(folder.filename()), {}, "one folder"});
        shots[it->second].photos.push_back(i);
    }
    return shots;
}

std::uint64_t size_key(cv::Size s)
{
    return (std::uint64_t(s.width) << 32) | std::uint32_t(s.height);
}

std::string size_text(cv::Size s)
{
    return std::to_string(s.width) + " × " + std::to_string(s.height);
}

/// "HARB4838.jpg", "HARB4838.jpg and 3 more".
std::string some_names(const std::vector<fs::path>& files)
{
    std::string s = shown_path(files.front().filename());
    if (files.size() > 1)
        s += " and " + std::to_string(files.size() - 1) + " more";
    return s;
}

void find_sizes(std::span<const PhotoPtr> photos, std::vector<Finding>& findings)
{
    std::map<std::uint64_t, std::vector<const PhotoFile*>> by_size;
    for (const auto& p : photos)
        by_size[size_key(p->size)].push_back(p.get());
    const auto usual = std::max_element(by_size.begin(), by_size.end(), [](const auto& a, const auto& b) {
        return a.second.size() < b.second.size();
    });
    for (auto it = by_size.begin(); it != by_size.end(); ++it) {
        if (it == usual)
            continue;
        std::vector<fs::path> files;
        for (const auto* p : it->second)
            files.push_back(p->file);
        const cv::Size size = it->second.front()->size;
        const cv::Size most = usual->second.front()->size;
        const bool turned = size.width == most.height && size.height == most.width;
        const std::string is = files.size() == 1 ? " is " : " are ";
        findings.push_back({turned ? FindingKind::turned : FindingKind::size_differs, files,
                            some_names(files) + is + size_text(size) + (turned ? ", on its side" : "") +
                                "; the others are " + size_text(most) + "."});
    }
}

void find_numbers(std::span<const PhotoPtr> photos, std::span<const PhotoPtr> aside, std::vector<Finding>& findings)
{
    // A run is a name but for its number; within it each number should be there once.
    std::map<std::string, std::map<std::int64_t, std::vector<fs::path>>> runs;
    for (const auto& part : {photos, aside})
        for (const auto& p : part)
            if (const auto n = numbered(p->file))
                runs[n->before][n->number].push_back(p->file);
    for (const auto& [before, numbers] : runs) {
        std::optional<std::int64_t> last;
        for (const auto& [number, files] : numbers) {
            if (files.size() > 1)
                findings.push_back({FindingKind::number_repeated, files,
                                    "Number " + std::to_string(number) + " is there " +
                                        std::to_string(files.size()) + " times."});
            if (last && number > *last + 1) {
                const std::int64_t missing = number - *last - 1;
                std::string text = missing == 1 ? "Number " + std::to_string(*last + 1) + " is missing"
                                                : "Numbers " + std::to_string(*last + 1) + " to " +
                                                      std::to_string(number - 1) + " are missing";
                findings.push_back({FindingKind::number_missing, {numbers.at(*last).front(), files.front()},
                                    text + ", after " + shown_path(numbers.at(*last).front().filename()) + "."});
            }
            last = number;
        }
    }
}

void find_disorder(std::span<const PhotoPtr> photos, std::vector<Finding>& findings)
{
    std::vector<PhotoPtr> by_name(photos.begin(), photos.end());
    sort_photos(by_name, PhotoOrder::by_name);
    std::vector<fs::path> files;
    for (std::size_t i = 1; i < by_name.size(); ++i)
        if (by_name[i]->captured && by_name[i - 1]->captured && *by_name[i]->captured < *by_name[i - 1]->captured)
            files.push_back(by_name[i]->file);
    if (files.empty())
        return;
    const std::string count = files.size() == 1 ? " was" : " were";
    findings.push_back({FindingKind::order_disagrees, files,
                        "Names and capture times disagree: " + some_names(files) + count +
                            " taken before the photo whose name comes first."});
}

void find_copies(std::span<const PhotoPtr> photos, std::vector<Finding>& findings)
{
    std::map<std::uintmax_t, std::vector<const PhotoFile*>> by_bytes;
    for (const auto& p : photos)
        by_bytes[p->bytes].push_back(p.get());
    for (const auto& [bytes, same_size] : by_bytes) {
        if (same_size.size() < 2)
            continue;
        std::map<std::string, std::vector<fs::path>> by_content;
        for (const auto* p : same_size) {
            std::ifstream in(p->file, std::ios::binary);
            const std::string content((std::istreambuf_iterator<char>(in)), {});
            by_content[short_key(content)].push_back(p->file);
        }
        for (const auto& [key, files] : by_content)
            if (files.size() > 1)
                findings.push_back({FindingKind::copy, files,
                                    some_names(files) + " are the same photo, byte for byte."});
    }
}

}

std::string_view kind_name(FindingKind kind)
{
    switch (kind) {
    case FindingKind::unreadable:
        return "unreadable";
    case FindingKind::empty:
        return "empty";
    case FindingKind::size_differs:
        return "size-differs";
    case FindingKind::number_missing:
        return "number-missing";
    case FindingKind::number_repeated:
        return "number-repeated";
    case FindingKind::order_disagrees:
        return "order-disagrees";
    case FindingKind::copy:
        return "copy";
    case FindingKind::not_a_photo:
        return "not-a-photo";
    case FindingKind::turned:
        return "turned";
    }
    return {};
}

std::string_view state_name(PhotoState state)
{
    switch (state) {
    case PhotoState::fine:
        return "fine";
    case PhotoState::unreadable:
        return "unreadable";
    case PhotoState::empty:
        return "empty";
    case PhotoState::not_a_photo:
        return "not-a-photo";
    }
    return {};
}

std::optional<std::int64_t> number_of(const PhotoFile& photo)
{
    const auto n = numbered(photo.file);
    return n ? std::optional(n->number) : std::nullopt;
}

void sort_photos(std::vector<PhotoPtr>& photos, PhotoOrder order)
{
    std::stable_sort(photos.begin(), photos.end(), [&](const PhotoPtr& a, const PhotoPtr& b) {
        if (order == PhotoOrder::by_time && a->captured != b->captured) {
            if (!a->captured || !b->captured)
                return a->captured.has_value();
            return *a->captured < *b->captured;
        }
        return natural_path_less(a->file, b->file);
    });
}

std::vector<Finding> findings_in_shot(std::span<const PhotoPtr> photos, std::span<const PhotoPtr> aside)
{
    std::vector<Finding> findings;
    find_sizes(photos, findings);
    find_numbers(photos, aside, findings);
    find_disorder(photos, findings);
    find_copies(photos, findings);
    return findings;
}

ScanResult scan(std::span<const fs::path> places, PhotoOrder order, const Job& job)
{
    const std::vector<fs::path> files = listed(places);
    std::vector<Looked> looked(files.size());
    std::atomic<std::size_t> done = 0;
    tbb::parallel_for(std::size_t(0), files.size(), [&](std::size_t i) {
        if (job.stopping())
            return;
        looked[i] = look_at(files[i]);
        const std::size_t n = ++done;
        if (n % 16 == 0 || n == files.size())
            job.report(double(n) / double(files.size()), "looked at " + std::to_string(n) + " of " +
                                                             counted(std::int64_t(files.size()), "file", "files"));
    });
    job.check();

    ScanResult result;
    std::map<const PhotoFile*, FoundPhoto> found;
    std::vector<PhotoPtr> photos;
    for (auto& l : looked) {
        if (l.ignored)
            continue;
        photos.push_back(l.found.photo);
        found[l.found.photo.get()] = l.found;
        if (l.finding)
            result.findings.push_back(std::move(*l.finding));
    }
    sort_photos(photos, order);
    for (const auto& p : photos)
        result.photos.push_back(found.at(p.get()));
    result.shots = shots_by_folder(result.photos);
    for (std::size_t i = 0; i < result.photos.size(); ++i)
        if (result.photos[i].state != PhotoState::fine)
            result.aside.push_back(i);
    for (const auto& shot : result.shots) {
        job.check();
        std::vector<PhotoPtr> in_shot;
        for (const std::size_t i : shot.photos)
            in_shot.push_back(result.photos[i].photo);
        std::vector<PhotoPtr> beside;
        for (const std::size_t i : result.aside)
            if (result.photos[i].photo->file.parent_path() == in_shot.front()->file.parent_path())
                beside.push_back(result.photos[i].photo);
        auto more = findings_in_shot(in_shot, beside);
        std::move(more.begin(), more.end(), std::back_inserter(result.findings));
    }
    return result;
}

}
