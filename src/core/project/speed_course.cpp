#include "core/project/speed_course.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>

namespace frenlo {

std::vector<double> speeds_of(const Shot& shot)
{
    constexpr double usual = 100;
    std::vector<double> speeds(shot.photos.size(), usual);
    const auto* course = shot.steps.find<SpeedCourse>();
    if (!course || course->points.empty())
        return speeds;
    std::unordered_map<PhotoId, std::size_t> place;
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        place.emplace(shot.photos[i].id, i);
    struct At
    {
        std::size_t photo;
        const SpeedPoint* point;
    };
    std::vector<At> points;
    for (const SpeedPoint& p : course->points)
        if (const auto it = place.find(p.photo); it != place.end())
            points.push_back({it->second, &p});
    if (points.empty())
        return speeds;
    std::stable_sort(points.begin(), points.end(), [](const At& a, const At& b) { return a.photo < b.photo; });
    std::size_t next = 0; // the first point behind the photo
    for (std::size_t i = 0; i < speeds.size(); ++i) {
        while (next < points.size() && points[next].photo <= i)
            ++next;
        const At& before = points[next > 0 ? next - 1 : 0];
        const At& after = points[std::min(next, points.size() - 1)];
        if (before.photo >= after.photo || next == 0) {
            speeds[i] = next == 0 ? points.front().point->percent : before.point->percent;
            continue;
        }
        const double time = double(i - before.photo) / double(after.photo - before.photo);
        speeds[i] =
            before.point->percent + (after.point->percent - before.point->percent) * eased(time, before.point->ease);
    }
    return speeds;
}

std::vector<HeldPhoto> at_speeds(std::span<const HeldPhoto> photos, std::span<const double> percent, Rate paced_at,
                                 bool keep_length)
{
    constexpr std::int64_t fine = 1'000'000'000; // of a second
    std::vector<long double> ends;               // seconds
    ends.reserve(photos.size());
    long double sum = 0;
    for (std::size_t i = 0; i < photos.size(); ++i) {
        sum += static_cast<long double>(length_of(photos[i].hold, paced_at).value.approx()) * 100 / percent[i];
        ends.push_back(sum);
    }
    const Seconds whole = total_of(photos, paced_at);
    const long double scale = keep_length && sum > 0 ? static_cast<long double>(whole.value.approx()) / sum : 1;
    std::vector<HeldPhoto> held(photos.begin(), photos.end());
    std::int64_t done = 0;
    std::size_t last = held.size(); // that is shown
    for (std::size_t i = 0; i < held.size(); ++i) {
        if (!is_shown(held[i].hold))
            continue;
        const std::int64_t end = std::max(done + 1, std::int64_t(std::llround(ends[i] * scale * fine)));
        held[i].hold = Seconds{Fraction(end - done, fine)};
        done = end;
        last = i;
    }
    if (keep_length && last < held.size()) { // what rounding left over or took
        const Fraction before = Fraction(done, fine) - std::get<Seconds>(held[last].hold).value;
        if (const Fraction rest = whole.value - before; rest > Fraction(0))
            held[last].hold = Seconds{rest};
    }
    return held;
}

std::vector<HeldPhoto> paced_photos(const Project& project, const Shot& shot)
{
    std::vector<HeldPhoto> held = held_photos(shot);
    const auto* course = shot.steps.find<SpeedCourse>();
    if (!course || course->points.empty())
        return held;
    const std::vector<double> all = speeds_of(shot);
    std::vector<double> percent;
    percent.reserve(held.size());
    for (const HeldPhoto& h : held)
        percent.push_back(all[h.photo.at()]);
    return at_speeds(held, percent, pacing_rate(project, shot), course->keep_length);
}

}
