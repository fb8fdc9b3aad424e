#include "core/base/id.h"

#include <charconv>
#include <random>

namespace frenlo {

std::uint64_t fresh_id()
{
    thread_local std::random_device system; // the processor's, or getrandom(2)
    std::uint64_t id = 0;
    while (id == 0)
        id = (std::uint64_t(system()) << 32) | system();
    return id;
}

std::string id_text(std::uint64_t id)
{
    constexpr std::string_view digits = "0123456789abcdef";
    std::string text(16, '0');
    for (auto at = text.rbegin(); at != text.rend(); ++at, id >>= 4)
        *at = digits[id & 15];
    return text;
}

std::optional<std::uint64_t> parse_id(std::string_view text)
{
    std::uint64_t id = 0;
    if (text.size() != 16 || text.find_first_not_of("0123456789abcdef") != std::string_view::npos)
        return std::nullopt;
    std::from_chars(text.data(), text.data() + text.size(), id, 16);
    return id == 0 ? std::nullopt : std::optional(id);
}

}
