#pragma once
#include "core/cards/card_values.h"

#include <opencv2/core/types.hpp>

#include <string>
#include <vector>

namespace frenlo {

/// A card as a drawing: its letters are outlines, so that it is sharp at every size and the same on every machine.
struct DrawnCard
{
    std::string svg;
    cv::Size size; ///< of the drawing: of a card that moves, larger than the frame
};

/// By Pango and Cairo, in the card's frame: bidirectional text, combining marks and letters of other typefaces where
/// the one that is asked for lacks them. Lines that are too long are broken between words, or within them where one
/// does not fit. Throws Failure.
DrawnCard draw_card(const TextCard& card);

/// The families that can be had, the one that ships first.
std::vector<std::string> typefaces();

}
