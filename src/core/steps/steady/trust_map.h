#pragma once
#include "core/steps/steady/registration.h"

#include <cstdint>
#include <vector>

namespace frenlo {

/// Which parts of the frame were trusted: a coarse grid over it, row by row. What moves by itself, and what cannot be
/// followed, stands out.
struct TrustMap
{
    int columns = 0;
    int rows = 0;
    std::vector<std::int8_t> tenths; ///< of the tries that agreed, 0 to 10; -1: nothing there could be followed

    [[nodiscard]] bool empty() const { return tenths.empty(); }
    [[nodiscard]] cv::Rect2d cell(int column, int row) const; ///< in shares of width and height
    bool operator==(const TrustMap&) const = default;
};

/// Counts tries and successes over many registrations.
class TrustCount
{
public:
    explicit TrustCount(cv::Size size);
    /// The points of the first photo of this link, and those of them that agreed.
    void add(const Prepared& from, const Link& link);
    [[nodiscard]] TrustMap map() const;

private:
    [[nodiscard]] std::size_t cell_of(const cv::Point2f& p) const;

    cv::Size size_;
    TrustMap shape_;
    std::vector<int> tried_, agreed_;
};

/// What does not move by itself, as a region to look at: cells that were mostly trusted, joined to boxes. Empty where
/// that is everything, or nothing.
Region still_background(const TrustMap& map);

inline std::size_t hash_value(const TrustMap& map)
{
    return mixed_hash(hash_of(map.columns), hash_of(map.tenths));
}

}
