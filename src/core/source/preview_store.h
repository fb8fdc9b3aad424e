#pragma once
#include <cstdint>
#include <filesystem>
#include <mutex>
#include <optional>
#include <string>
#include <string_view>

namespace frenlo {

class SharedCache;

/// Small files kept between sessions under a cache folder, within a limit: the least recently used go first.
/// Safe from any thread, and beside other processes. Losing the folder costs time only, so failures to write are not
/// errors: what was not kept is made again.
class PreviewStore
{
public:
    /// The folder is made when the first file is kept. memory: where pictures lie that were read from it, and what else
    /// is made again easily; null: nowhere. It must outlive the store.
    PreviewStore(std::filesystem::path folder, std::uintmax_t limit_bytes, SharedCache* memory = nullptr);

    [[nodiscard]] SharedCache* memory() const { return memory_; }

    [[nodiscard]] std::optional<std::string> get(const std::string& key);
    [[nodiscard]] bool contains(const std::string& key) const;
    void put(const std::string& key, std::string_view bytes);

    /// Room is made when the next file is kept.
    void set_limit(std::uintmax_t bytes);
    /// What lies in the folder now; asks the disk.
    [[nodiscard]] std::uintmax_t bytes() const;
    /// All of it goes; it is made again when it is wanted.
    void clear();

    static constexpr std::uintmax_t usual_limit = 4'000'000'000; ///< bytes: some 15,000 photos
    /// $XDG_CACHE_HOME/frenlo/previews or ~/.cache/frenlo/previews.
    static std::filesystem::path usual_folder();

private:
    [[nodiscard]] std::filesystem::path place(const std::string& key) const;
    void make_room();

    std::filesystem::path folder_;
    SharedCache* memory_;
    std::uintmax_t limit_;
    std::mutex mutex_;
    std::optional<std::uintmax_t> total_; ///< bytes in the folder, counted once, then kept up
};

/// 32 hexadecimal digits that stand for this text (XXH3, 128 bit).
std::string short_key(std::string_view text);

}
