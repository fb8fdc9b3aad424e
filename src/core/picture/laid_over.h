#pragma once
// What lies over a frame of the film, or behind what of it is transparent: pictures, each placed, blended and limited.
#include "core/base/opencv_values.h"
#include "core/base/transform.h"
#include "core/picture/canvas.h"
#include "core/project/backdrop.h"

#include <memory>
#include <optional>

namespace frenlo {

struct FrameRequest;

/// How a layer and what lies below it become one, in linear light. over: Porter, Duff 1984; the others as W3C
/// Compositing and Blending Level 1 has them.
enum class Blend
{
    over,
    add,      ///< light upon light: fire, lamps
    multiply, ///< as a slide before another
    screen    ///< as two projectors on one wall, never beyond white
};

struct LayerShadow
{
    double degrees = 60;     ///< to where it falls: 0 to the right, 90 down
    double distance = 0.015; ///< shares of the frame's height
    double softness = 0.01;  ///< sigma of its edge, the same
    double strength = 0.5;   ///< of 1
    Backdrop colour{0, 0, 0};
    bool operator==(const LayerShadow&) const = default;
};

struct LaidOver;

/// What of a layer shows: where another one is, or is bright.
struct Matte
{
    std::shared_ptr<const LaidOver> by;
    bool brightness = false; ///< of it; else its alpha
    bool inverse = false;
};

/// One layer in one frame, as a value.
struct LaidOver
{
    std::shared_ptr<const FrameRequest> picture{}; ///< made at its own size
    Transform to_frame = Transform::eye();         ///< of its pixels to the frame's, coordinates of pixel corners
    double opacity = 1;
    Blend blend = Blend::over;
    bool behind = false;  ///< the frame; else over it
    double soft_edge = 0; ///< how far in from its own edge it comes in, shares of the frame's height
    std::optional<LayerShadow> shadow{};
    std::optional<Matte> matte{};
};
bool operator==(const Matte& a, const Matte& b);
bool operator==(const LaidOver& a, const LaidOver& b);

/// A layer onto what lies below it, pixel by pixel: so many pixels, both premultiplied.
void blend_onto(float* below, const float* layer, int pixels, Blend blend);
/// Below what is there: over, the other way round.
void blend_behind(float* above, const float* layer, int pixels);

/// A picture seen through its layer's transform, in a frame of this size: transparent where it does not reach. where:
/// the part of the frame that is made; outside of it nothing is.
struct PlacedLayer
{
    Canvas pixels;
    cv::Rect where;
};
PlacedLayer placed_layer(const Canvas& picture, const LaidOver& layer, cv::Size frame);

/// What falls below the layer, in the same frame.
PlacedLayer shadow_of(const PlacedLayer& layer, const LayerShadow& shadow, cv::Size frame);

/// How much shows, of each pixel of the frame, by the layer that decides it.
cv::Mat1f matte_shares(const PlacedLayer& by, const Matte& matte, cv::Size frame);

template <>
struct Words<Blend>
{
    static constexpr std::array<std::string_view, 4> words{"over", "add", "multiply", "screen"};
};
template <>
struct Fields<LayerShadow>
{
    static constexpr FieldTable table{
        field("degrees", &LayerShadow::degrees, "To where it falls: 0 to the right, 90 down", {-360, 360}),
        field("distance", &LayerShadow::distance, "Share of the frame's height", {0, 1}),
        field("softness", &LayerShadow::softness, "Of its edge, share of the frame's height", {0, 0.5}),
        field("strength", &LayerShadow::strength, "", {0, 1}),
        field("colour", &LayerShadow::colour, "R, G, B, sRGB", {0, 255}),
    };
};
template <>
struct Fields<Matte>
{
    static constexpr FieldTable table{
        field("by", &Matte::by, ""),
        field("brightness", &Matte::brightness, ""),
        field("inverse", &Matte::inverse, ""),
    };
};
template <>
struct Fields<LaidOver>
{
    static constexpr FieldTable table{
        field("picture", &LaidOver::picture, ""), field("to_frame", &LaidOver::to_frame, ""),
        field("opacity", &LaidOver::opacity, ""), field("blend", &LaidOver::blend, ""),
        field("behind", &LaidOver::behind, ""),   field("soft_edge", &LaidOver::soft_edge, ""),
        field("shadow", &LaidOver::shadow, ""),   field("matte", &LaidOver::matte, ""),
    };
};

}
