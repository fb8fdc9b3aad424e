#pragma once
#include "core/base/problem.h"
#include "core/base/transform.h"
#include "core/base/typed_values.h"
#include "core/picture/canvas.h"
#include "core/source/lens.h"
#include "core/source/photo_file.h"

#include <vector>

namespace frenlo {

/// Does something to the pixels [begin, end) of a row of a photo, in place. From one thread at a time, in any order.
using RowStage = GiveRow;

/// The photo, or the part of it that is needed, that a stage is to work on, at whatever size that was made.
struct StagePhoto
{
    cv::Size size; ///< pixels, upright
    /// Of pixels of it, centres on integers, to shares of the film's plane, or of the photo where it is not placed.
    Transform to_plane = Transform::eye();
    Transform to_photo = Transform::eye(); ///< the same to shares of the whole photo, upright
    Lens lens{};                           ///< what was taken out of it: the whole photo is the one without (LensMap)
    /// The whole photo, small, as the stages before this one leave it: for what depends on more than the pixel. Made
    /// when it is asked for; may be empty where nobody has it.
    std::function<Canvas()> overview{};
    /// Any of its rows as the stages before this one leave them, for what is healed from around; may be empty where
    /// nobody has them. Only while the stage is made.
    GiveRow rows{};
    /// Another photo's pixels, as decode.h says, at least so large; may be empty. Only while the stage is made.
    std::function<Result<cv::Mat>(const PhotoFile&, cv::Size at_least)> other{};
};
/// Where such a picture is this part of the plane, in shares of it, and all of the photo.
StagePhoto part_of_plane(cv::Size size, const cv::Rect2d& part = {0, 0, 1, 1});

/// What is done to the pixels of one photo, as values of steps, in a fixed order: before it is placed, in linear light,
/// row by row. A step says beside its struct where in the order it comes, and how it is done:
///     template <> struct PhotoStage<Correction> { static constexpr const char* key = "flicker"; static constexpr int
///     order = stage_order::flicker; }; RowStage row_stage(const Correction&, const StagePhoto&);
/// and, where it may make pixels transparent, static constexpr bool transparent = true; where it may leave all but
/// some places as the photo was taken, static bool in_places(const Correction&); where it shows parts of other photos,
/// static std::vector<PhotoPtr> others(const Correction&).
template <class T>
struct PhotoStage;

/// The order of the pipeline. Light is made even first, a colour becomes transparent, what should not be there is taken
/// out next, tone comes last; then the photo is placed.
namespace stage_order {
inline constexpr int flicker = 10, colour_out = 15, retouch = 20, tone = 30;
}

struct StageType : ValueType
{
    int order;
    bool transparent;                     ///< it may make pixels so
    bool (*in_places)(const void* value); ///< most of the picture stays as it is
    RowStage (*rows)(const void* value, const StagePhoto& photo);
    std::vector<PhotoPtr> (*others)(const void* value); ///< photos that it takes parts from
};

struct OfPicture
{
    using Type = StageType;

    // clang-format off
    template <class T>
    static constexpr bool makes_transparent() { return requires { PhotoStage<T>::transparent; }; }
    // clang-format on
    template <class T>
    static bool in_places([[maybe_unused]] const void* value)
    {
        if constexpr (requires(const T& v) { PhotoStage<T>::in_places(v); })
            return PhotoStage<T>::in_places(*static_cast<const T*>(value));
        else
            return false;
    }
    template <class T>
    static RowStage rows(const void* value, const StagePhoto& photo)
    {
        return row_stage(*static_cast<const T*>(value), photo);
    }
    template <class T>
    static std::vector<PhotoPtr> others([[maybe_unused]] const void* value)
    {
        if constexpr (requires(const T& v) { PhotoStage<T>::others(v); })
            return PhotoStage<T>::others(*static_cast<const T*>(value));
        else
            return {};
    }
    template <class T>
    static constexpr StageType type{value_type<T>(PhotoStage<T>::key),
                                    PhotoStage<T>::order,
                                    makes_transparent<T>(),
                                    in_places<T>,
                                    rows<T>,
                                    others<T>};
    static bool before(const Type& a, const Type& b) { return a.order < b.order; }
};

using StageValues = TypedValues<OfPicture>;

/// Whether one of them may make pixels transparent.
bool make_transparent(const StageValues& stages);
/// Whether one of them works on all of the picture, which makes light of it that is finer than whole numbers.
bool make_smooth_light(const StageValues& stages);
/// All stages, one after the other.
RowStage all_stages(const StageValues& stages, const StagePhoto& photo);
/// The rows with all stages done to them. photo: of them.
CanvasRows staged(CanvasRows rows, const StageValues& stages, const StagePhoto& photo);
/// So large the longer side of an overview is.
inline constexpr int overview_side = 256;
}
