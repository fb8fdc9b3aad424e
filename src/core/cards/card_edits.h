#pragma once
#include "core/cards/card_values.h"

#include <functional>
#include <span>

namespace frenlo {

/// A card as a shot of its own, this long, at this place among the shots (its end for one past the last). Its frame has
/// the shape of the first shot that is none.
Project add_card(const Project& project, const TextCard& card, const std::string& name, Seconds length,
                 ShotIndex before);

/// Changes a card; its drawing, and how it moves, follow. Nothing where the shot is none.
Project change_card(const Project& project, ShotIndex shot, const std::function<void(TextCard&)>& change);

/// How long it lasts; at least one frame.
Project set_card_length(const Project& project, ShotIndex shot, Seconds length);
Seconds card_length(const Project& project, const Shot& shot);

/// Cards to begin with.
struct CardPreset
{
    const char* name; ///< "title"
    TextCard card;
    Seconds length;
};
std::span<const CardPreset> card_presets();

}
