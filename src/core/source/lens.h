#pragma once
#include "core/base/fields.h"

#include <opencv2/core/types.hpp>

namespace frenlo {

/// How a lens bends straight lines, radially: what lies at r from the middle of the photo was drawn at
/// r (1 + k1 r² + k2 r⁴), r in halves of the photo's diagonal. Brown: Decentering Distortion of Lenses (1966), without
/// what is not radial. Below 0 lines bulge outwards (a barrel), above 0 inwards (a cushion).
struct Lens
{
    double k1 = 0, k2 = 0;
    [[nodiscard]] bool nothing() const { return k1 == 0 && k2 == 0; }
    bool operator==(const Lens&) const = default;
};

inline constexpr Limits lens_k1_limits{-0.3, 0.3}, lens_k2_limits{-0.2, 0.2};

/// No two rings of the photo come to lie on each other: only such a lens can be taken out.
bool can_be_taken_out(const Lens& lens);

/// Between a photo of this size and the same without what the lens did, which is made as much larger as it must be for
/// no corner to stay empty. Pixels, centres on integers.
class LensMap
{
public:
    LensMap(const Lens& lens, cv::Size2d photo);
    /// Of points without the lens's doing to points of the photo as taken.
    [[nodiscard]] cv::Point2d taken(cv::Point2d straight) const;
    /// And back.
    [[nodiscard]] cv::Point2d straight(cv::Point2d taken) const;
    /// How many pixels as taken one pixel covers there, in the direction in which it covers most.
    [[nodiscard]] double covered(cv::Point2d straight) const;

private:
    Lens lens_;
    cv::Point2d middle_;
    double unit_;     ///< pixels: half of the diagonal
    double smallest_; ///< what all is divided by
};

template <>
struct Fields<Lens>
{
    static constexpr FieldTable table{
        field("k1", &Lens::k1, "Of the square of the distance from the middle, in halves of the diagonal",
              lens_k1_limits),
        field("k2", &Lens::k2, "Of its fourth power", lens_k2_limits),
    };
};

}
