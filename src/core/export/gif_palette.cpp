#include "core/export/gif_palette.h"

#include "core/base/problem.h"

#include <opencv2/imgproc.hpp>

#include <libimagequant.h>

namespace frenlo {

namespace {

/// What libimagequant is told of the pictures' gamma. With that of sRGB, 0.4545, it compares colours in a space in
/// which dark ones lie closer together than they are coded.
constexpr double counting_dark = 0.7;
constexpr int fast = 6; ///< of libimagequant's 1 to 10: its palettes differ little up to here

void check(liq_error error)
{
    if (error != LIQ_OK)
        throw Failure({"the loop's colours cannot be chosen", {}, "Try a smaller size"});
}

struct Destroy
{
    void operator()(liq_image* i) const { liq_image_destroy(i); }
    void operator()(liq_result* r) const { liq_result_destroy(r); }
};

/// What has a colour, one pixel after another.
cv::Mat opaque_of(const cv::Mat& rgba)
{
    cv::Mat pixels(1, int(rgba.total()), CV_8UC4);
    int n = 0;
    for (int y = 0; y < rgba.rows; ++y)
        for (int x = 0; x < rgba.cols; ++x)
            if (const auto& p = rgba.at<cv::Vec4b>(y, x); p[3] >= 128)
                pixels.at<cv::Vec4b>(0, n++) = {p[0], p[1], p[2], 255};
    return pixels.colRange(0, n);
}

}

void PaletteChooser::Free::operator()(liq_attr* a) const
{
    liq_attr_destroy(a);
}

void PaletteChooser::Free::operator()(liq_histogram* h) const
{
    liq_histogram_destroy(h);
}

PaletteChooser::PaletteChooser(int colours, DarkColours dark)
    : gamma_(dark == DarkColours::count ? counting_dark : 0), settings_(liq_attr_create())
{
    if (!settings_)
        check(LIQ_OUT_OF_MEMORY);
    check(liq_set_max_colors(settings_.get(), colours));
    check(liq_set_speed(settings_.get(), fast));
    seen_.reset(liq_histogram_create(settings_.get()));
}

PaletteChooser::~PaletteChooser() = default;

void PaletteChooser::look_at(const cv::Mat& picture)
{
    // A quarter of a large picture's pixels knows its colours; whole ones, not means, so that small bright things
    // count.
    constexpr double enough = 300'000;
    cv::Mat some = picture, rgba;
    if (double(picture.total()) > enough)
        cv::resize(picture, some, {}, 0.5, 0.5, cv::INTER_NEAREST);
    cv::cvtColor(some, rgba, picture.channels() == 4 ? cv::COLOR_BGRA2RGBA : cv::COLOR_BGR2RGBA);
    if (picture.channels() == 4)
        rgba = opaque_of(rgba);
    if (rgba.empty())
        return;
    const std::unique_ptr<liq_image, Destroy> image(
        liq_image_create_rgba(settings_.get(), rgba.data, rgba.cols, rgba.rows, gamma_));
    if (!image)
        check(LIQ_OUT_OF_MEMORY);
    check(liq_histogram_add_image(seen_.get(), settings_.get(), image.get()));
    empty_ = false;
}

std::vector<cv::Vec3b> PaletteChooser::choose()
{
    if (empty_)
        return {{0, 0, 0}};
    liq_result* chosen = nullptr;
    check(liq_histogram_quantize(seen_.get(), settings_.get(), &chosen));
    const std::unique_ptr<liq_result, Destroy> owner(chosen);
    const liq_palette* palette = liq_get_palette(chosen);
    std::vector<cv::Vec3b> colours;
    for (unsigned i = 0; i < palette->count; ++i) {
        const liq_color& c = palette->entries[i];
        colours.emplace_back(c.b, c.g, c.r);
    }
    seen_.reset(liq_histogram_create(settings_.get()));
    empty_ = true;
    return colours;
}

}
