#include "core/steps/sort/scan.h"

#include "core/base/median.h"
#include "core/base/text.h"
#include "core/source/camera_thumbnail.h"
#include "core/source/decode.h"
#include "core/source/decoders.h"
#include "core/source/listing.h"
#include "core/source/sharpness.h"
#include "core/steps/sort/rhythm.h"

#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <atomic>
#include <cctype>
#include <map>
#include <set>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

/// Calls work(i) for each on all cores and tells how far it is, from and to being shares of the whole.
void for_each(std::size_t count, const Job& job, double from, double to, const char* what,
              const std::function<void(std::size_t)>& work)
{
    std::atomic<std::size_t> done = 0;
    tbb::parallel_for(std::size_t(0), count, [&](std::size_t i) {
        if (job.stopping())
            return;
        work(i);
        const std::size_t n = ++done;
        if (n % 16 == 0 || n == count)
            job.report(from + (to - from) * double(n) / double(count),
                       what + std::to_string(n) + " of " + counted(std::int64_t(count), "photo", "photos"));
    });
    job.check();
}

PhotoSignature look_at_one(const PhotoFile& photo, bool thumbnail_will_do)
{
    if (thumbnail_will_do)
        if (const cv::Mat thumbnail = camera_thumbnail(photo); !thumbnail.empty())
            return signature_of(thumbnail);
    const auto decoded = decode(photo, {64, 64});
    return decoded ? signature_of(decoded->pixels) : PhotoSignature();
}

/// Sides of at least this many pixels tell sharp from blurred.
constexpr int sharp_side = 360;

double sharpness_at(const PhotoFile& photo)
{
    const auto decoded = decode(photo, {sharp_side, sharp_side});
    if (!decoded || decoded->pixels.rows < 16 || decoded->pixels.cols < 16)
        return 0;
    if (decoded->pixels.cols * 2 <= std::max(photo.size.width, photo.size.height))
        return sharpness_of(decoded->pixels);
    cv::Mat half; // as photographed: its finest details are noise
    cv::pyrDown(decoded->pixels, half);
    return sharpness_of(half);
}

/// Appends what these files are.
void inspect_all(std::span<const fs::path> files, std::vector<Inspected>& all, const Job& job, double from, double to)
{
    const std::size_t before = all.size();
    all.resize(before + files.size());
    for_each(files.size(), job, from, to, "looked at ", [&](std::size_t i) { all[before + i] = inspect(files[i]); });
}

/// Findings of each shot; photos aside count with the shot that they lie nearest to.
void find_problems(ScanResult& result, const std::vector<Candidate>& candidates, const ScanOptions& options,
                   const Job& job)
{
    const std::set<std::size_t> left_out(result.left_out.begin(), result.left_out.end());
    for (std::size_t s = 0; s < result.shots.size(); ++s) {
        job.check();
        const std::size_t from = s == 0 ? 0 : result.shots[s].begin;
        const std::size_t to = s + 1 < result.shots.size() ? result.shots[s + 1].begin : result.photos.size();
        std::vector<PhotoPtr> in_shot, beside;
        std::vector<Candidate> looked;
        for (std::size_t i = from; i < to; ++i) {
            const bool in = i >= result.shots[s].begin && i < result.shots[s].end &&
                            result.photos[i].state == PhotoState::fine && !left_out.contains(i);
            if (candidates[i].copy) // told of the whole card
                continue;
            (in ? in_shot : beside).push_back(result.photos[i].photo);
            if (in)
                looked.push_back(candidates[i]);
        }
        auto more = findings_in_shot(in_shot, beside);
        std::move(more.begin(), more.end(), std::back_inserter(result.findings));
        auto suggested = outliers(looked);
        if (options.looking == Looking::at_photos)
            add_suggestions(suggested, blurred(in_shot, job));
        std::move(suggested.begin(), suggested.end(), std::back_inserter(result.findings));
    }
}

void gather_aside(ScanResult& result)
{
    const std::set<std::size_t> left_out(result.left_out.begin(), result.left_out.end());
    std::size_t s = 0;
    for (std::size_t i = 0; i < result.photos.size(); ++i) {
        while (s < result.shots.size() && i >= result.shots[s].end)
            ++s;
        const bool in_shot = s < result.shots.size() && i >= result.shots[s].begin;
        if (!in_shot || result.photos[i].state != PhotoState::fine || left_out.contains(i))
            result.aside.push_back(i);
    }
}

}

std::vector<PhotoSignature> look_at(std::span<const PhotoPtr> photos, const Job& job)
{
    std::vector<PhotoSignature> signatures(photos.size());
    for_each(photos.size(), job, 0, 1, "looked at ", [&](std::size_t i) {
        if (!photos[i]->size.empty())
            signatures[i] = look_at_one(*photos[i], true);
    });
    return signatures;
}

void add_suggestions(std::vector<Finding>& suggested, std::vector<Finding> more)
{
    std::set<fs::path> told;
    for (const Finding& f : suggested)
        told.insert(f.files.front());
    std::copy_if(more.begin(), more.end(), std::back_inserter(suggested),
                 [&](const Finding& f) { return !told.contains(f.files.front()); });
}

std::vector<Finding> blurred(std::span<const PhotoPtr> photos, std::span<const double> sharpness)
{
    constexpr double clearly_softer = 0.6;
    std::vector<Finding> found;
    for (std::size_t i = 0; i < photos.size(); ++i) {
        std::vector<double> around;
        for (std::size_t j = i > 3 ? i - 3 : 0; j < std::min(photos.size(), i + 4); ++j)
            if (j != i && sharpness[j] > 0 && photos[j]->size == photos[i]->size)
                around.push_back(sharpness[j]);
        if (sharpness[i] <= 0 || around.size() < 3)
            continue;
        const double least = *std::min_element(around.begin(), around.end());
        const double usual = upper_median(std::move(around));
        if (sharpness[i] < clearly_softer * usual && sharpness[i] < 0.8 * least)
            found.push_back({FindingKind::blurred,
                             {photos[i]->file},
                             shown_path(photos[i]->file.filename()) + " looks less sharp than its neighbours.",
                             {Remedy::set_aside, Remedy::hold_before}});
    }
    return found;
}

std::vector<Finding> blurred(std::span<const PhotoPtr> photos, const Job& job)
{
    std::vector<double> sharpness(photos.size(), 0);
    for_each(photos.size(), job, 0.6, 1, "compared the sharpness of ",
             [&](std::size_t i) { sharpness[i] = sharpness_at(*photos[i]); });
    return blurred(photos, sharpness);
}

namespace {

/// Not what belongs to a photo (XMP, ISO 16684-1; thumbnails of films, CIPA DC-009), to a desktop or to Frenlo.
bool is_worth_a_word(const fs::path& file)
{
    std::string ending = file.extension().native();
    std::transform(ending.begin(), ending.end(), ending.begin(), [](unsigned char c) { return char(std::tolower(c)); });
    static constexpr std::array quiet{".xmp", ".thm", ".frenlo", ".ini", ".db", ".lnk"};
    return std::find(quiet.begin(), quiet.end(), ending) == quiet.end();
}

/// The photos among what was inspected, in order, with what is wrong with them.
ScanResult in_order(const std::vector<Inspected>& all, PhotoOrder order)
{
    ScanResult result;
    std::map<const PhotoFile*, const Inspected*> by_photo;
    std::vector<PhotoPtr> photos;
    std::vector<fs::path> others;
    for (const auto& one : all) {
        if (one.ignored) {
            if (is_worth_a_word(one.photo->file))
                others.push_back(one.photo->file);
            continue;
        }
        if (one.finding && named_as_clip(one.photo->file)) { // a clip that cannot be read is no photo out of its place
            result.findings.push_back(*one.finding);
            continue;
        }
        if (one.times) {
            result.clips.push_back({one.photo, one.times});
            continue;
        }
        by_photo[one.photo.get()] = &one;
        photos.push_back(one.photo);
        if (one.finding)
            result.findings.push_back(*one.finding);
    }
    if (!others.empty())
        result.findings.push_back(
            {FindingKind::not_a_photo,
             others,
             some_names(others) + (others.size() == 1 ? " is no photo; it stays where it is."
                                                      : " are no photos; they stay where they are."),
             {}});
    sort_photos(photos, order);
    if (order == PhotoOrder::by_name) {
        separate_cameras(photos);
        for (const std::size_t i : clock_set_back(photos))
            result.findings.push_back(
                {FindingKind::order_disagrees,
                 {photos[i - 1]->file, photos[i]->file},
                 "The camera's clock was set back before " + shown_path(photos[i]->file.filename()) + ", by " +
                     shown_pause(double(photos[i - 1]->captured->microseconds - photos[i]->captured->microseconds) /
                                 1e6) +
                     " or more; the numbers are believed.",
                 {Remedy::order_by_time, Remedy::order_by_name}});
    }
    for (auto& p : photos)
        result.photos.push_back({p, by_photo.at(p.get())->state, by_photo.at(p.get())->sidecar});
    return result;
}

/// Copies anywhere on the card are told, and belong to no film.
std::vector<Candidate> candidates_of(ScanResult& result)
{
    std::vector<PhotoPtr> fine;
    for (const auto& p : result.photos)
        if (p.state == PhotoState::fine)
            fine.push_back(p.photo);
    std::set<fs::path> copies;
    for (auto files : copies_among(fine)) {
        std::erase_if(files, [original = files.front()](const fs::path& f) {
            return f != original && !copied_from(original, f);
        });
        if (files.size() < 2)
            continue;
        copies.insert(files.begin() + 1, files.end());
        result.findings.push_back(
            {FindingKind::copy, files, some_names(files) + " are the same photo, byte for byte.", {Remedy::set_aside}});
    }
    std::vector<Candidate> candidates;
    for (const auto& p : result.photos)
        candidates.push_back({p.photo, p.state == PhotoState::fine, {}, copies.contains(p.photo->file)});
    return candidates;
}

void group(ScanResult& result, const std::vector<Candidate>& candidates, const ScanOptions& options)
{
    ShotSearchOptions shot_wishes{options.pause};
    if (options.one_shot)
        shot_wishes.overrides.assign(result.photos.size(), GroupingOverride::stays);
    FoundShots found = find_shots(candidates, shot_wishes);
    result.shots = std::move(found.shots);
    result.pause = found.pause;
    result.marker_cards = options.one_shot ? std::vector<std::size_t>() : std::move(found.marker_cards);
    result.left_out = std::move(found.left_out);
    result.unsure = std::move(found.unsure);
    std::move(found.findings.begin(), found.findings.end(), std::back_inserter(result.findings));
    gather_aside(result);
}

/// Each usable candidate gets its look. Looked at closely, photos that cannot be decoded whole are found.
void look_at_all(ScanResult& result, std::vector<Candidate>& candidates, const ScanOptions& options, const Job& job)
{
    const bool closely = options.looking == Looking::at_photos;
    std::vector<std::string> why(candidates.size());
    for_each(candidates.size(), job, 0.5, 1, "looked at ", [&](std::size_t i) {
        Candidate& c = candidates[i];
        if (!c.usable)
            return;
        if (!closely) {
            c.look = look_at_one(*c.photo, true);
            return;
        }
        auto decoded = decode(*c.photo, {64, 64});
        if (!decoded)
            why[i] = ": " + decoded.error().what + '.';
        else if (!decoded->flaw.empty())
            why[i] = ": " + decoded->flaw + '.';
        else
            c.look = signature_of(decoded->pixels);
    });
    for (std::size_t i = 0; i < candidates.size(); ++i)
        if (!why[i].empty()) {
            candidates[i].usable = false;
            result.photos[i].state = PhotoState::unreadable;
            result.findings.push_back(unreadable_finding(*candidates[i].photo, why[i]));
        }
}

}

ScanResult scan(std::span<const fs::path> places, const ScanOptions& options, const Job& job,
                const ScanArrival& arrived)
{
    constexpr std::size_t first_few = 300, many = 1000;
    const Listing listing = files_in(places);
    const std::vector<fs::path>& files = listing.files;
    const double headers = options.looking == Looking::at_headers ? 1 : 0.5; // share of the whole
    std::vector<Inspected> all;
    const std::size_t few = arrived && files.size() > many ? first_few : 0;
    inspect_all(std::span(files).first(few), all, job, 0,
                headers * double(few) / double(std::max<std::size_t>(1, files.size())));
    if (few > 0) {
        ScanResult first = in_order(all, options.order);
        const auto of_first = candidates_of(first);
        group(first, of_first, {.one_shot = true});
        arrived(std::move(first));
    }
    inspect_all(std::span(files).subspan(few), all, job,
                headers * double(few) / double(std::max<std::size_t>(1, files.size())), headers);

    ScanResult result = in_order(all, options.order);
    std::vector<Candidate> candidates = candidates_of(result);
    if (few > 0 && options.looking != Looking::at_headers) {
        ScanResult unseen = result;
        group(unseen, candidates, options);
        arrived(std::move(unseen));
    }
    for (const Problem& p : listing.problems)
        result.findings.push_back({FindingKind::folder_unreadable, {p.file}, p.text(), {}});
    if (options.looking != Looking::at_headers)
        look_at_all(result, candidates, options, job);
    group(result, candidates, options);
    find_problems(result, candidates, options, job);
    return result;
}

}
