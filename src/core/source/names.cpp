#include "core/source/names.h"

#include <algorithm>
#include <charconv>

namespace frenlo {

namespace {

bool digit(char c)
{
    return c >= '0' && c <= '9';
}

char lower(char c)
{
    return c >= 'A' && c <= 'Z' ? static_cast<char>(c - 'A' + 'a') : c;
}

/// Takes the run of digits at the front, without leading zeros.
std::string_view take_number(std::string_view& s)
{
    std::size_t n = 0;
    while (n < s.size() && digit(s[n]))
        ++n;
    std::string_view number = s.substr(0, n);
    s.remove_prefix(n);
    while (number.size() > 1 && number.front() == '0')
        number.remove_prefix(1);
    return number;
}

int natural_compare(std::string_view a, std::string_view b)
{
    while (!a.empty() && !b.empty()) {
        if (digit(a.front()) && digit(b.front())) {
            const auto x = take_number(a);
            const auto y = take_number(b);
            if (x.size() != y.size())
                return x.size() < y.size() ? -1 : 1;
            if (const int c = x.compare(y); c != 0)
                return c;
            continue;
        }
        const auto x = static_cast<unsigned char>(lower(a.front()));
        const auto y = static_cast<unsigned char>(lower(b.front()));
        if (x != y)
            return x < y ? -1 : 1;
        a.remove_prefix(1);
        b.remove_prefix(1);
    }
    return static_cast<int>(!a.empty()) - static_cast<int>(!b.empty());
}

/// Without its digits.
std::string skeleton(std::string_view text)
{
    std::string s;
    for (const char c : text)
        if (!digit(c))
            s += c;
    return s;
}

}

bool natural_less(std::string_view a, std::string_view b)
{
    const int c = natural_compare(a, b);
    return c != 0 ? c < 0 : a < b;
}

bool natural_path_less(const std::filesystem::path& a, const std::filesystem::path& b)
{
    const auto folder_a = a.parent_path();
    const auto folder_b = b.parent_path();
    if (folder_a != folder_b)
        return natural_less(folder_a.native(), folder_b.native());
    return natural_less(a.filename().native(), b.filename().native());
}

std::optional<NumberedName> numbered(const std::filesystem::path& file)
{
    const std::string stem = file.stem().native();
    const auto last = std::find_if(stem.rbegin(), stem.rend(), digit).base();
    const auto first = std::find_if_not(std::make_reverse_iterator(last), stem.rend(), digit).base();
    const auto digits = last - first;
    if (digits == 0 || digits > 15)
        return std::nullopt;
    NumberedName name;
    name.before.assign(stem.begin(), first);
    name.digits = static_cast<int>(digits);
    std::from_chars(&*first, &*first + digits, name.number);
    name.after = std::string(last, stem.end()) + file.extension().native();
    return name;
}

bool names_a_time(const std::filesystem::path& file)
{
    // Eight digits that can be a date of a camera's, and six that can be a time, with or without a mark between.
    const std::string stem = file.stem().native();
    const auto value = [&](std::size_t at, std::size_t digits) {
        int v = 0;
        for (std::size_t i = at; i < at + digits; ++i)
            v = 10 * v + (stem[i] - '0');
        return v;
    };
    const auto all_digits = [&](std::size_t at, std::size_t digits) {
        return at + digits <= stem.size() &&
               std::all_of(stem.begin() + std::ptrdiff_t(at), stem.begin() + std::ptrdiff_t(at + digits), digit);
    };
    for (std::size_t i = 0; i + 14 <= stem.size(); ++i) {
        if ((i > 0 && digit(stem[i - 1])) || !all_digits(i, 8))
            continue;
        const std::size_t time = i + 8 + (digit(stem[i + 8]) ? 0 : 1);
        const bool date = value(i, 4) >= 1980 && value(i, 4) < 2200 && value(i + 4, 2) >= 1 && value(i + 4, 2) <= 12 &&
                          value(i + 6, 2) >= 1 && value(i + 6, 2) <= 31;
        if (date && all_digits(time, 6) && value(time, 2) < 24 && value(time + 2, 2) < 60 && value(time + 4, 2) <= 60)
            return true;
    }
    return false;
}

std::optional<NumberedName> counted(const std::filesystem::path& file)
{
    return names_a_time(file) ? std::nullopt : numbered(file);
}

bool is_card_folder(const std::filesystem::path& folder)
{
    const std::string name = folder.filename().native();
    return name.size() == 8 && name[0] >= '1' && std::all_of(name.begin(), name.begin() + 3, digit) &&
           std::all_of(name.begin() + 3, name.end(),
                       [](char c) { return digit(c) || (lower(c) >= 'a' && lower(c) <= 'z') || c == '_'; });
}

bool another_run(const std::filesystem::path& a, const std::filesystem::path& b)
{
    const auto x = counted(a), y = counted(b);
    if (!x || !y)
        return false;
    if (skeleton(x->before) != skeleton(y->before))
        return true;
    return x->before != y->before && y->number < x->number;
}

}
