#pragma once
// Private to export/: which colour of a palette is nearest to another.
#include <opencv2/core/matx.hpp>

#include <cstdint>
#include <vector>

namespace frenlo {

/// How far two colours are from one another, as it is seen; red, green and blue weigh by how bright they are (common
/// practice, no source).
float colour_distance(const cv::Vec3b& a, const cv::Vec3b& b);

/// Looks among those few alone that may be nearest to any colour near by.
class NearestColour
{
public:
    /// B G R, 1 to 256 of them.
    explicit NearestColour(const std::vector<cv::Vec3b>& palette);
    /// Of equally near ones the first.
    [[nodiscard]] std::uint8_t operator()(const cv::Vec3b& colour);

private:
    static constexpr int bits = 3, cells = 256 >> bits; ///< colours of a cell are alike up to their last bits
    struct Few
    {
        std::uint32_t begin = 0;
        std::uint16_t count = 0; ///< 0: not looked for yet
    };
    void look_around(const cv::Vec3b& colour, Few& few);

    std::vector<cv::Vec3b> palette_;
    std::vector<Few> few_;
    std::vector<cv::Vec4b> pool_; ///< B G R and their place in the palette
};

}
