#include "core/sound/sound_mix.h"

#include <algorithm>
#include <array>
#include <rubberband/RubberBandStretcher.h>

namespace frenlo {

std::vector<float> at_tempo(std::span<const float> pairs, Fraction tempo, const Job& job)
{
    using RubberBand::RubberBandStretcher;
    constexpr std::size_t block = 4096;
    const std::size_t n = pairs.size() / sound_sides;
    const auto wanted = std::size_t(std::max<std::int64_t>(1, (Fraction(std::int64_t(n)) / tempo).rounded()));
    RubberBandStretcher stretcher(sound_rate, sound_sides,
                                  RubberBandStretcher::OptionProcessOffline | RubberBandStretcher::OptionEngineFiner |
                                      RubberBandStretcher::OptionThreadingNever |
                                      RubberBandStretcher::OptionChannelsTogether,
                                  1 / tempo.approx());
    stretcher.setExpectedInputDuration(n);
    stretcher.setMaxProcessSize(block);
    std::array<std::vector<float>, sound_sides> side;
    std::array<float*, sound_sides> at{};
    const auto fill = [&](std::size_t from, std::size_t count) {
        for (std::size_t s = 0; s < side.size(); ++s) {
            side[s].resize(block);
            for (std::size_t i = 0; i < count; ++i)
                side[s][i] = pairs[(from + i) * sound_sides + s];
            at[s] = side[s].data();
        }
    };
    std::vector<float> out;
    out.reserve(wanted * sound_sides);
    const auto take = [&] {
        for (int there = stretcher.available(); there > 0; there = stretcher.available()) {
            std::array<std::vector<float>, sound_sides> made;
            std::array<float*, sound_sides> to{};
            for (std::size_t s = 0; s < made.size(); ++s) {
                made[s].resize(std::size_t(there));
                to[s] = made[s].data();
            }
            const std::size_t got = stretcher.retrieve(to.data(), std::size_t(there));
            for (std::size_t i = 0; i < got; ++i)
                for (const auto& one : made)
                    out.push_back(one[i]);
        }
    };
    for (const bool looking : {true, false})
        for (std::size_t from = 0; from < n; from += block) {
            job.check();
            const std::size_t count = std::min(block, n - from);
            fill(from, count);
            const bool last = from + count == n;
            if (looking) {
                stretcher.study(at.data(), count, last);
            } else {
                stretcher.process(at.data(), count, last);
                take();
            }
        }
    out.resize(wanted * sound_sides);
    return out;
}

}
