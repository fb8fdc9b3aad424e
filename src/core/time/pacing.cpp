#include "core/time/pacing.h"

#include "core/time/exact.h"

#include <algorithm>
#include <iterator>

namespace frenlo {

namespace {

constexpr std::int64_t most_photos = 2'000'000;

using Photos = std::vector<HeldPhoto>;

Exact exact_length(std::span<const HeldPhoto> photos, Rate paced_at)
{
    std::int64_t frames = 0; // summed apart: the usual holds are whole frames
    Exact seconds = 0;
    for (const auto& p : photos) {
        if (const auto* f = std::get_if<Frames>(&p.hold))
            frames += f->count;
        else
            seconds += exact(std::get<Seconds>(p.hold).value);
    }
    return seconds + Exact(frames) / exact(paced_at.value());
}

/// To a fraction; to the nanosecond where the exact one does not fit.
Fraction narrowed(const Exact& value)
{
    constexpr std::int64_t nano = 1'000'000'000;
    constexpr std::int64_t fits = std::int64_t(1) << 31;
    if (denominator(value) <= fits)
        return {numerator(value).convert_to<std::int64_t>(), denominator(value).convert_to<std::int64_t>()};
    const boost::multiprecision::cpp_int whole = numerator(value) * nano / denominator(value);
    return {whole.convert_to<std::int64_t>(), nano};
}

Photos shown_and_thinned(std::span<const HeldPhoto> photos, int keep_every)
{
    Photos kept;
    std::int64_t n = 0;
    for (const auto& p : photos)
        if (is_shown(p.hold) && n++ % std::max(1, keep_every) == 0)
            kept.push_back(p);
    return kept;
}

/// Takes photos into the film up to this length; what is left of the photo that is cut comes first in after.
void take_length(Photos::const_iterator from, Photos::const_iterator end, Seconds length, Rate paced_at, Arrangement& a)
{
    const Exact wanted = exact(length.value);
    Exact total = 0;
    for (; from != end && total < wanted; ++from) {
        const Exact hold = exact(length_of(from->hold, paced_at).value);
        if (total + hold <= wanted) {
            a.film.push_back(*from);
        } else {
            a.film.push_back({from->photo, Seconds{narrowed(wanted - total)}, from->backwards});
            a.after.push_back({from->photo, Seconds{narrowed(total + hold - wanted)}, from->backwards});
        }
        total += hold;
    }
    a.after.insert(a.after.end(), from, end);
}

Arrangement with_range(const Photos& photos, const std::optional<KeptRange>& kept, Rate paced_at)
{
    Arrangement a;
    if (!kept) {
        a.film = photos;
        return a;
    }
    const auto from = [&](PhotoIndex photo) {
        return std::find_if(photos.begin(), photos.end(), [&](const HeldPhoto& p) { return p.photo >= photo; });
    };
    const auto begin = from(kept->begin);
    a.before.assign(photos.begin(), begin);
    if (const auto* length = std::get_if<Seconds>(&kept->extent)) {
        take_length(begin, photos.end(), *length, paced_at, a);
        return a;
    }
    auto end = photos.end();
    if (const auto* count = std::get_if<PhotoCount>(&kept->extent))
        end = begin + std::min<std::int64_t>(count->count, std::distance(begin, photos.end()));
    else
        end = std::max(begin, from(std::get<PhotoIndex>(kept->extent)));
    a.film.assign(begin, end);
    a.after.assign(end, photos.end());
    return a;
}

/// Photos beside each other that are to be played backwards, in the other order.
void turn_parts_round(Photos& photos)
{
    const auto turned = [](const HeldPhoto& p) { return p.backwards; };
    for (auto begin = photos.begin(); begin != photos.end();) {
        begin = std::find_if(begin, photos.end(), turned);
        const auto end = std::find_if_not(begin, photos.end(), turned);
        std::reverse(begin, end);
        begin = end;
    }
}

void add_way_back(Photos& film, Return back)
{
    const std::size_t there = film.size();
    if (back == Return::none || there == 0)
        return;
    const std::size_t ends = back == Return::twice ? 0 : 1; // photos at each end that are not shown again
    for (std::size_t i = there - std::min(ends, there); i-- > ends;)
        film.push_back(film[i]);
}

/// Frames that this long a film has, and how long it is then: what a player shows, not what was asked for.
bool lasts(const Exact& length, Seconds at_least, Rate delivered_at)
{
    const Exact frames = length * exact(delivered_at.value()) + Exact(1, 2);
    const boost::multiprecision::cpp_int whole = numerator(frames) / denominator(frames);
    return Exact(whole) / exact(delivered_at.value()) >= exact(at_least.value);
}

}

Seconds total_of(std::span<const HeldPhoto> photos, Rate paced_at)
{
    const Exact total = exact_length(photos, paced_at);
    constexpr auto most = std::numeric_limits<std::int64_t>::max();
    if (numerator(total) > most || denominator(total) > most)
        throw std::overflow_error("a time does not fit an exact fraction");
    return {Fraction(numerator(total).convert_to<std::int64_t>(), denominator(total).convert_to<std::int64_t>())};
}

Arrangement arranged(std::span<const HeldPhoto> photos, const Pacing& pacing, Rate delivered_at)
{
    const Rate paced_at = pacing.paced_at.value_or(delivered_at);
    Arrangement a = with_range(shown_and_thinned(photos, pacing.keep_every), pacing.kept, paced_at);
    for (Photos* part : {&a.before, &a.film, &a.after})
        turn_parts_round(*part);
    if (pacing.backwards) {
        for (Photos* part : {&a.before, &a.film, &a.after})
            std::reverse(part->begin(), part->end());
        std::swap(a.before, a.after);
    }
    if (a.film.empty())
        return a;
    add_way_back(a.film, pacing.there_and_back);

    // The ends, once: what they last longer than in a plain pass.
    const HeldPhoto first = a.film.front();
    const bool closes = pacing.there_and_back == Return::to_first && a.film.size() > 1;
    const HeldPhoto last = closes ? first : a.film.back();
    const auto longer = [&](const std::optional<Hold>& hold, const HeldPhoto& than) {
        return hold ? exact(length_of(*hold, paced_at).value) - exact(length_of(than.hold, paced_at).value) : Exact(0);
    };
    const Exact ends = longer(pacing.first_hold, first) + longer(pacing.last_hold, last) +
                       (closes ? exact(length_of(first.hold, paced_at).value) : Exact(0));

    const Exact pass = exact_length(a.film, paced_at);
    const auto room = std::max<std::int64_t>(1, most_photos / std::int64_t(a.film.size()));
    a.passes = std::clamp<std::int64_t>(pacing.times, 1, room);
    if (pacing.at_least) {
        const Exact missing = (exact(pacing.at_least->value) - ends) / pass;
        const boost::multiprecision::cpp_int whole = numerator(missing) / denominator(missing);
        if (whole > a.passes) // close below; the last steps are taken one by one
            a.passes = std::min<std::int64_t>(room, whole > room ? room : whole.convert_to<std::int64_t>());
        while (a.passes < room && !lasts(Exact(a.passes) * pass + ends, *pacing.at_least, delivered_at))
            ++a.passes;
    }
    const Photos once = a.film;
    a.film.reserve(once.size() * std::size_t(a.passes) + 1);
    for (std::int64_t n = 1; n < a.passes; ++n)
        a.film.insert(a.film.end(), once.begin(), once.end());
    if (closes)
        a.film.push_back(first);
    if (pacing.first_hold)
        a.film.front().hold = *pacing.first_hold;
    if (pacing.last_hold)
        a.film.back().hold = *pacing.last_hold;
    return a;
}

}
