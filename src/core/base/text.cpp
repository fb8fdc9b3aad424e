#include "core/base/text.h"

#include <array>
#include <cstdio>

namespace frenlo {

namespace {

/// Length of the well-formed sequence at the start of s, 0 if there is none.
/// Unicode 15, table 3-7 (well-formed UTF-8 byte sequences).
std::size_t utf8_length(std::string_view s)
{
    const auto byte = [&](std::size_t i) { return static_cast<unsigned char>(s[i]); };
    const auto in = [&](std::size_t i, int low, int high) { return i < s.size() && byte(i) >= low && byte(i) <= high; };
    const int b = byte(0);
    if (b < 0x80)
        return 1;
    if (b >= 0xC2 && b <= 0xDF)
        return in(1, 0x80, 0xBF) ? 2 : 0;
    if (b >= 0xE0 && b <= 0xEF) {
        const int low = b == 0xE0 ? 0xA0 : 0x80;
        const int high = b == 0xED ? 0x9F : 0xBF;
        return in(1, low, high) && in(2, 0x80, 0xBF) ? 3 : 0;
    }
    if (b >= 0xF0 && b <= 0xF4) {
        const int low = b == 0xF0 ? 0x90 : 0x80;
        const int high = b == 0xF4 ? 0x8F : 0xBF;
        return in(1, low, high) && in(2, 0x80, 0xBF) && in(3, 0x80, 0xBF) ? 4 : 0;
    }
    return 0;
}

}

bool is_utf8(std::string_view bytes)
{
    while (!bytes.empty()) {
        const std::size_t n = utf8_length(bytes);
        if (n == 0)
            return false;
        bytes.remove_prefix(n);
    }
    return true;
}

std::string shown_path(const std::filesystem::path& path)
{
    std::string out;
    std::string_view bytes = path.native();
    while (!bytes.empty()) {
        const std::size_t n = utf8_length(bytes);
        if (n == 0)
            out += "\xEF\xBF\xBD";
        else
            out += bytes.substr(0, n);
        bytes.remove_prefix(n == 0 ? 1 : n);
    }
    return out;
}

std::string counted(std::int64_t n, std::string_view one, std::string_view many)
{
    return std::to_string(n) + ' ' + std::string(n == 1 ? one : many);
}

std::string shown_bytes(std::uint64_t bytes)
{
    if (bytes < 1000)
        return std::to_string(bytes) + " B";
    constexpr std::array units{"kB", "MB", "GB", "TB", "PB", "EB"};
    double value = static_cast<double>(bytes);
    std::size_t unit = 0;
    for (value /= 1000; value >= 999.5 && unit + 1 < units.size(); ++unit)
        value /= 1000;
    std::array<char, 32> text{};
    std::snprintf(text.data(), text.size(), value < 99.95 ? "%.1f %s" : "%.0f %s", value, units[unit]);
    return text.data();
}

std::string_view trimmed(std::string_view s)
{
    constexpr std::string_view spaces = " \t\r\n";
    const auto first = s.find_first_not_of(spaces);
    if (first == std::string_view::npos)
        return {};
    return s.substr(first, s.find_last_not_of(spaces) - first + 1);
}

}
