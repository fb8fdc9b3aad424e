#pragma once
// A card: lines of text before, between or after other shots, as values.
#include "core/base/fields.h"
#include "core/base/opencv_values.h"
#include "core/project/project.h"

#include <optional>
#include <string>
#include <string_view>

namespace frenlo {

enum class CardMove
{
    still,
    roll, ///< from below to above, as closing lists do
    cross ///< from right to left
};

enum class CardAlign
{
    left,
    middle,
    right
};

struct TextCard
{
    std::string text;       ///< lines; a tab parts two columns
    std::string typeface{}; ///< a family of the system's; empty: the one that ships
    double size = 8;        ///< of a line's letters, percent of the frame's height
    bool bold = false;
    Backdrop colour{244, 240, 230}; ///< of the text, R G B, sRGB
    CardAlign align = CardAlign::middle;
    double place = 50;   ///< middle of the text, percent down the frame; of one that stays or crosses
    double spacing = 30; ///< between lines, percent of their size
    Backdrop backdrop{24, 28, 32};
    bool see_through = false;        ///< no backdrop: text over something else
    std::optional<Backdrop> below{}; ///< the backdrop goes over into this one towards the bottom
    CardMove move = CardMove::still;
    cv::Size frame{1920, 1080}; ///< that sizes and places count in
    bool operator==(const TextCard&) const = default;
};

inline constexpr std::size_t most_card_text = 20'000; ///< bytes

template <>
struct ShotValue<TextCard>
{
    static constexpr const char* key = "card";
};
/// Null where the shot is none.
inline const TextCard* text_card_of(const Shot& shot)
{
    return shot.steps.find<TextCard>();
}

template <>
struct Words<CardMove>
{
    static constexpr std::array<std::string_view, 3> words{"still", "roll", "cross"};
};
template <>
struct Words<CardAlign>
{
    static constexpr std::array<std::string_view, 3> words{"left", "middle", "right"};
};
template <>
struct Fields<TextCard>
{
    static constexpr FieldTable table{
        required("text", &TextCard::text, "Lines; a tab parts two columns"),
        field("typeface", &TextCard::typeface, "A family of the system's; empty: the one that ships"),
        field("size", &TextCard::size, "Percent of the frame's height", {0.5, 80}),
        field("bold", &TextCard::bold, ""),
        field("colour", &TextCard::colour, "R, G, B, sRGB", {0, 255}),
        field("align", &TextCard::align, ""),
        field("place", &TextCard::place, "Middle of the text, percent down the frame", {0, 100}),
        field("spacing", &TextCard::spacing, "Between lines, percent of their size", {-50, 300}),
        field("backdrop", &TextCard::backdrop, "R, G, B, sRGB", {0, 255}),
        field("see_through", &TextCard::see_through, "No backdrop"),
        field("below", &TextCard::below, "The backdrop goes over into this one towards the bottom", {0, 255}),
        field("move", &TextCard::move, ""),
        field("frame", &TextCard::frame, "Pixels that sizes and places count in", {2, 16'384}),
    };
};

}
