#pragma once
// What lies over the photos of a shot, or over the Reel, or behind what of them is transparent, as values. Times count
// from the film's first frame.
#include "core/base/ease.h"
#include "core/base/fields.h"
#include "core/base/id.h"
#include "core/base/opencv_values.h"
#include "core/picture/laid_over.h"
#include "core/project/project.h"

#include <optional>
#include <span>
#include <string>
#include <vector>

namespace frenlo {

using LayerId = Id<struct LayerIdTag>;

/// Where a layer is at a time.
struct LayerKey
{
    Seconds at{};
    double x = 0.5, y = 0.5; ///< of its point that it turns about, shares of the frame
    double size = 1;         ///< 1: it just fits inside the frame
    double turn = 0;         ///< degrees clockwise
    double opacity = 1;
    Ease ease = Ease::none; ///< of the way to the next key
    bool operator==(const LayerKey&) const = default;
};

/// What a movement does when its last key has gone by.
enum class MovementEnd
{
    stays,
    again,         ///< from its first key: an exact turn loops
    there_and_back ///< for ever
};

/// What a film in a layer does when it has ended.
enum class FilmEnd
{
    held, ///< its last photo
    again,
    gone
};

enum class StrokeKind
{
    line,   ///< free or straight
    filled, ///< closed, its inside filled
    erase   ///< takes away what was drawn before
};

/// Drawn by hand: a way of points, each x, y and pressure. Places are shares of what is drawn on, the frame or the
/// scene; pressure 0 to 1.
struct Stroke
{
    StrokeKind kind = StrokeKind::line;
    Backdrop colour{34, 38, 42}; ///< R, G, B, sRGB
    double width = 0.01;         ///< at full pressure, share of the height of what is drawn on
    std::vector<double> points{};
    bool operator==(const Stroke&) const = default;
};

/// What was drawn on one photo, and on so many after it.
struct Drawing
{
    PhotoId photo{};
    std::int64_t photos = 1;
    std::vector<Stroke> strokes{};
    bool operator==(const Drawing&) const = default;
};

enum class MatteOf
{
    alpha,
    brightness
};

/// Another layer decides what shows. It may be switched off itself.
struct LayerMatte
{
    LayerId layer{};
    MatteOf of = MatteOf::alpha;
    bool inverse = false;
    bool operator==(const LayerMatte&) const = default;
};

struct Layer
{
    LayerId id{};
    std::string name;
    bool on = true;
    bool locked = false; ///< hands leave it alone
    bool behind = false; ///< the photos, where they are transparent
    bool on_scene =
        false; ///< it keeps its place in the scene, whatever the frame shows of it; else its place in the frame
    std::optional<ShotId> shot{}; ///< whose film it shows; none: what was drawn
    FilmEnd film_end = FilmEnd::held;
    Seconds begin{};              ///< it is there from then
    std::optional<Seconds> end{}; ///< to before then; none: to the end
    Blend blend = Blend::over;
    double pivot_x = 0.5, pivot_y = 0.5; ///< the point that it is placed by and turns about, shares of its picture
    std::vector<LayerKey> keys{};        ///< in order of time; none: it just fits inside the frame
    bool curved = false;                 ///< through its keys without corners
    MovementEnd movement_end = MovementEnd::stays;
    double soft_edge = 0; ///< share of the frame's height
    std::optional<LayerShadow> shadow{};
    std::optional<LayerMatte> matte{};
    std::vector<Drawing> drawings{};
    bool operator==(const Layer&) const = default;
};

struct Layers
{
    std::vector<Layer> all{}; ///< the lowest first
    bool operator==(const Layers&) const = default;
};

inline constexpr Limits layer_place_limits{-100, 100}, layer_size_limits{0.001, 100},
    layer_turn_limits{-360'000, 360'000};
inline constexpr std::size_t most_stroke_points = 100'000; ///< numbers of one stroke

template <>
struct ShotValue<Layers>
{
    static constexpr const char* key = "layers";
};
/// The lowest first; as long as the steps stay as they are.
inline std::span<const Layer> layers_of(const ShotSteps& steps)
{
    const auto* layers = steps.find<Layers>();
    return layers ? std::span<const Layer>(layers->all) : std::span<const Layer>();
}

template <>
struct Words<MovementEnd>
{
    static constexpr std::array<std::string_view, 3> words{"stays", "again", "there-and-back"};
};
template <>
struct Words<FilmEnd>
{
    static constexpr std::array<std::string_view, 3> words{"held", "again", "gone"};
};
template <>
struct Words<StrokeKind>
{
    static constexpr std::array<std::string_view, 3> words{"line", "filled", "erase"};
};
template <>
struct Words<MatteOf>
{
    static constexpr std::array<std::string_view, 2> words{"alpha", "brightness"};
};
template <>
struct Fields<LayerKey>
{
    static constexpr FieldTable table{
        field("at_s", &LayerKey::at, "Of the film, exact"),
        field("x", &LayerKey::x, "Share of the frame", layer_place_limits),
        field("y", &LayerKey::y, "", layer_place_limits),
        field("size", &LayerKey::size, "1: it just fits inside the frame", layer_size_limits),
        field("turn", &LayerKey::turn, "Degrees clockwise", layer_turn_limits),
        field("opacity", &LayerKey::opacity, "", {0, 1}),
        field("ease", &LayerKey::ease, "Of the way to the next key"),
    };
};
template <>
struct Fields<Stroke>
{
    static constexpr FieldTable table{
        field("kind", &Stroke::kind, ""),
        field("colour", &Stroke::colour, "R, G, B, sRGB", {0, 255}),
        field("width", &Stroke::width, "Share of the height of what is drawn on", {0, 2}),
        field("points", &Stroke::points, "x, y, pressure of each, shares of what is drawn on", layer_place_limits),
    };
};
template <>
struct Fields<Drawing>
{
    static constexpr FieldTable table{
        required("photo", &Drawing::photo, "That it was drawn on"),
        field("photos", &Drawing::photos, "So many, from that one on", {1, 1e6}),
        field("strokes", &Drawing::strokes, "In the order they were drawn"),
    };
};
template <>
struct Fields<LayerMatte>
{
    static constexpr FieldTable table{
        required("layer", &LayerMatte::layer, "That decides"),
        field("of", &LayerMatte::of, ""),
        field("inverse", &LayerMatte::inverse, "It shows where that one does not"),
    };
};
template <>
struct Fields<Layer>
{
    static constexpr FieldTable table{
        required("id", &Layer::id, "Who it is, wherever it lies"),
        required("name", &Layer::name, ""),
        field("on", &Layer::on, ""),
        field("locked", &Layer::locked, ""),
        field("behind", &Layer::behind, "The photos, where they are transparent; else over them"),
        field("on_scene", &Layer::on_scene, "It keeps its place in the scene; else in the frame"),
        field("shot", &Layer::shot, "Whose film it shows; absent: what was drawn"),
        field("film_end", &Layer::film_end, "What that film does when it has ended"),
        field("begin_s", &Layer::begin, "Of the film, exact"),
        field("end_s", &Layer::end, "Absent: the film's end"),
        field("blend", &Layer::blend, ""),
        field("pivot_x", &Layer::pivot_x, "That it is placed by and turns about, share of its picture",
              layer_place_limits),
        field("pivot_y", &Layer::pivot_y, "", layer_place_limits),
        field("keys", &Layer::keys, "In order of time"),
        field("curved", &Layer::curved, "Through its keys without corners"),
        field("movement_end", &Layer::movement_end, "When its last key has gone by"),
        field("soft_edge", &Layer::soft_edge, "Share of the frame's height", {0, 0.5}),
        field("shadow", &Layer::shadow, ""),
        field("matte", &Layer::matte, ""),
        field("drawings", &Layer::drawings, ""),
    };
};
template <>
struct Fields<Layers>
{
    static constexpr FieldTable table{field("all", &Layers::all, "The lowest first")};
};
/// What a file may not say: keys in no order, an end before the beginning, too many points.
void check_value(const Layer& layer);
void check_value(const Stroke& stroke);

}
