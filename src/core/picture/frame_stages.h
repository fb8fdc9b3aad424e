#pragma once
#include "core/base/typed_values.h"
#include "core/picture/canvas.h"

namespace frenlo {

/// What is done to a whole frame of the film, behind all placing and mixing, as values of steps, in a fixed order, in
/// linear light. A step says beside its struct where in the order it comes, and how it is done:
///     template <> struct FrameStage<Fade> { static constexpr const char* key = "fade"; static constexpr int order =
///     frame_order::fade; }; void frame_stage(const Fade&, Canvas&);
template <class T>
struct FrameStage;

/// The order of the pipeline.
namespace frame_order {
inline constexpr int miniature = 10, layers = 20, bars = 30, grain = 40, fade = 50;
}

struct FrameStageType : ValueType
{
    int order;
    void (*apply)(const void* value, Canvas& frame);
};

struct OfFrame
{
    using Type = FrameStageType;
    template <class T>
    static constexpr FrameStageType type{
        value_type<T>(FrameStage<T>::key), FrameStage<T>::order,
        [](const void* v, Canvas& frame) { frame_stage(*static_cast<const T*>(v), frame); }};
    static bool before(const Type& a, const Type& b) { return a.order < b.order; }
};

using FrameStages = TypedValues<OfFrame>;

}
