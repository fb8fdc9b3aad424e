#include "core/steps/shoot/photo_folder.h"

#include "core/base/atomic_file.h"
#include "core/base/problem.h"
#include "core/base/text.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cstdio>

namespace frenlo {

namespace fs = std::filesystem;

PhotoFolder::PhotoFolder(const fs::path& folder, std::string stem)
    : folder_(fs::absolute(folder)), stem_(std::move(stem))
{
    const AtomicFile trial(folder_ / (stem_ + "_0000.trial")); // makes the folder; says now what would be said later
    std::error_code ec;
    for (const auto& entry : fs::directory_iterator(folder_, ec)) {
        const std::string name = entry.path().filename().string();
        if (!name.starts_with(stem_ + '_'))
            continue;
        std::int64_t number = 0;
        const char* first = name.data() + stem_.size() + 1;
        const auto [end, error] = std::from_chars(first, name.data() + name.size(), number);
        if (error == std::errc() && end != first)
            next_ = std::max(next_, number + 1);
    }
}

fs::path PhotoFolder::name_of(std::int64_t number, const std::string& tail, const std::string& ending) const
{
    char digits[24];
    std::snprintf(digits, sizeof digits, "_%04lld", static_cast<long long>(number));
    return folder_ / (stem_ + digits + tail + ending);
}

fs::path PhotoFolder::store(std::string_view bytes, const std::string& ending, const std::string& tail)
{
    if (again_) {
        again_ = false;
        fs::path file = name_of(next_ - 1, tail, ending);
        write_new_file(file, bytes);
        return file;
    }
    std::error_code ec;
    for (;; ++next_) {
        fs::path file = name_of(next_, tail, ending);
        if (fs::exists(file, ec))
            continue;
        try {
            write_new_file(file, bytes);
        } catch (const Failure&) {
            if (fs::exists(file, ec)) // somebody was quicker
                continue;
            throw;
        }
        ++next_;
        return file;
    }
}

void PhotoFolder::same_number_again()
{
    again_ = next_ > 1;
}

std::uintmax_t PhotoFolder::free_bytes() const
{
    std::error_code ec;
    const auto space = fs::space(folder_, ec);
    return ec ? 0 : space.available;
}

std::vector<fs::path> photos_taken(const fs::path& folder, const std::string& stem)
{
    std::vector<fs::path> photos;
    std::error_code ec;
    for (const auto& entry : fs::directory_iterator(folder, ec)) {
        const std::string name = entry.path().filename().string();
        if (name.starts_with(stem + '_') && !name.ends_with(".unfinished") && entry.is_regular_file(ec))
            photos.push_back(fs::absolute(entry.path()));
    }
    std::sort(photos.begin(), photos.end());
    return photos;
}

std::string stem_of(std::string_view name)
{
    std::string stem;
    for (const char c : name) {
        const auto u = static_cast<unsigned char>(c);
        if (u >= 0x80 || std::isalnum(u) != 0)
            stem += u < 0x80 ? char(std::tolower(u)) : c;
        else if (!stem.empty() && stem.back() != '-')
            stem += '-';
    }
    while (!stem.empty() && stem.back() == '-')
        stem.pop_back();
    constexpr std::size_t most = 80;
    if (stem.empty() || stem.size() > most || !is_utf8(stem))
        return "photo";
    return stem;
}

void SpaceWatch::wrote(double at, std::uintmax_t bytes)
{
    constexpr std::size_t most = 30;
    lately_.push_back({at, bytes});
    if (lately_.size() > most)
        lately_.pop_front();
}

std::optional<double> SpaceWatch::seconds_left(std::uintmax_t free) const
{
    constexpr std::size_t enough = 3;
    if (lately_.size() < enough || lately_.back().at <= lately_.front().at)
        return std::nullopt;
    double used = 0; // those after the first were written in the time since it
    for (std::size_t i = 1; i < lately_.size(); ++i)
        used += double(lately_[i].bytes);
    if (used <= 0)
        return std::nullopt;
    return double(free) / (used / (lately_.back().at - lately_.front().at));
}

std::optional<std::int64_t> SpaceWatch::photos_left(std::uintmax_t free) const
{
    if (lately_.empty())
        return std::nullopt;
    double used = 0;
    for (const Written& w : lately_)
        used += double(w.bytes);
    return std::int64_t(double(free) / std::max(1.0, used / double(lately_.size())));
}

}
