#pragma once
#include <cstdint>
#include <filesystem>
#include <optional>
#include <string>
#include <string_view>

namespace frenlo {

/// Natural order: digits compare as numbers, letters without case, so HARB2 comes before harb10. Total: names that
/// compare equal that way fall back to their bytes. For std::sort.
bool natural_less(std::string_view a, std::string_view b);

/// Folder by folder, name by name, each in natural order.
bool natural_path_less(const std::filesystem::path& a, const std::filesystem::path& b);

/// A file name taken apart at its last run of digits: "HARB4838.JPG" is "HARB", 4838, 4 digits, ".JPG".
struct NumberedName
{
    std::string before;
    std::int64_t number = 0;
    int digits = 0;
    std::string after; ///< the extension and what stands between the digits and it
};
/// Nothing where the stem has no digits, or more than 15.
std::optional<NumberedName> numbered(const std::filesystem::path& file);

/// Whether a name is made of a date and a time, "20310412_101501", "IMG_20260503_104211_01": its digits are no counter.
bool names_a_time(const std::filesystem::path& file);

/// The name taken apart, where its number counts photos.
std::optional<NumberedName> counted(const std::filesystem::path& file);

/// Whether photos of these names were counted apart: another text around the digits, or another text before a number
/// that begins again, as in "shot1_0048", "shot2_0001".
bool another_run(const std::filesystem::path& a, const std::filesystem::path& b);

/// Whether a camera named this folder: three digits from 100 and five letters, digits or underscores, "100HARBO"
/// (CIPA DC-009, DCF 2.0, 3.2.2). A card's photos go on from one to the next.
bool is_card_folder(const std::filesystem::path& folder);

}
