#pragma once
// Private to export/: a loop's pictures in the colours of its palette.
#include "core/export/gif_code.h"

#include <opencv2/core/mat.hpp>

#include <cstdint>
#include <utility>
#include <vector>

namespace frenlo {

/// How far two colours are from one another, as it is seen; red, green and blue weigh by how bright they are (common
/// practice, no source).
float colour_distance(const cv::Vec3b& a, const cv::Vec3b& b);

/// What of a picture is to be written over the one before.
struct ColouredPicture
{
    cv::Rect part;                      ///< at least one pixel
    std::vector<std::uint8_t> colours;  ///< of the part, line by line
    std::vector<std::uint8_t> may_stay; ///< not 0 where the screen will do as it is
};

/// Gives pictures colours one after another, and keeps what the screen shows: a pixel that changed by less than what
/// noise would is left as it is, so that what stands still does not crawl, and costs nothing. Pictures are B G R of 8
/// bits, or B G R A, and then each is written whole: half transparent is opaque.
class LoopColouring
{
public:
    /// stay: how far a pixel may be from what it was when it was drawn, of 255; 0: it must be the same. nearest: of the
    /// same palette, from take_nearest() before; empty: all is looked for.
    LoopColouring(std::vector<cv::Vec3b> palette, bool dither, double stay, bool alpha,
                  std::vector<std::int16_t> nearest = {});

    [[nodiscard]] ColouredPicture colour(const cv::Mat& picture);
    /// What was written of the last one.
    void written(const ColouredPicture& picture, const std::vector<std::uint8_t>& colours);

    [[nodiscard]] const std::vector<cv::Vec3b>& palette() const { return palette_; }
    [[nodiscard]] const ColourDistances& distances() const { return distances_; }
    /// Which entry is nearest to what, by B, G and R; no picture is coloured after this.
    [[nodiscard]] std::vector<std::int16_t> take_nearest() { return std::move(known_); }
    [[nodiscard]] std::uint8_t through() const { return std::uint8_t(palette_.size()); } ///< the index of no colour

private:
    [[nodiscard]] cv::Mat stays(const cv::Mat& picture) const;
    [[nodiscard]] std::uint8_t nearest(const cv::Vec3b& colour);

    std::vector<cv::Vec3b> palette_;
    std::vector<int> blues_, greens_, reds_; ///< of the palette, side by side
    ColourDistances distances_;
    bool dither_, alpha_;
    double stay_;
    std::vector<std::int16_t> known_; ///< nearest entries by B, G and R; -1: not looked for yet
    cv::Mat shown_;                   ///< CV_8U: indices on the screen; empty before the first picture
    cv::Mat drawn_from_;              ///< CV_8UC3: of each pixel the colour that it was last drawn for
    cv::Mat grain_;                   ///< CV_32F, -0.5 to 0.5
    cv::Mat picture_;                 ///< the last one
};

}
