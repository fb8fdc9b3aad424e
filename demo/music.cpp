#include "demo/music.h"

#include "core/sound/wav.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <numbers>
#include <vector>

namespace frenlo::demo {

namespace {

constexpr int rate = 48'000;
constexpr double turn = 2 * std::numbers::pi;

using Samples = std::vector<float>;

/// A plucked string: its overtones die away the sooner the higher they are.
void pluck(Samples& s, double at, double hertz, double level)
{
    const auto begin = std::size_t(at * rate);
    for (std::size_t i = 0; i < rate * 3 / 2 && begin + i < s.size(); ++i) {
        const double t = double(i) / rate;
        double v = 0;
        for (int n = 1; n <= 6; ++n)
            v += std::sin(turn * hertz * n * t) * std::exp(-t * (1.6 + 1.1 * n)) / n;
        s[begin + i] += float(level * v * std::min(1.0, t * 400));
    }
}

/// Waves: noise that comes and goes. The same everywhere: no library's random numbers.
void wash(Samples& s, double level)
{
    std::uint32_t state = 2463534242U;
    double low = 0;
    for (std::size_t i = 0; i < s.size(); ++i) {
        state ^= state << 13;
        state ^= state >> 17;
        state ^= state << 5;
        low += 0.04 * (double(state) / 2147483648.0 - 1 - low);
        const double swell = 0.5 + 0.5 * std::sin(turn * double(i) / rate / 4.7);
        s[i] += float(level * low * (0.25 + 0.75 * swell * swell));
    }
}

}

void write_tune(const std::filesystem::path& file)
{
    constexpr double beat = 60.0 / 96, seconds = 14;
    Samples s(std::size_t(seconds * rate));
    constexpr std::array melody{0, 4, 7, 12, 9, 7, 4, 2, 0, 5, 9, 12, 11, 7, 4, 2, 0, 4, 7, 9, 7, 4};
    const auto hertz = [](int half_tones) { return 196.0 * std::exp2(half_tones / 12.0); };
    for (std::size_t i = 0; i < melody.size() && double(i) * beat < seconds - 0.3; ++i) {
        pluck(s, double(i) * beat, hertz(melody[i]), 0.4);
        if (i % 2 == 0)
            pluck(s, double(i) * beat, hertz(melody[i] % 5 == 0 ? -12 : -5), 0.3);
    }
    wash(s, 0.5);
    write_new_wav(file, s, rate);
}

void write_gull(const std::filesystem::path& file)
{
    Samples s(rate * 6 / 5);
    for (const double at : {0.05, 0.42, 0.74})
        for (std::size_t i = 0; i < rate * 3 / 10; ++i) {
            const double t = double(i) / rate, share = t / 0.3;
            const double pitch = 1'450 - 520 * share + 60 * std::sin(turn * 17 * t);
            s[std::size_t(at * rate) + i] +=
                float(0.25 * std::sin(turn * pitch * t) * std::sin(std::numbers::pi * share));
        }
    write_new_wav(file, s, rate);
}

}
