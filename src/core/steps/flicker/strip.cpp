#include "core/steps/flicker/strip.h"

#include "core/picture/mix.h"
#include "core/picture/step_pictures.h"
#include "core/steps/flicker/brightness.h"
#include "core/steps/flicker/correction.h"
#include "core/steps/flicker/flicker_edits.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <map>

namespace frenlo {

namespace {
const cv::Size each(48, 96); ///< pixels: so many photos fit into memory at once
}

StripPhotos strip_photos(const Shot& shot, const PhotoSource& source, const Job& job)
{
    StripPhotos photos;
    const ToMeasure seen = to_measure(shot);
    constexpr int side = 144;
    photos.at = seen.at;
    photos.small = small_photos(seen.photos, film_transforms(shot, seen.at), side, source, job);
    for (cv::Mat& m : photos.small) {
        cv::Mat reduced(each, CV_8UC3, cv::Scalar::all(128));
        if (!m.empty()) {
            cv::resize(m, reduced, each, 0, 0, cv::INTER_AREA);
            if (reduced.depth() == CV_16U)
                reduced.convertTo(reduced, CV_8U, 1 / 257.0);
        }
        m = reduced;
    }
    return photos;
}

cv::Mat strip_of(const Shot& shot, const StripPhotos& photos, double column, Corrections corrections)
{
    cv::Mat strip(each.height, int(photos.at.size()), CV_8UC3);
    const int x = std::clamp(int(std::floor(column * each.width)), 0, each.width - 1);
    std::map<PhotoIndex, std::size_t> position;
    for (std::size_t i = 0; i < photos.at.size(); ++i)
        position[photos.at[i]] = i;
    const cv::Rect2d part(double(x) / each.width, 0, 1.0 / each.width, 1);
    const auto column_of = [&](PhotoIndex photo) {
        const cv::Mat pixels = photos.small[position.at(photo)].col(x).clone();
        const auto& light = light_of(shot.photos[photo.at()]);
        return corrections == Corrections::applied && deflicker_of(shot) && light
                   ? apply_correction(pixels, correction_of(*light), part)
                   : pixels;
    };
    for (std::size_t i = 0; i < photos.at.size(); ++i) {
        const auto shares = corrections == Corrections::applied ? standing_in(shot, photos.at[i])
                                                                : std::vector<Share>{{photos.at[i], 1}};
        cv::Mat result = column_of(shares.front().photo);
        if (shares.size() > 1) {
            Mixer mixer(result.size(), result.type());
            for (const Share& s : shares)
                mixer.add(column_of(s.photo), s.weight);
            result = mixer.result();
        }
        result.copyTo(strip.col(int(i)));
    }
    return strip;
}

}
