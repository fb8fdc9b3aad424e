#pragma once
// Private to export/: what the pixels of a loop's picture become in its file.
#include <cstdint>
#include <span>
#include <string>
#include <vector>

namespace frenlo {

/// How far two entries of a palette are from one another, as it is seen: a difference of n in grey is n. Row by row.
struct ColourDistances
{
    std::size_t colours = 0;
    std::vector<float> between; ///< colours * colours
    [[nodiscard]] float operator()(std::uint8_t a, std::uint8_t b) const { return between[a * colours + b]; }
};

/// Pixels of a rectangle as they are wanted, line by line.
struct WantedPixels
{
    std::span<const std::uint8_t> colours;
    std::span<const std::uint8_t> may_stay; ///< not 0: what is on the screen will do, so it may be written as through
    std::uint8_t through = 0;               ///< the index of no colour; it may be one of colours too
};

/// Codes of these pixels (Welch 1984, in the form of GIF89a's appendix F, with its blocks and their end). Where a
/// longer known run differs from what is wanted by no more than tolerance in any pixel, it is taken; written is what
/// was. bits: of an index, 2 to 8.
std::string lzw_codes(const WantedPixels& wanted, const ColourDistances& distances, float tolerance, int bits,
                      std::vector<std::uint8_t>& written);

}
