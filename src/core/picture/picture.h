#pragma once
#include "core/base/problem.h"
#include "core/picture/frame_request.h"
#include "core/project/project.h"

#include <opencv2/core/mat.hpp>

#include <optional>
#include <span>
#include <vector>

namespace frenlo {

/// The natural size of the shot's film: of its dressed frames, or undressed; 0x0 where there is no photo.
cv::Size film_size(const Shot& shot);

/// That of its crop where it is steadied, else that of its first photo in the film; 0x0 where there is none.
cv::Size undressed_size(const Shot& shot);

/// The picture of one photo of the shot as it was shot, set aside or not.
FrameRequest request_for_photo(const Shot& shot, PhotoIndex photo, cv::Size size, Fit fit = Fit::inside);

enum class Corrections
{
    applied, ///< as the film is
    none,    ///< each photo as it was shot, where the film has it
};

/// The picture of the frames that show these photos of the shot, lined up; shares as a schedule gives them.
FrameRequest request_for_shares(const Shot& shot, std::span<const Share> shares, cv::Size size, Fit fit = Fit::inside,
                                Corrections corrections = Corrections::applied);

/// One frame that moves on to another, undressed, its shutter open for this share of the way (long_shutter.h).
FrameRequest moving_on(FrameRequest here, FrameRequest next, double shutter);

/// Makes the picture: the one function behind Sheet, picture, measuring, command line and export. What is seen is what
/// is written; they differ only in size and in where the source takes the pixels from. Each photo is decoded as small
/// as will do, made linear row by row, gets its stages, is placed by one resample; the parts are averaged; then there
/// is one quantisation. Photos to which nothing is done keep every bit. Returns B G R, or B G R A with straight alpha
/// where alpha is kept and there is any, 8 or 16 bit as asked, of exactly request.size.
Result<cv::Mat> render(const FrameRequest& request, const PhotoSource& source);

/// The same before it is quantised.
Result<Canvas> render_canvas(const FrameRequest& request, const PhotoSource& source);

/// The largest size of this shape inside a box, at least 1x1; may be larger than the shape.
cv::Size fitted(cv::Size shape, cv::Size box);

}
