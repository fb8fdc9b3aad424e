#include "core/picture/small_picture.h"

#include "core/picture/picture.h"
#include "core/picture/turned.h"

namespace frenlo {

Result<cv::Mat> small_picture(const SeenPhoto& photo, cv::Size size, const PhotoSource& source,
                              const Transform& from_film)
{
    const cv::Size plane = turned(photo.photo->size, photo.turns);
    PlacedPhoto placed{
        .photo = photo.photo, .turns = photo.turns, .damage = photo.damage, .lens = photo.lens, .fit = Fit::fill};
    if (from_film != Transform::eye())
        placed.placement = Placement{.from_film = from_film, .plane = plane, .crop = {{0, 0}, plane}};
    return render({.size = size, .alpha = true, .parts = {{1, placed}}}, source);
}

}
