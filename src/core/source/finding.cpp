#include "core/source/finding.h"

#include "core/base/input_file.h"
#include "core/base/problem.h"
#include "core/base/text.h"
#include "core/source/names.h"
#include "core/source/order.h"
#include "core/source/preview_store.h"

#include <algorithm>
#include <map>
#include <set>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

std::uint64_t size_key(cv::Size s)
{
    return (std::uint64_t(s.width) << 32) | std::uint32_t(s.height);
}

std::string size_text(cv::Size s)
{
    return std::to_string(s.width) + " × " + std::to_string(s.height);
}

std::string name_of(const fs::path& file)
{
    return shown_path(file.filename());
}

std::string is_or_are(std::size_t n)
{
    return n == 1 ? " is " : " are ";
}

void find_sizes(std::span<const PhotoPtr> photos, std::vector<Finding>& findings)
{
    std::map<std::uint64_t, std::vector<const PhotoFile*>> by_size;
    for (const auto& p : photos)
        by_size[size_key(p->size)].push_back(p.get());
    const auto usual = std::max_element(by_size.begin(), by_size.end(),
                                        [](const auto& a, const auto& b) { return a.second.size() < b.second.size(); });
    for (auto it = by_size.begin(); it != by_size.end(); ++it) {
        if (it == usual)
            continue;
        std::vector<fs::path> files;
        for (const auto* p : it->second)
            files.push_back(p->file);
        const cv::Size size = it->second.front()->size;
        const cv::Size most = usual->second.front()->size;
        const bool turned = size.width == most.height && size.height == most.width;
        Finding f{turned ? FindingKind::turned : FindingKind::size_differs, files,
                  some_names(files) + is_or_are(files.size()) + size_text(size) + (turned ? ", on its side" : "") +
                      "; the others are " + size_text(most) + "."};
        if (turned)
            f.remedies = {Remedy::turn_right, Remedy::turn_left};
        f.remedies.insert(f.remedies.end(), {Remedy::fill, Remedy::set_aside});
        findings.push_back(std::move(f));
    }
}

/// A photo of a numbered run.
struct Numbered
{
    std::int64_t number;
    fs::path file;
};

std::string missing_text(std::int64_t first, std::int64_t last)
{
    return first == last ? "Number " + std::to_string(first) + " is missing"
                         : "Numbers " + std::to_string(first) + " to " + std::to_string(last) + " are missing";
}

void find_gaps(const std::vector<Numbered>& run, std::vector<Finding>& findings)
{
    for (std::size_t i = 1; i < run.size(); ++i) {
        const auto& [before, file_before] = run[i - 1];
        const auto& [number, file] = run[i];
        if (number > before + 1) // a counter that starts again says nothing about what is missing at its turn
            findings.push_back({FindingKind::number_missing,
                                {file_before, file},
                                missing_text(before + 1, number - 1) + ", after " + name_of(file_before) + ".",
                                {Remedy::hold_before}});
    }
}

void find_repeated(const std::vector<Numbered>& run, std::vector<Finding>& findings)
{
    std::map<std::int64_t, std::vector<fs::path>> by_number;
    for (const auto& n : run)
        by_number[n.number].push_back(n.file);
    for (const auto& [number, files] : by_number)
        if (files.size() > 1)
            findings.push_back({FindingKind::number_repeated,
                                files,
                                "Number " + std::to_string(number) + " is there " + std::to_string(files.size()) +
                                    " times: " + name_of(files[0]) + " and " + name_of(files[1]) + ".",
                                {Remedy::set_aside}});
}

void find_numbers(std::span<const PhotoPtr> photos, std::span<const PhotoPtr> aside, std::vector<Finding>& findings)
{
    // A run is a name but for its number; within it each number should be there once.
    std::vector<PhotoPtr> all(photos.begin(), photos.end());
    all.insert(all.end(), aside.begin(), aside.end());
    sort_photos(all, PhotoOrder::by_name);
    std::set<fs::path> in_film;
    for (const auto& p : photos)
        in_film.insert(p->file);
    std::map<std::string, std::vector<Numbered>> present, shown;
    for (const auto& p : all)
        if (const auto n = counted(p->file)) {
            present[n->before].push_back({n->number, p->file});
            if (in_film.contains(p->file))
                shown[n->before].push_back({n->number, p->file});
        }
    for (const auto& [before, run] : present)
        find_gaps(run, findings);
    for (const auto& [before, run] : shown)
        find_repeated(run, findings);
}

/// Told as a number that is there twice.
bool same_number(const fs::path& a, const fs::path& b)
{
    const auto x = counted(a), y = counted(b);
    return x && y && x->before == y->before && x->number == y->number;
}

/// "HARB4811-edited 2.jpg" beside "HARB4811.jpg": the same photo, once more.
void find_edited(std::span<const PhotoPtr> photos, std::vector<Finding>& findings)
{
    std::map<std::string, fs::path> by_stem;
    for (const auto& p : photos)
        by_stem.emplace(p->file.stem().native(), p->file);
    for (const auto& p : photos) {
        const std::string stem = p->file.stem().native();
        for (std::size_t end = stem.size() - std::min<std::size_t>(stem.size(), 1); end >= 3; --end) {
            const bool boundary = std::isalnum(static_cast<unsigned char>(stem[end])) == 0 &&
                                  std::isdigit(static_cast<unsigned char>(stem[end - 1])) != 0;
            const auto original = boundary ? by_stem.find(stem.substr(0, end)) : by_stem.end();
            if (original == by_stem.end() || same_number(p->file, original->second))
                continue;
            findings.push_back({FindingKind::number_repeated,
                                {p->file, original->second},
                                name_of(p->file) + " looks like another version of " + name_of(original->second) +
                                    "; both are in the film.",
                                {Remedy::set_aside}});
            break;
        }
    }
}

void find_restarts(std::span<const PhotoPtr> by_name, std::vector<Finding>& findings)
{
    for (const std::size_t i : counter_restarts(by_name))
        findings.push_back({FindingKind::order_disagrees,
                            {by_name[i]->file, by_name[i - 1]->file},
                            "The camera's counter starts again after " + name_of(by_name[i - 1]->file) + ": " +
                                name_of(by_name[i]->file) + " goes on there.",
                            {Remedy::order_by_time}});
}

/// Told with what would change the order that the photos are in now.
void find_disorder(std::span<const PhotoPtr> photos, std::span<const PhotoPtr> by_name, std::vector<Finding>& findings)
{
    const auto out = out_of_line(by_name);
    if (out.empty())
        return;
    std::vector<fs::path> files;
    files.reserve(out.size());
    for (const std::size_t i : out)
        files.push_back(by_name[i]->file);
    std::vector<PhotoPtr> by_time(photos.begin(), photos.end());
    sort_photos(by_time, PhotoOrder::by_time);
    const bool goes_by_time = std::ranges::equal(photos, by_time), goes_by_name = std::ranges::equal(photos, by_name);
    std::vector<Remedy> others;
    if (!goes_by_time)
        others.push_back(Remedy::order_by_time);
    if (!goes_by_name)
        others.push_back(Remedy::order_by_name);
    findings.push_back({FindingKind::order_disagrees, files,
                        "Names and capture times disagree: " + some_names(files) +
                            (files.size() == 1 ? " was" : " were") + " not taken where the name says." +
                            (goes_by_time   ? " The film goes by the times."
                             : goes_by_name ? " The film goes by the names."
                                            : ""),
                        others});
}

/// Accidents of the order that the photos are in now: everything backwards, and the last photo first. Whether there is
/// one.
bool find_accidents(std::span<const PhotoPtr> photos, std::vector<Finding>& findings)
{
    std::vector<PhotoPtr> timed;
    std::copy_if(photos.begin(), photos.end(), std::back_inserter(timed),
                 [](const PhotoPtr& p) { return p->captured; });
    if (timed.size() < 3 || !timed.front()->captured || *timed.front()->captured <= *timed.back()->captured)
        return false;
    const auto out = out_of_line(timed);
    if (out.size() + 1 == timed.size()) {
        findings.push_back(
            {FindingKind::order_disagrees,
             {photos.front()->file, photos.back()->file},
             "The photos run backwards: " + name_of(photos.front()->file) + " comes first and was taken last.",
             {Remedy::reverse, Remedy::order_by_time}});
    } else if (out.size() == 1 && timed[out.front()] == timed.front() && timed.front() == photos.front()) {
        findings.push_back({FindingKind::order_disagrees,
                            {photos.front()->file},
                            name_of(photos.front()->file) + " comes first and was taken last.",
                            {Remedy::first_to_end, Remedy::order_by_time}});
    } else {
        return false;
    }
    return true;
}

/// Missing photos are one finding: they mostly go together, with their folder.
void find_gone(std::span<const PhotoPtr> photos, std::vector<Finding>& findings)
{
    std::vector<fs::path> files;
    for (const auto& p : photos)
        if (is_on_disk(*p) && (files.empty() || files.back() != p->file) && !stamp_of(p->file))
            files.push_back(p->file);
    if (!files.empty())
        findings.push_back({FindingKind::gone,
                            files,
                            some_names(files) + is_or_are(files.size()) + "no longer in " +
                                shown_path(files.front().parent_path()) + ".",
                            {Remedy::find_again, Remedy::set_aside}});
}

}

/// Files of the same fingerprint are compared whole.
std::vector<std::vector<fs::path>> copies_among(std::span<const PhotoPtr> photos)
{
    std::map<std::string, std::vector<const PhotoFile*>> alike;
    for (const auto& p : photos)
        alike[p->fingerprint].push_back(p.get());
    std::vector<std::vector<fs::path>> copies;
    for (const auto& [fingerprint, same] : alike) {
        if (same.size() < 2 || fingerprint.empty())
            continue;
        std::map<std::string, std::vector<fs::path>> by_content;
        for (const auto* p : same) {
            try {
                by_content[short_key(read_whole_file(p->file))].push_back(p->file);
            } catch (const Failure&) { // gone meanwhile: said as such, and no copy of anything
                continue;
            }
        }
        for (auto& [key, files] : by_content)
            if (files.size() > 1) {
                // The plain name is the photo's own: "HARB0012.JPG" before "HARB0012 - copy.JPG" and "HARB0012(1).JPG".
                std::stable_sort(files.begin(), files.end(), [](const fs::path& x, const fs::path& y) {
                    const auto own = [](const fs::path& f) { return std::pair(f.stem().native().size(), f); };
                    return own(x) < own(y);
                });
                copies.push_back(std::move(files));
            }
    }
    return copies;
}

bool copied_from(const fs::path& original, const fs::path& copy)
{
    const auto place = [](const fs::path& f) {
        return is_card_folder(f.parent_path()) ? f.parent_path().parent_path() / "*" : f.parent_path();
    };
    const auto x = counted(original), y = counted(copy);
    const bool same_run = x && y && x->before == y->before && x->after == y->after && x->number != y->number;
    return place(original) == place(copy) && !same_run;
}

namespace {

/// Of those in the film, and of those that were set aside as copies of one in it.
void find_copies(std::span<const PhotoPtr> photos, std::span<const PhotoPtr> aside, std::vector<Finding>& findings)
{
    std::vector<PhotoPtr> all(photos.begin(), photos.end());
    all.insert(all.end(), aside.begin(), aside.end());
    std::set<fs::path> in_film;
    for (const auto& p : photos)
        in_film.insert(p->file);
    for (const auto& files : copies_among(all)) {
        const auto shown =
            std::count_if(files.begin(), files.end(), [&](const fs::path& f) { return in_film.contains(f); });
        if (shown == 0)
            continue;
        const std::string same = some_names(files) + " are the same photo, byte for byte";
        if (shown > 1)
            findings.push_back({FindingKind::copy, files, same + ".", {Remedy::set_aside}});
        else
            findings.push_back({FindingKind::copy, files, same + "; one is in the film.", {}});
    }
}

}

std::string some_names(std::span<const fs::path> files)
{
    std::string s = name_of(files.front());
    if (files.size() > 1)
        s += " and " + std::to_string(files.size() - 1) + " more";
    return s;
}

std::string_view kind_name(FindingKind kind)
{
    return word_of(kind);
}

std::vector<Remedy> usual_remedies(FindingKind kind)
{
    switch (kind) {
    case FindingKind::turned:
        return {Remedy::turn_right, Remedy::turn_left, Remedy::set_aside};
    case FindingKind::unlike:
        return {Remedy::set_aside, Remedy::hold_before};
    default:
        return {};
    }
}

namespace {

/// Pictures of a clip have no name, number or copy of their own.
std::vector<PhotoPtr> by_themselves(std::span<const PhotoPtr> photos)
{
    std::vector<PhotoPtr> own;
    std::copy_if(photos.begin(), photos.end(), std::back_inserter(own),
                 [](const PhotoPtr& p) { return is_on_disk(*p) && !is_one_of_several(*p); });
    return own;
}

}

std::vector<Finding> findings_in_shot(std::span<const PhotoPtr> all_photos, std::span<const PhotoPtr> all_aside)
{
    std::vector<Finding> findings;
    find_gone(all_photos, findings);
    const std::vector<PhotoPtr> photos = by_themselves(all_photos), aside = by_themselves(all_aside);
    if (photos.empty())
        return findings;
    std::vector<PhotoPtr> by_name(photos.begin(), photos.end());
    sort_photos(by_name, PhotoOrder::by_name);
    find_sizes(photos, findings);
    find_numbers(photos, aside, findings);
    find_edited(photos, findings);
    find_restarts(by_name, findings);
    if (!find_accidents(photos, findings))
        find_disorder(photos, by_name, findings);
    find_copies(photos, aside, findings);
    return findings;
}

}
