#pragma once
#include "core/base/problem.h"
#include "core/picture/placement.h"
#include "core/picture/stages.h"
#include "core/project/project.h"
#include "core/source/photo_source.h"

#include <opencv2/core/mat.hpp>

#include <array>
#include <optional>
#include <span>
#include <vector>

namespace frenlo {

/// How a photo meets a frame of another shape.
enum class Fit
{
    inside, ///< the whole photo, bars of the backdrop beside it
    fill    ///< the whole frame, what does not fit is cut evenly at both sides
};

enum class Depth
{
    eight,
    sixteen
};

/// Everything that a picture depends on, as a value: equal requests give equal pictures, so it is the key of caches.
struct PictureRequest
{
    PhotoPtr photo;
    cv::Size size; ///< of the picture to make, pixels
    Fit fit = Fit::inside;
    int turns = 0; ///< of the photo, quarters clockwise, 0 to 3
    Damage damage = Damage::refuse;
    Backdrop backdrop{0, 0, 0};
    Depth depth = Depth::eight;
    std::optional<Placement> placement{}; ///< where the shot is steadied; in place of the whole photo
    StageValues stages{}; ///< what steps do to it (stages.h); by place over the film's plane, or the photo
    double weight = 1;    ///< of this photo where several are mixed
    std::vector<PictureRequest> mixed_with{}; ///< of the same size and depth; all weights sum to 1
};

template <>
struct Fields<PictureRequest>
{
    static constexpr std::tuple table{
        field("photo", &PictureRequest::photo, ""),
        field("size", &PictureRequest::size, ""),
        field("fit", &PictureRequest::fit, ""),
        field("turns", &PictureRequest::turns, ""),
        field("damage", &PictureRequest::damage, ""),
        field("backdrop", &PictureRequest::backdrop, ""),
        field("depth", &PictureRequest::depth, ""),
        field("lining", &PictureRequest::placement, ""),
        field("stages", &PictureRequest::stages, ""),
        field("weight", &PictureRequest::weight, ""),
        field("mixed_with", &PictureRequest::mixed_with, ""),
    };
};
inline bool operator==(const PictureRequest& a, const PictureRequest& b)
{
    return all_fields(a) && same_fields(a, b);
}

/// The natural size of the shot's film: that of its crop where it is steadied, else that of its first photo in the
/// film; 0x0 where there is none.
cv::Size film_size(const Shot& shot);

/// The picture of one photo of the shot as it was shot, set aside or not.
PictureRequest request_for_photo(const Shot& shot, PhotoIndex photo, cv::Size size, Fit fit = Fit::inside);

enum class Corrections
{
    applied, ///< as the film is
    none,    ///< each photo as it was shot, where the film has it
};

/// The picture of the frames that show these photos of the shot, lined up; shares as a schedule gives them.
PictureRequest request_for_shares(const Shot& shot, std::span<const Share> shares, cv::Size size, Fit fit = Fit::inside,
                                  Corrections corrections = Corrections::applied);

/// Makes the picture: the one function behind Sheet, picture, command line and export. What is seen is what is written;
/// screen and export differ only in size and in where the source takes the pixels from.
/// Photos that are mixed are averaged in linear light. Returns B G R, 8 or 16 bit as asked, of exactly request.size.
/// One resample: area average down, Lanczos up.
Result<cv::Mat> render(const PictureRequest& request, const PhotoSource& source);

/// The largest size of this shape inside a box, at least 1x1; may be larger than the shape.
cv::Size fitted(cv::Size shape, cv::Size box);

}
