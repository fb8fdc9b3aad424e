#pragma once
#include "core/base/typed_values.h"

#include <opencv2/core/mat.hpp>

namespace frenlo {

/// What is done to the pixels of one photo, as values of steps, in a fixed order. A step says beside its struct where
/// in the order it comes, and how it is done:
///     template <> struct PhotoStage<Correction> { static constexpr const char* key = "flicker"; static constexpr int
///     order = stage_order::flicker; }; cv::Mat apply_stage(const Correction&, const cv::Mat& picture, const
///     cv::Rect2d& part);
/// picture: B G R, 8 or 16 bit, sRGB-encoded; it is not changed. part: what of the film's plane, or of the photo where
/// it is not placed, the picture shows, in shares of it.
template <class T>
struct PhotoStage;

/// Light is made even first, what should not be there is taken out next, tone comes last.
namespace stage_order {
inline constexpr int flicker = 10, retouch = 20, tone = 30;
}

struct StageType : ValueType
{
    int order;
    cv::Mat (*apply)(const void* value, const cv::Mat& picture, const cv::Rect2d& part);
};

struct OfPicture
{
    using Type = StageType;
    template <class T>
    static constexpr StageType type{value_type<T>(PhotoStage<T>::key), PhotoStage<T>::order,
                                    [](const void* v, const cv::Mat& picture, const cv::Rect2d& part) {
                                        return apply_stage(*static_cast<const T*>(v), picture, part);
                                    }};
    static bool before(const Type& a, const Type& b) { return a.order < b.order; }
};

using StageValues = TypedValues<OfPicture>;

inline cv::Mat apply_stages(const StageValues& stages, cv::Mat picture, const cv::Rect2d& part)
{
    for (const auto& s : stages.entries())
        picture = s.type->apply(s.value.get(), picture, part);
    return picture;
}

}
