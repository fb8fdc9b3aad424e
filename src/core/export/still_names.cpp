#include "core/export/still_names.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cstdio>
#include <regex>

namespace frenlo {

Result<StillNames> StillNames::parse(const std::filesystem::path& file, std::int64_t stills)
{
    const auto refused = [&] {
        return problem("the stills' name may hold one number pattern such as %04d, and no other percent sign", file,
                       "Name them like film_%04d" + file.extension().native());
    };
    const int least = stills > 9'999 ? 5 : 4;
    const std::string name = file.filename().native();
    static const std::regex a_pattern("%0?[0-9]*d");
    if (std::regex_search(file.parent_path().native(), a_pattern))
        return refused();
    if (name.find('%') == std::string::npos)
        return StillNames(file.stem().native() + '_', least, file.extension().native());
    static const std::regex pattern("([^%]*)%(?:0([1-9]))?d([^%]*)");
    std::smatch found;
    if (!std::regex_match(name, found, pattern))
        return refused();
    const std::string after = found[3];
    if (!after.empty() && std::isalpha(static_cast<unsigned char>(after.front())) != 0) // "50%done": no number is meant
        return refused();
    const int digits = found[2].matched ? found[2].str().front() - '0' : 1;
    return StillNames(found[1], least == 5 ? std::max(digits, 5) : digits, after);
}

std::string StillNames::name(std::int64_t number) const
{
    std::array<char, 32> text{};
    std::snprintf(text.data(), text.size(), "%0*lld", digits_, static_cast<long long>(number));
    return before_ + text.data() + after_;
}

std::string StillNames::pattern() const
{
    return before_ + "%0" + std::to_string(digits_) + 'd' + after_;
}

}
