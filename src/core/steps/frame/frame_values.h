#pragma once
// How the frame of a shot is dressed, as values.
#include "core/base/ease.h"
#include "core/base/fields.h"
#include "core/picture/frame_view.h"
#include "core/project/project.h"

#include <optional>
#include <string>
#include <string_view>

namespace frenlo {

/// The shape of a film's frame: a ratio of its sides, or its size in pixels.
struct FilmShape
{
    Fraction ratio{0}; ///< width by height; 0: as the photos
    cv::Size pixels;   ///< exactly; empty: as large as the photos give
    [[nodiscard]] bool as_photos() const { return ratio == Fraction(0) && pixels.empty(); }
    /// Width by height; 0 for as the photos.
    [[nodiscard]] double value() const
    {
        return pixels.empty() ? ratio.approx() : double(pixels.width) / double(pixels.height);
    }
    bool operator==(const FilmShape&) const = default;
};

/// "16:9", "2.39:1", "2.39", "1080x1350", "as-photos". Nothing for anything else, and for sides beyond 1 to 1000.
std::optional<FilmShape> parse_shape(std::string_view text);
/// The same as it is written: read back by parse_shape as the same.
std::string shape_text(const FilmShape& shape);

inline constexpr int most_frame_side = 16'384;

enum class FrameFit
{
    fill,  ///< the photo fills the frame; what does not fit is cut
    inside ///< all of the photo, with bars
};

/// Bars of another shape over the picture, as in a cinema.
struct Letterbox
{
    Fraction shape{239, 100};
    Seconds easing{}; ///< they come in, and go, in this time; 0: they are always there
    bool operator==(const Letterbox&) const = default;
};

/// A band of focus, and lens-like blur beyond it, as of a small thing seen from near.
struct Miniature
{
    double x = 0.5, y = 0.5; ///< the band's middle, shares of the frame
    double width = 0.2;      ///< that is wholly sharp, share of the frame's height
    double angle = 0;        ///< degrees that the band is turned clockwise
    double softness = 0.3;   ///< from sharp to the most blurred, share of the frame's height
    double blur = 0.015;     ///< radius of the disc that a bright point becomes there, share of the frame's height
    double stronger = 0.25;  ///< how much more colour and contrast
    bool operator==(const Miniature&) const = default;
};

/// Film grain.
struct Grain
{
    double strength = 0.3; ///< of 1
    bool held = false;     ///< with the photo; else new on every frame
    bool operator==(const Grain&) const = default;
};

/// From or to one colour.
struct Fades
{
    Seconds in{}, out{};
    Backdrop colour{0, 0, 0};
    bool operator==(const Fades&) const = default;
};

/// A numbered box set at a photo: between views the film drifts.
struct DriftView
{
    cv::Rect2d box{0, 0, 1, 1}; ///< shares of the undressed frame
    double turn = 0;            ///< degrees clockwise
    bool operator==(const DriftView&) const = default;
};

struct Framing
{
    FilmShape shape{};
    FrameFit fit = FrameFit::fill;
    Beyond beyond = Beyond::backdrop;
    std::optional<cv::Rect2d> crop{}; ///< shares of the undressed frame; none: as much of its middle as the shape has
    double straighten = 0;            ///< degrees that the photos are turned clockwise
    double uprights = 0;              ///< of what leans together towards its top: FrameView
    Ease ease = Ease::none;           ///< of the drift
    double ease_strength = 1;         ///< of 1
    std::optional<Letterbox> bars{};
    std::optional<Miniature> miniature{};
    std::optional<Grain> grain{};
    Fades fades{};

    [[nodiscard]] bool nothing() const { return *this == Framing(); }
    bool operator==(const Framing&) const = default;
};

/// A view with its photo, of a dress that is not in hand.
struct KeptView
{
    PhotoId photo{};
    DriftView view{};
    bool operator==(const KeptView&) const = default;
};

/// How the shot is dressed for another shape.
struct OtherDress
{
    Framing framing{};
    std::vector<KeptView> views{};
    bool operator==(const OtherDress&) const = default;
};

/// Beside the dress in hand; each of another shape.
struct OtherDresses
{
    std::vector<OtherDress> all{};
    bool operator==(const OtherDresses&) const = default;
};

inline constexpr Limits straighten_limits{-45, 45}, uprights_limits{-0.5, 0.5}, turn_limits{-180, 180},
    share_limits{-20, 20};

template <>
struct PhotoValue<DriftView>
{
    static constexpr const char* key = "view";
};
template <>
struct ShotValue<Framing>
{
    static constexpr const char* key = "frame";
};

template <>
struct ShotValue<OtherDresses>
{
    static constexpr const char* key = "other_frames";
};

/// Null where it is none.
inline const DriftView* view_of(const ShotPhoto& photo)
{
    return photo.steps.find<DriftView>();
}
/// What nothing was said of where nothing was.
inline Framing framing_of(const Shot& shot)
{
    return shot.steps.get<Framing>();
}
/// The photos that have a view, in the shot's order.
std::vector<PhotoIndex> views_of(const Shot& shot);

template <>
struct Words<FrameFit>
{
    static constexpr std::array<std::string_view, 2> words{"fill", "inside"};
};
template <>
struct Fields<FilmShape>
{
    static constexpr FieldTable table{
        field("ratio", &FilmShape::ratio, "Width by height; 0: as the photos"),
        field("pixels", &FilmShape::pixels, "Exactly so large; 0, 0: as the photos give", {0, most_frame_side}),
    };
};
template <>
struct Fields<Letterbox>
{
    static constexpr FieldTable table{
        field("shape", &Letterbox::shape, "Width by height of what they leave"),
        field("easing_s", &Letterbox::easing, "In which they come in, and go"),
    };
};
template <>
struct Fields<Miniature>
{
    static constexpr FieldTable table{
        field("x", &Miniature::x, "Middle of the sharp band, share of the frame", {-1, 2}),
        field("y", &Miniature::y, "", {-1, 2}),
        field("width", &Miniature::width, "Of the sharp band, share of the frame's height", {0, 2}),
        field("angle", &Miniature::angle, "Degrees clockwise", {-180, 180}),
        field("softness", &Miniature::softness, "From sharp to blurred, share of the frame's height", {0.001, 2}),
        field("blur", &Miniature::blur, "Radius of a bright point's disc, share of the frame's height", {0, 0.1}),
        field("stronger", &Miniature::stronger, "Colour and contrast", {0, 1}),
    };
};
template <>
struct Fields<Grain>
{
    static constexpr FieldTable table{
        field("strength", &Grain::strength, "", {0, 1}),
        field("held", &Grain::held, "With the photo; else new on every frame"),
    };
};
template <>
struct Fields<Fades>
{
    static constexpr FieldTable table{
        field("in_s", &Fades::in, ""),
        field("out_s", &Fades::out, ""),
        field("colour", &Fades::colour, "R, G, B, sRGB", {0, 255}),
    };
};
template <>
struct Fields<DriftView>
{
    static constexpr FieldTable table{
        field("box", &DriftView::box, "Shares of the undressed frame: x, y, width, height", share_limits),
        field("turn", &DriftView::turn, "Degrees clockwise", turn_limits),
    };
};
template <>
struct Fields<Framing>
{
    static constexpr FieldTable table{
        field("shape", &Framing::shape, ""),
        field("fit", &Framing::fit, "Whether the photo fills the frame or lies inside it"),
        field("beyond", &Framing::beyond, "What is seen beside the photo"),
        field("crop", &Framing::crop, "Shares of the undressed frame; absent: its middle", share_limits),
        field("straighten", &Framing::straighten, "Degrees that the photos are turned clockwise", straighten_limits),
        field("uprights", &Framing::uprights, "How much what leans together towards its top is drawn apart there",
              uprights_limits),
        field("ease", &Framing::ease, "Of the drift through views"),
        field("ease_strength", &Framing::ease_strength, "", {0, 1}),
        field("bars", &Framing::bars, "Over the picture"),
        field("miniature", &Framing::miniature, ""),
        field("grain", &Framing::grain, ""),
        field("fades", &Framing::fades, ""),
    };
};

template <>
struct Fields<KeptView>
{
    static constexpr FieldTable table{
        required("photo", &KeptView::photo, ""),
        required("view", &KeptView::view, ""),
    };
};
template <>
struct Fields<OtherDress>
{
    static constexpr FieldTable table{
        required("frame", &OtherDress::framing, ""),
        field("views", &OtherDress::views, ""),
    };
};
template <>
struct Fields<OtherDresses>
{
    static constexpr FieldTable table{field("all", &OtherDresses::all, "Each of another shape")};
};

}
