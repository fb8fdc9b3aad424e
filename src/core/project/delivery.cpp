#include "core/project/delivery.h"

#include "core/project/exactly.h"

namespace frenlo {

namespace {

Rate scaled_rate(Rate paced, Fraction slower)
{
    const Fraction rate = paced.value() / slower;
    const auto known = parse_rate(rate.text());
    if (!known)
        throw Failure({"the pacing rate of a shot would become " + rate.text() + " frames a second",
                       {},
                       "Keep the same clock time, or set another pacing rate first"});
    return Rate(rate);
}

}

Project deliver_at(const Project& project, Rate rate, RateIntent intent)
{
    if (rate == project.delivered_at)
        return project;
    return exactly([&] {
        Project result = project;
        result.delivered_at = rate;
        const Fraction slower = project.delivered_at.value() / rate.value(); // of clock time
        for (auto& shot : result.shots) {
            auto now = std::make_shared<Shot>(*shot);
            Pacing& pacing = now->pacing;
            if (intent == RateIntent::same_clock_time) {
                if (!pacing.paced_at)
                    pacing.paced_at = project.delivered_at;
            } else {
                if (pacing.paced_at)
                    pacing.paced_at = scaled_rate(*pacing.paced_at, slower);
                const auto slow = [&](Hold& hold) {
                    if (auto* s = std::get_if<Seconds>(&hold))
                        s->value = s->value * slower;
                };
                now->photos.edit_all([&](ShotPhoto& p) { slow(p.hold); });
                for (auto* end : {&pacing.first_hold, &pacing.last_hold})
                    if (*end)
                        slow(**end);
            }
            if (pacing.paced_at == rate)
                pacing.paced_at.reset();
            if (!(*now == *shot))
                shot = std::move(now);
        }
        return result;
    });
}

Project set_delivered_at(const Project& project, Rate rate)
{
    Project result = project;
    result.delivered_at = rate;
    return result;
}

Hold hold_of_frames(std::int64_t frames, const Project& project, const Shot& shot)
{
    const Seconds length = length_of(frames, project.delivered_at);
    const Fraction paced = length.value * pacing_rate(project, shot).value();
    return paced.den() == 1 ? Hold(Frames{paced.num()}) : Hold(length);
}

}
