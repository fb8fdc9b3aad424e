#include "core/steps/tone/tone_scopes.h"

#include "core/source/transfer.h"
#include "core/steps/tone/seen_before_tone.h"
#include "core/steps/tone/tone_blend.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

constexpr int side = 480;

double luminance(const cv::Vec4f& p)
{
    return 0.0722 * p[0] + 0.7152 * p[1] + 0.2126 * p[2];
}

std::vector<double> histogram_of(const Canvas& photo)
{
    std::vector<double> histogram(ToneScopes::bins);
    constexpr double per_stop = ToneScopes::bins / (ToneScopes::highest - ToneScopes::lowest);
    for (const cv::Vec4f& p : photo) {
        const double stops = std::log2(std::max(luminance(p), 1e-9) / middle_grey);
        const auto bin = int(std::floor((stops - ToneScopes::lowest) * per_stop));
        if (bin >= 0 && bin < ToneScopes::bins)
            histogram[std::size_t(bin)] += 1.0 / double(photo.total());
    }
    return histogram;
}

void find_clipped(const Canvas& photo, ToneScopes& scopes)
{
    static const double black = linear_of(0.5 / 255), white = linear_of(254.5 / 255);
    std::int64_t dark = 0, bright = 0;
    for (const cv::Vec4f& p : photo) {
        dark += std::min({p[0], p[1], p[2]}) < float(black);
        bright += std::max({p[0], p[1], p[2]}) >= float(white);
    }
    scopes.black = double(dark) / double(photo.total());
    scopes.white = double(bright) / double(photo.total());
}

cv::Mat1f waveform_of(const Canvas& photo)
{
    const int columns = std::min(ToneScopes::columns, photo.cols);
    cv::Mat1f waveform(ToneScopes::levels, columns, 0.0F);
    for (int y = 0; y < photo.rows; ++y)
        for (int x = 0; x < photo.cols; ++x) {
            const double encoded = encoded_of(std::clamp(luminance(photo(y, x)), 0.0, 1.0));
            const int row = std::min(int((1 - encoded) * ToneScopes::levels), ToneScopes::levels - 1);
            waveform(row, x * columns / photo.cols) += float(columns) / float(photo.total());
        }
    return waveform;
}

}

ToneScopes tone_scopes(const Shot& shot, PhotoIndex photo, const PhotoSource& source)
{
    const auto before =
        small_before_tone(seen_photo(shot.photos.at(photo.at())), stages_before_tone(shot, photo), side, source);
    if (!before)
        return {};
    ToneScopes scopes;
    scopes.histogram = histogram_of(*before);
    const Canvas after = toned(*before, tone_of(shot, photo));
    find_clipped(after, scopes);
    scopes.waveform = waveform_of(after);
    return scopes;
}

}
