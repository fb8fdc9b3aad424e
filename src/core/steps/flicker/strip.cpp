#include "core/steps/flicker/strip.h"

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
            reduced = quantised(to_canvas(reduced)); // what is transparent is black
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
    const auto add_column = [&](PhotoIndex photo, double weight, Canvas& sum) {
        Canvas light_of_column = to_canvas(photos.small[position.at(photo)].col(x));
        const auto& light = light_of(shot.photos[photo.at()]);
        if (corrections == Corrections::applied && deflicker_of(shot) && light) {
            const RowStage stage = row_stage(correction_of(*light), part_of_plane(light_of_column.size(), part));
            for (int y = 0; y < light_of_column.rows; ++y)
                stage(y, 0, 1, light_of_column.ptr<float>(y));
        }
        sum += light_of_column * weight;
    };
    for (std::size_t i = 0; i < photos.at.size(); ++i) {
        Canvas sum(cv::Size(1, each.height), cv::Vec4f());
        for (const Share& share : corrections == Corrections::applied ? standing_in(shot, photos.at[i])
                                                                      : std::vector<Share>{{photos.at[i], 1}})
            add_column(share.photo, share.weight, sum);
        quantised(sum).copyTo(strip.col(int(i)));
    }
    return strip;
}

}
