#include "core/photo/scan.h"

#include "core/base/text.h"
#include "core/photo/camera_thumbnail.h"
#include "core/photo/decode.h"
#include "core/photo/listing.h"

#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
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

Look look_at_one(const PhotoFile& photo, bool thumbnail_will_do)
{
    if (thumbnail_will_do)
        if (const cv::Mat thumbnail = camera_thumbnail(photo); !thumbnail.empty())
            return look_of(thumbnail);
    const auto decoded = decode(photo, {64, 64});
    return decoded ? look_of(decoded->pixels) : Look();
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
void find_problems(ScanResult& result, const std::vector<Candidate>& candidates, const ScanWishes& wishes, const Job& job)
{
    for (std::size_t s = 0; s < result.shots.size(); ++s) {
        job.check();
        const std::size_t from = s == 0 ? 0 : result.shots[s].begin;
        const std::size_t to = s + 1 < result.shots.size() ? result.shots[s + 1].begin : result.photos.size();
        std::vector<PhotoPtr> in_shot, beside;
        std::vector<Candidate> looked;
        for (std::size_t i = from; i < to; ++i) {
            const bool in = i >= result.shots[s].begin && i < result.shots[s].end && result.photos[i].state == PhotoState::fine;
            (in ? in_shot : beside).push_back(result.photos[i].photo);
            if (in)
                looked.push_back(candidates[i]);
        }
        auto more = findings_in_shot(in_shot, beside);
        std::move(more.begin(), more.end(), std::back_inserter(result.findings));
        auto suggested = suspects(looked);
        std::move(suggested.begin(), suggested.end(), std::back_inserter(result.findings));
        if (wishes.looking == Looking::at_photos) {
            auto soft = blurred(in_shot, job);
            std::move(soft.begin(), soft.end(), std::back_inserter(result.findings));
        }
    }
}

void gather_aside(ScanResult& result)
{
    std::size_t s = 0;
    for (std::size_t i = 0; i < result.photos.size(); ++i) {
        while (s < result.shots.size() && i >= result.shots[s].end)
            ++s;
        const bool in_shot = s < result.shots.size() && i >= result.shots[s].begin;
        if (!in_shot || result.photos[i].state != PhotoState::fine)
            result.aside.push_back(i);
    }
}

}

std::vector<Look> look_at(std::span<const PhotoPtr> photos, const Job& job)
{
    std::vector<Look> looks(photos.size());
    for_each(photos.size(), job, 0, 1, "looked at ", [&](std::size_t i) {
        if (!photos[i]->size.empty())
            looks[i] = look_at_one(*photos[i], true);
    });
    return looks;
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
        std::nth_element(around.begin(), around.begin() + std::ptrdiff_t(around.size() / 2), around.end());
        const double usual = around[around.size() / 2];
        if (sharpness[i] < clearly_softer * usual && sharpness[i] < 0.8 * least)
            found.push_back({FindingKind::blurred, {photos[i]->file},
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

/// The photos among what was inspected, in order, with what is wrong with them.
ScanResult in_order(const std::vector<Inspected>& all, PhotoOrder order)
{
    ScanResult result;
    std::map<const PhotoFile*, PhotoState> states;
    std::vector<PhotoPtr> photos;
    for (const auto& one : all) {
        if (one.ignored)
            continue;
        states[one.photo.get()] = one.state;
        photos.push_back(one.photo);
        if (one.finding)
            result.findings.push_back(*one.finding);
    }
    sort_photos(photos, order);
    for (auto& p : photos)
        result.photos.push_back({p, states.at(p.get())});
    return result;
}

std::vector<Candidate> candidates_of(const ScanResult& result)
{
    std::vector<Candidate> candidates;
    for (const auto& p : result.photos)
        candidates.push_back({p.photo, p.state == PhotoState::fine});
    return candidates;
}

void group(ScanResult& result, const std::vector<Candidate>& candidates, const ScanWishes& wishes)
{
    ShotWishes shot_wishes{wishes.pause};
    if (wishes.one_shot)
        shot_wishes.ties.assign(result.photos.size(), Tie::stays);
    FoundShots found = find_shots(candidates, shot_wishes);
    result.shots = std::move(found.shots);
    result.pause = found.pause;
    result.marker_cards = wishes.one_shot ? std::vector<std::size_t>() : std::move(found.marker_cards);
    gather_aside(result);
}

}

ScanResult scan(std::span<const fs::path> places, const ScanWishes& wishes, const Job& job, const ScanArrival& arrived)
{
    constexpr std::size_t first_few = 300, many = 1000;
    const std::vector<fs::path> files = files_in(places);
    const double headers = wishes.looking == Looking::at_headers ? 1 : 0.5; // share of the whole
    std::vector<Inspected> all;
    const std::size_t few = arrived && files.size() > many ? first_few : 0;
    inspect_all(std::span(files).first(few), all, job, 0, headers * double(few) / double(std::max<std::size_t>(1, files.size())));
    if (few > 0) {
        ScanResult first = in_order(all, wishes.order);
        group(first, candidates_of(first), {.one_shot = true});
        arrived(std::move(first));
    }
    inspect_all(std::span(files).subspan(few), all, job, headers * double(few) / double(std::max<std::size_t>(1, files.size())), headers);

    ScanResult result = in_order(all, wishes.order);
    std::vector<Candidate> candidates = candidates_of(result);
    if (few > 0 && wishes.looking != Looking::at_headers) {
        ScanResult unseen = result;
        group(unseen, candidates, wishes);
        arrived(std::move(unseen));
    }
    if (wishes.looking != Looking::at_headers)
        for_each(candidates.size(), job, 0.5, 1, "looked at ", [&](std::size_t i) {
            if (candidates[i].usable)
                candidates[i].look = look_at_one(*candidates[i].photo, wishes.looking == Looking::at_thumbnails);
        });
    group(result, candidates, wishes);
    find_problems(result, candidates, wishes, job);
    return result;
}

}
