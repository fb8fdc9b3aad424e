#include "core/sound/loudness.h"

#include "core/sound/sound_reader.h"

#include <algorithm>
#include <cmath>
#include <ebur128.h>
#include <limits>
#include <memory>

namespace frenlo {

namespace {

constexpr std::int64_t block = sound_rate;

struct ForgetState
{
    void operator()(ebur128_state* s) const { ebur128_destroy(&s); }
};

double in_db(double level)
{
    return level > 0 ? 20 * std::log10(level) : -std::numeric_limits<double>::infinity();
}

}

Loudness loudness_of(const ReadSound& read, std::int64_t samples, const Job& job)
{
    const std::unique_ptr<ebur128_state, ForgetState> state(
        ebur128_init(sound_sides, sound_rate, EBUR128_MODE_I | EBUR128_MODE_TRUE_PEAK));
    if (!state)
        throw Failure({"there is too little memory to measure the loudness", {}, "Close other programs"});
    std::vector<float> pairs;
    for (std::int64_t at = 0; at < samples; at += block) {
        job.check();
        job.report(double(at) / double(samples), "loudness");
        pairs.resize(std::size_t(std::min(block, samples - at)) * sound_sides);
        read(at, pairs);
        ebur128_add_frames_float(state.get(), pairs.data(), pairs.size() / sound_sides);
    }
    Loudness l{-std::numeric_limits<double>::infinity(), 0};
    ebur128_loudness_global(state.get(), &l.integrated);
    double peak = 0;
    for (unsigned side = 0; side < sound_sides; ++side) {
        double p = 0;
        ebur128_true_peak(state.get(), side, &p);
        peak = std::max(peak, p);
    }
    l.true_peak = in_db(peak);
    return l;
}

Mastering Mastering::to_loudness(const ReadSound& read, std::int64_t samples, double lufs, const Job& job)
{
    const Loudness now = loudness_of(read, samples, job);
    Mastering m;
    if (!std::isfinite(now.integrated))
        return m;
    m.gain_db_ = lufs - now.integrated;
    if (now.true_peak + m.gain_db_ <= most_true_peak)
        return m;
    // A limiter holds samples; what lies between them may be higher still, and it takes loudness away. Both are
    // measured and put right some times over.
    m.ceiling_ = float(std::pow(10.0, most_true_peak / 20));
    constexpr int rounds = 4;
    for (int i = 0; i < rounds; ++i) {
        const Loudness l =
            loudness_of([&](std::int64_t at, std::span<float> out) { m.read(read, at, out); }, samples, job);
        const double over = l.true_peak - most_true_peak, missing = lufs - l.integrated;
        if (over <= 0 && std::abs(missing) < 0.05)
            break;
        if (over > 0)
            m.ceiling_ *= float(std::pow(10.0, -(over + 0.02) / 20));
        if (i + 1 < rounds) // the last word has the peak
            m.gain_db_ += std::clamp(missing, -3.0, 3.0);
    }
    return m;
}

void Mastering::read(const ReadSound& source, std::int64_t at, std::span<float> out) const
{
    const auto gain = float(std::pow(10.0, gain_db_ / 20));
    if (!limits()) {
        source(at, out);
        for (float& v : out)
            v *= gain;
        return;
    }
    // The gain that each sample needs, the least of those around it, and the mean of those: never above what is needed,
    // and smooth.
    constexpr std::int64_t reach = sound_rate / 200;
    const auto pairs = std::int64_t(out.size()) / sound_sides;
    const std::int64_t all = pairs + 4 * reach;
    std::vector<float> around(std::size_t(all) * sound_sides);
    source(at - 2 * reach, around);
    std::vector<float> need(std::size_t(all), 1.0F), least(std::size_t(all), 1.0F);
    for (std::int64_t i = 0; i < all; ++i) {
        float most = 0;
        for (int s = 0; s < sound_sides; ++s) {
            float& v = around[std::size_t(i * sound_sides + s)];
            v *= gain;
            most = std::max(most, std::abs(v));
        }
        need[std::size_t(i)] = most > ceiling_ ? ceiling_ / most : 1;
    }
    for (std::int64_t i = 0; i < all; ++i)
        if (need[std::size_t(i)] < 1)
            for (std::int64_t j = std::max<std::int64_t>(0, i - reach); j <= std::min(all - 1, i + reach); ++j)
                least[std::size_t(j)] = std::min(least[std::size_t(j)], need[std::size_t(i)]);
    double sum = 0;
    for (std::int64_t i = reach; i <= 3 * reach; ++i)
        sum += least[std::size_t(i)];
    for (std::int64_t i = 0; i < pairs; ++i) {
        const auto g = float(sum / double(2 * reach + 1));
        for (int s = 0; s < sound_sides; ++s)
            out[std::size_t(i * sound_sides + s)] = g * around[std::size_t((i + 2 * reach) * sound_sides + s)];
        if (i + 1 < pairs)
            sum += least[std::size_t(i + 3 * reach + 1)] - least[std::size_t(i + reach)];
    }
}

}
