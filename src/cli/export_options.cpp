#include "cli/export_options.h"

#include "core/base/text.h"
#include "core/command/output.h"
#include "core/time/fraction.h"

#include <utility>

namespace frenlo::cli {

using namespace command;

/// "1920x1080"; "1920x" or "x1080" let the other side follow.
cv::Size size_option(const std::string& text)
{
    const auto x = text.find('x');
    const auto side = [&](const std::string& s) -> int {
        if (s.empty())
            return 0;
        const auto n = parse_fraction(s);
        if (!n || n->den() != 1 || n->num() < 1 || n->num() > 65'535)
            throw WrongCall("\"" + text + "\" is not a size; 1920x1080, 1920x and x1080 are");
        return static_cast<int>(n->num());
    };
    const cv::Size size(side(text.substr(0, x)), x == std::string::npos ? 0 : side(text.substr(x + 1)));
    if (size.width == 0 && size.height == 0)
        throw WrongCall("\"" + text + "\" is not a size; 1920x1080, 1920x and x1080 are");
    return size;
}

/// "2MB", "1500kB", "800000".
std::int64_t bytes_option(const std::string& text)
{
    std::string number = text;
    std::int64_t unit = 1;
    for (const auto& [name, size] : {std::pair("kB", 1'000LL), std::pair("KB", 1'000LL), std::pair("MB", 1'000'000LL),
                                     std::pair("GB", 1'000'000'000LL), std::pair("B", 1LL)})
        if (number.ends_with(name)) {
            number.resize(number.size() - std::string_view(name).size());
            unit = size;
            break;
        }
    const auto n = parse_fraction(trimmed(number));
    if (!n || *n * Fraction(unit) < Fraction(1'000))
        throw WrongCall("\"" + text + "\" is no size of a file; 2MB and 1500kB are");
    return (*n * Fraction(unit)).floor();
}

}
