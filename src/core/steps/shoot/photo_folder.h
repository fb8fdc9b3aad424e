#pragma once
#include <cstdint>
#include <deque>
#include <filesystem>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace frenlo {

/// The folder that photos are taken into.
class PhotoFolder
{
public:
    /// Makes the folder where it is missing. stem: what its photos are called before their number. Throws Failure where
    /// nothing can be written there.
    PhotoFolder(const std::filesystem::path& folder, std::string stem);

    /// Writes a photo under the next free number, "pim_0012.png"; tail: behind the number. It is on disk, whole and
    /// durable, when this returns; nothing that is there is replaced. Throws Failure.
    std::filesystem::path store(std::string_view bytes, const std::string& ending, const std::string& tail = {});
    /// The number that store() goes on with, for photos that belong together.
    void same_number_again();

    [[nodiscard]] const std::filesystem::path& folder() const { return folder_; }
    [[nodiscard]] const std::string& stem() const { return stem_; }
    /// On the disk that it lies on.
    [[nodiscard]] std::uintmax_t free_bytes() const;

private:
    [[nodiscard]] std::filesystem::path name_of(std::int64_t number, const std::string& tail,
                                                const std::string& ending) const;

    std::filesystem::path folder_;
    std::string stem_;
    std::int64_t next_ = 1;
    bool again_ = false;
};

/// The photos that were taken into a folder under this name, in their order.
std::vector<std::filesystem::path> photos_taken(const std::filesystem::path& folder, const std::string& stem);

/// The file name that a shot's name makes: letters, figures, dashes.
std::string stem_of(std::string_view name);

/// How long a disk will do, from how it was used lately.
class SpaceWatch
{
public:
    /// at: seconds on any clock that only goes on.
    void wrote(double at, std::uintmax_t bytes);
    /// Until this much is used up; nothing while it is too early to say.
    [[nodiscard]] std::optional<double> seconds_left(std::uintmax_t free) const;
    /// Photos like the last ones that still fit; nothing before the first.
    [[nodiscard]] std::optional<std::int64_t> photos_left(std::uintmax_t free) const;

    static constexpr double warn_seconds = 3600;

private:
    struct Written
    {
        double at;
        std::uintmax_t bytes;
    };
    std::deque<Written> lately_;
};

}
