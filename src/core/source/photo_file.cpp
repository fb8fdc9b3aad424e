#include "core/source/photo_file.h"

#include "core/base/text.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <chrono>
#include <cstdio>

namespace frenlo {

namespace {
constexpr std::int64_t second = 1'000'000;
std::string with_picture(std::string name, const PhotoFile& photo, const char* word)
{
    return is_one_of_several(photo) ? name + word + std::to_string(photo.picture + 1) : name;
}

}

std::string shown_name(const PhotoFile& photo)
{
    return with_picture(shown_path(is_on_disk(photo) ? photo.file.filename() : photo.file.stem()), photo, ", picture ");
}

std::string shown_stem(const PhotoFile& photo)
{
    return with_picture(shown_path(photo.file.stem()), photo, " ");
}

PhotoPtr same_picture(const PhotoFile& part, const PhotoPtr& file)
{
    if (!is_one_of_several(part) && !is_one_of_several(*file) && part.merged.empty())
        return file;
    auto same = std::make_shared<PhotoFile>(*file);
    same->merged = part.merged;
    for (auto& other : same->merged) // they go with it
        if (other.parent_path() == part.file.parent_path())
            other = file->file.parent_path() / other.filename();
    if (!is_one_of_several(part) && !is_one_of_several(*file))
        return same;
    same->picture = part.picture;
    same->stamp = part.stamp;
    same->averaged = part.averaged;
    if (is_one_of_several(part)) // it may be shorter now: what is beyond its end is told where it is looked for
        same->pictures = std::max(file->pictures, part.picture + 1);
    same->captured = part.captured;
    return same;
}

std::string CaptureTime::text() const
{
    namespace ch = std::chrono;
    const ch::sys_time<ch::microseconds> t{ch::microseconds(microseconds)};
    const auto day = ch::floor<ch::days>(t);
    const ch::year_month_day date(day);
    const ch::hh_mm_ss time(t - day);
    std::array<char, 64> text{};
    std::snprintf(text.data(), text.size(), "%04d-%02u-%02uT%02d:%02d:%02d", int(date.year()), unsigned(date.month()),
                  unsigned(date.day()), int(time.hours().count()), int(time.minutes().count()),
                  int(time.seconds().count()));
    std::string s = text.data();
    if (const auto sub = time.subseconds().count(); sub != 0) {
        std::snprintf(text.data(), text.size(), sub % 1000 == 0 ? ".%03d" : ".%06d",
                      int(sub % 1000 == 0 ? sub / 1000 : sub));
        s += text.data();
    }
    return s;
}

std::optional<CaptureTime> parse_capture_time(std::string_view text)
{
    const auto number = [&](std::size_t at, std::size_t digits) -> std::optional<int> {
        if (at + digits > text.size())
            return std::nullopt;
        int value = 0;
        const char* end = text.data() + at + digits;
        const auto [stop, error] = std::from_chars(text.data() + at, end, value);
        return error == std::errc() && stop == end && value >= 0 ? std::optional(value) : std::nullopt;
    };
    const auto year = number(0, 4), month = number(5, 2), day = number(8, 2);
    const auto hour = number(11, 2), minute = number(14, 2), sec = number(17, 2);
    if (!year || !month || !day || !hour || !minute || !sec || *hour > 23 || *minute > 59 || *sec > 60)
        return std::nullopt;
    const std::chrono::year_month_day date{std::chrono::year(*year), std::chrono::month(unsigned(*month)),
                                           std::chrono::day(unsigned(*day))};
    if (!date.ok())
        return std::nullopt;
    const auto days = std::chrono::sys_days(date).time_since_epoch().count();
    CaptureTime t{(((std::int64_t(days) * 24 + *hour) * 60 + *minute) * 60 + *sec) * second};
    constexpr std::int64_t longest_text =
        253'402'300'800 * second; // 10000-01-01T00:00:00, which text() has no room for
    if (t.microseconds >= longest_text)
        return std::nullopt;
    if (text.size() > 20 && text[19] == '.') {
        std::int64_t scale = second / 10;
        for (std::size_t i = 20; i < text.size() && scale > 0; ++i, scale /= 10) {
            if (text[i] < '0' || text[i] > '9')
                return std::nullopt;
            t.microseconds += (text[i] - '0') * scale;
        }
    }
    return t;
}

}
