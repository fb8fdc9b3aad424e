#pragma once
// Private to picture/: the inner loops of warp.h, and the weights and places that they take.
#include <cstddef>
#include <cstdint>
#include <vector>

namespace frenlo {

inline constexpr int phases = 128; ///< positions between two pixels for which the kernel is worked out

/// Weights of an even number of taps for each phase; they sum to 1, and a slope stays in its place.
struct Kernel
{
    int taps = 0;
    int before = 0;             ///< pixels before the one at or left of the position
    std::vector<float> weights; ///< phase by phase
    std::vector<float> across;  ///< the same, once for each of four channels

    /// wide: source pixels a result pixel.
    explicit Kernel(double wide);
    [[nodiscard]] const float* at(int phase) const { return weights.data() + std::size_t(phase) * std::size_t(taps); }
    [[nodiscard]] const float* across_at(int phase) const
    {
        return across.data() + std::size_t(phase) * std::size_t(taps) * 4;
    }
};

/// Positions between pixels: the pixel at or before each, and how far behind it lies, in phases.
struct Places
{
    std::vector<std::int32_t> pixel, phase;
    explicit Places(int count) : pixel(std::size_t(count)), phase(std::size_t(count)) {}
};

/// Where the positions (a x + b) / (c x + d) lie, x from 0, none beyond low and high; and moved by so many pixels.
struct Line
{
    double a, b, c, d, low, high;
    std::int32_t moved;
    bool operator==(const Line&) const = default;
};

/// The loops that take all the time.
struct Loops
{
    void (*locate)(const Line&, int, std::int32_t*, std::int32_t*);
    void (*across)(const Kernel&, const Places&, const float*, float*);
    void (*down_straight)(const Kernel&, int, const float* const*, int, float*);
    void (*down_slanted)(const Kernel&, const Places&, int, const float* const*, float*);
    /// Pixels that lie anywhere: over says where in its row each begins at its first tap, down in which row it does;
    /// first: the row that rows begins with.
    void (*bent)(const Kernel&, const Places& over, const Places& down, int first, const float* const* rows, float*);
};

/// Those for this machine.
const Loops& loops();

}
