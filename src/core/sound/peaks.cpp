#include "core/sound/peaks.h"

#include "core/sound/sound_reader.h"

#include <tbb/info.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <chrono>
#include <cmath>

namespace frenlo {

namespace {

constexpr std::int64_t piece = sound_rate / Peaks::per_second;

std::array<std::int8_t, 2> extremes(const float* pairs, std::size_t n)
{
    float low = 0, high = 0;
    for (std::size_t i = 0; i < n; ++i) {
        low = std::min(low, pairs[i]);
        high = std::max(high, pairs[i]);
    }
    const auto whole = [](float v) { return std::int8_t(std::lround(std::clamp(v, -1.0F, 1.0F) * 127)); };
    return {whole(low), whole(high)};
}

}

Peaks peaks_of(const std::filesystem::path& file, const Job& job, const std::function<void(const Peaks&)>& shown)
{
    constexpr std::int64_t at_once = piece * 512;
    SoundReader first(file);
    const std::int64_t stated = sample_at(first.stated_length());
    Peaks peaks;
    // A part of the file for each core, by its stated length; the last goes on to where it really ends.
    const auto parts = std::size_t(stated > 60LL * sound_rate ? std::max(1, tbb::info::default_concurrency()) : 1);
    const std::int64_t each = (stated / std::int64_t(parts) / at_once + 1) * at_once;
    std::vector<std::vector<std::array<std::int8_t, 2>>> found(parts);
    std::atomic<std::int64_t> done = 0, samples = 0;
    constexpr std::chrono::milliseconds often_enough(200);
    std::chrono::steady_clock::time_point told; // long ago
    tbb::parallel_for(
        std::size_t(0), parts,
        [&](std::size_t p) {
            SoundReader reader(file, Resampling::quick);
            const bool last = p + 1 == parts;
            const std::int64_t begin = std::int64_t(p) * each;
            std::vector<float> pairs(std::size_t(at_once) * sound_sides);
            for (std::int64_t at = begin; last || at < begin + each; at += at_once) {
                job.check();
                const std::int64_t there = reader.read(at, pairs);
                for (std::int64_t i = 0; i < there; i += piece)
                    found[p].push_back(extremes(pairs.data() + i * sound_sides,
                                                std::size_t(std::min(piece, there - i)) * sound_sides));
                if (there > 0)
                    samples = std::max(samples.load(), at + there);
                done += there;
                if (stated > 0)
                    job.report(std::min(1.0, double(done) / double(stated)), "sound");
                if (const auto now = std::chrono::steady_clock::now(); shown && p == 0 && now - told > often_enough) {
                    told = now;
                    peaks.pieces = found[0];
                    shown(peaks);
                }
                if (there < at_once)
                    break;
            }
        },
        tbb::simple_partitioner());
    peaks.pieces.clear();
    for (std::size_t p = 0; p < parts; ++p) {
        peaks.pieces.resize(std::max(peaks.pieces.size(), p * std::size_t(each / piece)));
        peaks.pieces.insert(peaks.pieces.end(), found[p].begin(), found[p].end());
    }
    peaks.samples = samples;
    return peaks;
}

}
