#include "core/source/preview_store.h"

#include "core/base/folders.h"
#include "core/base/input_file.h"
#include "core/base/problem.h"

#include <xxhash.h>

#include <algorithm>
#include <array>
#include <cstdio>
#include <vector>

namespace frenlo {

namespace fs = std::filesystem;

PreviewStore::PreviewStore(fs::path folder, std::uintmax_t limit_bytes, SharedCache* memory)
    : folder_(std::move(folder)), memory_(memory), limit_(limit_bytes)
{
}

fs::path PreviewStore::usual_folder()
{
    return cache_folder() / "previews";
}

fs::path PreviewStore::place(const std::string& key) const
{
    return folder_ / key.substr(0, 2) / key.substr(2);
}

bool PreviewStore::contains(const std::string& key) const
{
    std::error_code ec;
    return fs::exists(place(key), ec);
}

std::optional<std::string> PreviewStore::get(const std::string& key)
{
    const fs::path file = place(key);
    std::error_code ec;
    const auto used = fs::last_write_time(file, ec);
    if (ec)
        return std::nullopt;
    const auto now = fs::file_time_type::clock::now();
    if (now - used > std::chrono::hours(1)) // "least recently used" to the hour spares a write for each look
        fs::last_write_time(file, now, ec);
    try {
        return read_whole_file(file);
    } catch (const Failure&) {
        return std::nullopt; // another process made room just now: the caller makes it again
    }
}

void PreviewStore::put(const std::string& key, std::string_view bytes)
{
    // Not AtomicFile: a cache entry that is lost in a power cut is made again, so it need not wait for the disk.
    const fs::path file = place(key);
    std::error_code ec;
    fs::create_directories(file.parent_path(), ec);
    const fs::path unfinished = file.native() + '.' + short_key(std::to_string(std::uintptr_t(&ec)) + key).substr(0, 8);
    if (FILE* f = std::fopen(unfinished.c_str(), "wbe")) {
        const bool written = std::fwrite(bytes.data(), 1, bytes.size(), f) == bytes.size();
        if (std::fclose(f) == 0 && written)
            fs::rename(unfinished, file, ec);
        else
            fs::remove(unfinished, ec);
    }
    const std::lock_guard lock(mutex_);
    if (total_)
        *total_ += bytes.size();
    if (!total_ || *total_ > limit_)
        make_room();
}

void PreviewStore::set_limit(std::uintmax_t bytes)
{
    const std::lock_guard lock(mutex_);
    limit_ = bytes;
}

std::uintmax_t PreviewStore::bytes() const
{
    std::uintmax_t sum = 0;
    std::error_code ec;
    for (fs::recursive_directory_iterator it(folder_, ec), end; !ec && it != end; it.increment(ec)) {
        std::error_code gone; // as in make_room
        if (const bool file = it->is_regular_file(gone); file && !gone)
            if (const std::uintmax_t size = it->file_size(gone); !gone)
                sum += size;
    }
    return sum;
}

void PreviewStore::clear()
{
    const std::lock_guard lock(mutex_);
    std::vector<fs::path> files;
    std::error_code ec;
    for (fs::recursive_directory_iterator it(folder_, ec), end; !ec && it != end; it.increment(ec))
        if (std::error_code gone; it->is_regular_file(gone))
            files.push_back(it->path());
    for (const fs::path& file : files)
        fs::remove(file, ec);
    total_ = std::nullopt; // counted anew: another process may have kept some meanwhile
}

void PreviewStore::make_room()
{
    struct Kept
    {
        fs::path file;
        std::uintmax_t bytes;
        fs::file_time_type used;
    };
    std::vector<Kept> kept;
    std::error_code ec;
    total_ = 0;
    for (fs::recursive_directory_iterator it(folder_, ec), end; !ec && it != end; it.increment(ec)) {
        std::error_code gone; // another process may remove files while this one looks
        if (!it->is_regular_file(gone))
            continue;
        Kept k{it->path(), it->file_size(gone), it->last_write_time(gone)};
        if (gone)
            continue;
        *total_ += k.bytes;
        kept.push_back(std::move(k));
    }
    if (*total_ <= limit_)
        return;
    std::sort(kept.begin(), kept.end(), [](const Kept& a, const Kept& b) { return a.used < b.used; });
    for (const auto& k : kept) {
        if (*total_ <= limit_ - limit_ / 10) // a tenth of room, so that this walk is rare
            break;
        if (fs::remove(k.file, ec))
            *total_ -= k.bytes;
    }
}

std::string short_key(std::string_view text)
{
    const XXH128_hash_t h = XXH3_128bits(text.data(), text.size());
    std::array<char, 40> hex{};
    std::snprintf(hex.data(), hex.size(), "%016llx%016llx", static_cast<unsigned long long>(h.high64),
                  static_cast<unsigned long long>(h.low64));
    return hex.data();
}

}
