#include "core/steps/pace/flow_edits.h"

#include "core/base/median.h"
#include "core/base/problem.h"
#include "core/project/with_shot.h"
#include "core/source/capture_gaps.h"
#include "core/steps/pace/pace_edits.h"

#include <algorithm>
#include <cmath>
#include <random>

namespace frenlo {

Project set_to_next(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos,
                    std::optional<Between> between)
{
    return with_shot(project, shot, [&](Shot& s) {
        for (const PhotoIndex p : photos)
            s.photos.edit(p.at()).to_next = between;
    });
}

Project fill_steps_to(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos)
{
    const auto held = held_photos(project.shot(shot));
    return with_shot(project, shot, [&](Shot& s) {
        if (s.pacing.between != Between::motion) {
            for (std::size_t i = 0; i < s.photos.size(); ++i)
                if (!s.photos[i].to_next)
                    s.photos.edit(i).to_next = s.pacing.between;
            s.pacing.between = Between::motion;
        }
        for (std::size_t i = 1; i < held.size(); ++i) {
            if (std::find(photos.begin(), photos.end(), held[i].photo) == photos.end())
                continue;
            ShotPhoto& before = s.photos.edit(held[i - 1].photo.at());
            before.to_next = Between::motion;
            if (before.hold == Hold(Frames{1}))
                before.hold = Frames{2};
        }
    });
}

Project set_part_backwards(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, bool backwards)
{
    return with_shot(project, shot, [&](Shot& s) {
        for (const PhotoIndex p : photos)
            s.photos.edit(p.at()).backwards = backwards;
    });
}

Project set_shutter(const Project& project, ShotIndex shot, double degrees)
{
    return with_shot(project, shot, [&](Shot& s) {
        s.pacing.shutter = std::isfinite(degrees) ? std::clamp(degrees / full_turn, 0.0, 1.0) : 0;
    });
}

SpeedCourse speed_course_of(const Shot& shot)
{
    SpeedCourse course = shot.steps.has<SpeedCourse>() ? shot.steps.get<SpeedCourse>() : SpeedCourse();
    const auto place = [&](const SpeedPoint& point) {
        std::size_t i = 0;
        while (i < shot.photos.size() && shot.photos[i].id != point.photo)
            ++i;
        return i;
    };
    std::vector<std::pair<std::size_t, SpeedPoint>> placed;
    placed.reserve(course.points.size());
    for (const SpeedPoint& p : course.points)
        placed.emplace_back(place(p), p);
    std::stable_sort(placed.begin(), placed.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    course.points.clear();
    for (const auto& [at, point] : placed)
        if (at < shot.photos.size())
            course.points.push_back(point);
    return course;
}

Project set_speed_course(const Project& project, ShotIndex shot, SpeedCourse course)
{
    for (SpeedPoint& p : course.points)
        p.percent = std::isfinite(p.percent) ? std::clamp(p.percent, speed_limits.low, speed_limits.high) : 100;
    return with_shot(project, shot, [&](Shot& s) {
        if (course == SpeedCourse())
            s.steps.drop<SpeedCourse>();
        else
            s.steps.set(std::move(course));
    });
}

Project set_speed_at(const Project& project, ShotIndex shot, PhotoIndex photo, double percent, Ease ease)
{
    const Shot& s = project.shot(shot);
    SpeedCourse course = speed_course_of(s);
    const PhotoId id = s.photos.at(photo.at()).id;
    const auto there =
        std::find_if(course.points.begin(), course.points.end(), [&](const SpeedPoint& p) { return p.photo == id; });
    if (there == course.points.end())
        course.points.push_back({id, percent, ease});
    else
        *there = {id, percent, ease};
    return set_speed_course(project, shot, std::move(course));
}

Project move_speed_point(const Project& project, ShotIndex shot, PhotoId point, PhotoIndex to, double percent)
{
    const Shot& s = project.shot(shot);
    SpeedCourse course = speed_course_of(s);
    const PhotoId id = s.photos.at(to.at()).id;
    const auto there =
        std::find_if(course.points.begin(), course.points.end(), [&](const SpeedPoint& p) { return p.photo == point; });
    if (there == course.points.end())
        return project;
    const Ease ease = there->ease;
    course.points.erase(there);
    std::erase_if(course.points, [&](const SpeedPoint& p) { return p.photo == id; });
    course.points.push_back({id, percent, ease});
    return set_speed_course(project, shot, std::move(course));
}

Project remove_speed_point(const Project& project, ShotIndex shot, PhotoId point)
{
    SpeedCourse course = speed_course_of(project.shot(shot));
    std::erase_if(course.points, [&](const SpeedPoint& p) { return p.photo == point; });
    if (course.points.empty())
        course = {};
    return set_speed_course(project, shot, std::move(course));
}

Project hold_as_taken(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos)
{
    const Shot& before = project.shot(shot);
    const auto shown = shown_of(before, photos);
    std::vector<PhotoPtr> files;
    files.reserve(shown.size());
    for (const HeldPhoto& h : shown)
        files.push_back(before.photos[h.photo.at()].photo);
    std::vector<double> until; // the next one was taken, seconds
    std::vector<double> known;
    const auto gaps = gaps_between(files);
    for (std::size_t i = 0; i < files.size(); ++i) {
        const auto gap = i + 1 < gaps.size() ? gaps[i + 1] : std::nullopt;
        until.push_back(gap && *gap > 0 ? *gap : 0);
        if (until.back() > 0)
            known.push_back(until.back());
    }
    if (known.size() < 2)
        throw Failure({"the photos do not say when they were taken", {}, "Set the holds by hand"});
    const double usual = upper_median(known);
    for (double& u : until)
        if (u == 0)
            u = usual;
    // As a speed: what was taken after twice the usual time goes half as fast.
    const Rate paced = pacing_rate(project, before);
    const Seconds whole = total_of(shown, paced);
    std::vector<HeldPhoto> even(shown);
    std::vector<double> percent;
    percent.reserve(until.size());
    for (std::size_t i = 0; i < even.size(); ++i) {
        even[i].hold = Seconds{whole.value / Fraction(std::int64_t(even.size()))};
        percent.push_back(100 * usual / until[i]);
    }
    const auto held = at_speeds(even, percent, paced, true);
    return with_shot(project, shot, [&](Shot& s) {
        for (const HeldPhoto& h : held)
            s.photos.edit(h.photo.at()).hold = h.hold;
    });
}

Project hold_as_tapped(const Project& project, ShotIndex shot, PhotoIndex first, std::span<const double> taps)
{
    const Shot& before = project.shot(shot);
    const double rate = pacing_rate(project, before).value().approx();
    const auto shown = in_film(before);
    return with_shot(project, shot, [&](Shot& s) {
        std::int64_t begin = 0;
        std::size_t tap = 0;
        for (std::size_t i = first.at(); i < shown.size() && tap < taps.size(); ++i) {
            if (!shown[i])
                continue;
            const std::int64_t next = std::max<std::int64_t>(begin + 1, std::llround(taps[tap++] * rate));
            s.photos.edit(i).hold = Frames{std::min(next - begin, max_hold_frames)};
            begin = next;
        }
    });
}

Project vary_holds(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, std::int64_t frames,
                   std::uint32_t seed)
{
    std::vector<PhotoIndex> in_frames;
    for (const HeldPhoto& h : shown_of(project.shot(shot), photos))
        if (std::holds_alternative<Frames>(h.hold))
            in_frames.push_back(h.photo);
    std::mt19937 random(seed);
    const auto below = [&](std::size_t most) {
        return std::size_t(random() % std::uint32_t(most));
    }; // on every machine
    for (std::size_t i = in_frames.size(); i > 1; --i)
        std::swap(in_frames[i - 1], in_frames[below(i)]);
    return with_shot(project, shot, [&](Shot& s) {
        for (std::size_t i = 0; i + 1 < in_frames.size(); i += 2) { // what one gives, the other takes
            auto& longer = std::get<Frames>(s.photos.edit(in_frames[i].at()).hold);
            auto& shorter = std::get<Frames>(s.photos.edit(in_frames[i + 1].at()).hold);
            const std::int64_t by =
                std::min(std::int64_t(below(std::size_t(std::max<std::int64_t>(frames, 0)) + 1)), shorter.count - 1);
            longer.count += by;
            shorter.count -= by;
        }
    });
}

}
