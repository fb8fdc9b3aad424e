#include "core/steps/retouch/continued_texture.h"

#include "core/steps/retouch/kriging.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo {

namespace {

constexpr double working = 16; ///< radius, pixels; of a larger mark what is finer than that is the source's

/// Square roots of the light, in which a texture's lights and darks are about alike; and back.
void to_roots(Canvas& pixels)
{
    for (cv::Vec4f& p : pixels)
        for (int c = 0; c < 3; ++c)
            p[c] = std::sqrt(std::max(0.0F, p[c]));
}
void from_roots(Canvas& pixels)
{
    for (cv::Vec4f& p : pixels) {
        for (int c = 0; c < 3; ++c)
            p[c] = std::max(0.0F, p[c]) * std::max(0.0F, p[c]);
        p[3] = std::clamp(p[3], 0.0F, 1.0F);
    }
}

/// Means of what is known, and where they are of more than nothing.
struct Coarse
{
    Canvas pixels;
    cv::Mat1b known;
};

Coarse coarse_of(const Canvas& pixels, const cv::Mat1b& known, double down)
{
    const cv::Size size(std::max(4, int(std::lround(pixels.cols / down))),
                        std::max(4, int(std::lround(pixels.rows / down))));
    cv::Mat1f share;
    Canvas known_only(pixels.size(), cv::Vec4f());
    pixels.copyTo(known_only, known);
    known.convertTo(share, CV_32F, 1 / 255.0);
    Coarse coarse;
    cv::resize(known_only, coarse.pixels, size, 0, 0, cv::INTER_AREA);
    cv::resize(share, share, size, 0, 0, cv::INTER_AREA);
    cv::compare(share, 0.5, coarse.known, cv::CMP_GT);
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x)
            coarse.pixels(y, x) *= 1 / std::max(1e-6F, share(y, x));
    return coarse;
}

/// From outside, what lies inside, of both.
struct Expected
{
    Canvas picture, source;
};

Expected expected(const Canvas& picture, const Canvas& source, const cv::Mat1b& known, const Canvas& surround,
                  const cv::Mat1b& texture_known, const cv::Point& corner, double radius)
{
    Expected made{picture.clone(), source.clone()};
    const double down = radius / working;
    if (down <= 1) {
        krige(std::array{&made.picture, &made.source}, known, {surround, texture_known, corner}, radius);
        return made;
    }
    const Coarse texture = coarse_of(surround, texture_known, down);
    const cv::Point there(int(std::lround(corner.x / down)), int(std::lround(corner.y / down)));
    Coarse coarse = coarse_of(made.picture, known, down), coarse_source = coarse_of(made.source, known, down);
    krige(std::array{&coarse.pixels, &coarse_source.pixels}, coarse.known, {texture.pixels, texture.known, there},
          working);
    cv::resize(coarse.pixels, made.picture, picture.size(), 0, 0, cv::INTER_CUBIC);
    cv::resize(coarse_source.pixels, made.source, picture.size(), 0, 0, cv::INTER_CUBIC);
    return made;
}

/// What a blur takes away.
Canvas fine_part(const Canvas& pixels, double sigma)
{
    Canvas fine;
    cv::GaussianBlur(pixels, fine, {}, sigma);
    cv::subtract(pixels, fine, fine);
    return fine;
}

/// The mean of the squares of the colours.
double power(const Canvas& pixels, const cv::Mat1b& where)
{
    cv::Mat squares;
    cv::multiply(pixels, pixels, squares);
    const cv::Scalar mean = cv::mean(squares, where);
    return mean[0] + mean[1] + mean[2];
}

/// The correlation of the colours of the two, -1 to 1.
double alike(const Canvas& a, const Canvas& b, const cv::Mat1b& where)
{
    cv::Mat product;
    cv::multiply(a, b, product);
    const cv::Scalar both = cv::mean(product, where);
    return (both[0] + both[1] + both[2]) / std::sqrt(std::max(1e-20, power(a, where) * power(b, where)));
}

/// How much of what is fine in the picture that is expected, and of what is the source's own, make a texture as lively
/// as what is round it.
struct Shares
{
    float expected = 1, own = 0;
    float own_at_large = 0; ///< of the source's own lights and darks that are not fine
};

Shares shares_of(double wished, double expected, double own, double like_source)
{
    // What is expected is less lively than the picture, since nobody knows the rest. As much of it as may be made as
    // lively as wished is nearer to the truth than the source's own, which is another place's; but what the source
    // shows where both are known alike, it knows better.
    constexpr double more = 2, most_expected = 3.5, most_own = 0.85; // what is made is measured beside its soft edge
    constexpr double of_like_source = 0.95;
    const double goal = more * wished;
    const double gain = std::clamp(std::sqrt(goal / std::max(1e-12, expected)), 1.0, most_expected);
    const double rest = std::max(0.0, goal - gain * gain * expected);
    const double fill = std::min(most_own, std::sqrt(rest / std::max(1e-12, own)));
    const double sure = std::clamp((like_source - 0.3) / 0.3, 0.0, 1.0);
    return {float(gain + (1 - gain) * sure), float(fill + (of_like_source - fill) * sure),
            float(of_like_source * sure)};
}

}

void continue_texture(Canvas& source, const cv::Mat1b& known, Canvas surround, const cv::Point& corner, double radius)
{
    const cv::Rect part(corner, source.size());
    cv::Mat1b texture_known(surround.size(), std::uint8_t(255));
    known.copyTo(texture_known(part));
    to_roots(surround);
    to_roots(source);
    const Expected e = expected(surround(part), source, known, surround, texture_known, corner, radius);
    const double sigma = 2 * std::max(1.0, radius / working);
    cv::Mat1b inside;
    cv::compare(known, 0, inside, cv::CMP_EQ);
    const Canvas all_fine = fine_part(surround, sigma), fine = fine_part(e.picture, sigma);
    Canvas own;
    cv::subtract(source, e.source, own);
    const Canvas own_fine = fine_part(own, sigma);
    const Shares shares = shares_of(power(all_fine, texture_known), power(fine, inside), power(own_fine, inside),
                                    alike(all_fine(part), fine_part(source, sigma), known));
    for (int y = 0; y < source.rows; ++y)
        for (int x = 0; x < source.cols; ++x)
            source(y, x) = known(y, x) != 0
                               ? surround(part.y + y, part.x + x)
                               : e.picture(y, x) + fine(y, x) * (shares.expected - 1) + own_fine(y, x) * shares.own +
                                     (own(y, x) - own_fine(y, x)) * shares.own_at_large;
    from_roots(source);
}

}
