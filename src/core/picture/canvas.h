#pragma once
#include <opencv2/core/mat.hpp>

#include <array>
#include <cstdint>
#include <functional>
#include <optional>
#include <vector>

namespace frenlo {

/// A picture in linear light: rows top to bottom, 32-bit float, B G R A, colours multiplied by alpha, the primaries and
/// the white of Rec. ITU-R BT.709; 1 is white, and values may lie outside 0 to 1.
using Canvas = cv::Mat_<cv::Vec4f>;

/// Of a row of a picture the pixels [begin, end); bgra: the first of them.
using GiveRow = std::function<void(int y, int begin, int end, float* bgra)>;
using TakeRow = std::function<void(int y, int begin, int end, const float* bgra)>;

/// The rows of a picture, as a Canvas has them, made when they are asked for, in any order. From one thread at a time.
struct CanvasRows
{
    cv::Size size;
    GiveRow row;
    bool opaque = false; ///< alpha is 1 everywhere
    /// B G R of 8 bit that they are made from, where they may be scaled in whole numbers (scale.h).
    cv::Mat eight{};
};

enum class Depth
{
    eight,
    sixteen
};

/// Pixels as decode.h says, in linear light. For a result of so many bits.
CanvasRows linear_rows(const cv::Mat& pixels, Depth result = Depth::sixteen);
Canvas to_canvas(const cv::Mat& pixels);

/// How linear light is written as whole numbers. Below 0 is 0, above 1 is white.
struct Quantising
{
    Depth depth = Depth::eight;
    bool alpha = false; ///< B G R A with straight alpha; else B G R, and what shows through is black
    /// Noise of one step in all, even distribution, so that smooth light stays smooth where arithmetic made it; what is
    /// a whole number stays as it is. The same for the same number, so that a picture that is held stands still.
    std::optional<std::uint32_t> dither{};
};

enum class Rounding
{
    as_asked,
    plain ///< without noise: of these pixels nothing was made by arithmetic that is finer than their codes
};

/// The picture, encoded in sRGB, rounded once. Parts of rows may come in any order.
class Quantised
{
public:
    Quantised(cv::Size size, const Quantising& how);
    void take(int y, int begin, int end, const float* bgra, Rounding rounding = Rounding::as_asked);
    [[nodiscard]] const cv::Mat& picture() const { return picture_; }

private:
    Quantising how_;
    cv::Mat picture_;
    std::vector<float> straight_, noise_; ///< of a row
    std::vector<std::int32_t> codes_;     ///< of a row, or steps of light
};
cv::Mat quantised(const Canvas& canvas, const Quantising& how = {});

/// So many pixels on an opaque colour: over in Porter, Duff 1984, in linear light.
/// rgb: sRGB-encoded.
void lay_over(float* bgra, int pixels, const std::array<std::uint8_t, 3>& rgb);

}
