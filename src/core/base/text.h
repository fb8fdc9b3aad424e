#pragma once
#include <cstdint>
#include <filesystem>
#include <string>
#include <string_view>

namespace frenlo {

/// Whether the bytes are well-formed UTF-8. File names on Linux need not be.
bool is_utf8(std::string_view bytes);

/// A path for people: bytes that are not UTF-8 are shown as U+FFFD.
std::string shown_path(const std::filesystem::path& path);

/// "1 photo", "47 photos".
std::string counted(std::int64_t n, std::string_view one, std::string_view many);

/// "3.1 MB", powers of 1000.
std::string shown_bytes(std::uint64_t bytes);

/// Text without spaces at its ends.
std::string_view trimmed(std::string_view s);

}
