#pragma once
// Private to export/: a loop's pictures in the colours of its palette.
#include "core/export/gif_code.h"
#include "core/export/nearest_colour.h"

#include <opencv2/core/mat.hpp>

#include <cstdint>
#include <vector>

namespace frenlo {

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
    /// stay: how far a pixel may be from what it was when it was drawn, of 255; 0: it must be the same.
    LoopColouring(std::vector<cv::Vec3b> palette, bool dither, double stay, bool alpha);

    /// Does not depend on how the ones before were written. What stays has no colour yet: a LoopScreen gives it.
    [[nodiscard]] ColouredPicture colour(const cv::Mat& picture);

    [[nodiscard]] const std::vector<cv::Vec3b>& palette() const { return palette_; }
    [[nodiscard]] const ColourDistances& distances() const { return distances_; }
    [[nodiscard]] std::uint8_t through() const { return std::uint8_t(palette_.size()); } ///< the index of no colour

private:
    [[nodiscard]] cv::Mat changes(const cv::Mat& picture) const;
    void keep(const ColouredPicture& made, const cv::Mat& picture);

    std::vector<cv::Vec3b> palette_;
    NearestColour nearest_;
    ColourDistances distances_;
    bool dither_, alpha_;
    double stay_;
    cv::Mat drawn_from_; ///< CV_8UC3: of each pixel the colour that it was last drawn for; empty before the first
    cv::Mat grain_;      ///< CV_32F, -0.5 to 0.5
};

/// What a player's screen shows after each picture of a loop.
class LoopScreen
{
public:
    /// alpha: each picture is drawn over nothing.
    LoopScreen(cv::Size size, std::uint8_t through, bool alpha);

    /// What stays gets the colour that is there, and what has the colour that is there may stay.
    void meet(ColouredPicture& picture) const;
    /// It was written with these colours.
    void show(const ColouredPicture& picture, const std::vector<std::uint8_t>& colours);

private:
    cv::Mat1b shown_; ///< indices
    std::uint8_t through_;
    bool alpha_;
    bool empty_ = true;
};

}
