#include "core/source/decoders.h"
#include "core/source/unmultiplied.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cairo.h>
#include <cmath>
#include <librsvg/rsvg.h>
#include <memory>

namespace frenlo {

namespace {

struct FreeSvg
{
    void operator()(RsvgHandle* h) const { g_object_unref(h); }
    void operator()(cairo_surface_t* s) const { cairo_surface_destroy(s); }
    void operator()(cairo_t* c) const { cairo_destroy(c); }
};
template <class T>
using OwnSvg = std::unique_ptr<T, FreeSvg>;

/// Without a place of its own a drawing cannot refer to other files, and nothing is fetched.
OwnSvg<RsvgHandle> drawing_of(std::string_view bytes, std::string& wrong)
{
    GError* error = nullptr;
    OwnSvg<RsvgHandle> handle(
        rsvg_handle_new_from_data(reinterpret_cast<const guint8*>(bytes.data()), bytes.size(), &error));
    if (error) {
        wrong = error->message;
        g_error_free(error);
    }
    return handle;
}

/// As it says itself, 96 pixels an inch; where it says nothing, its view box, else a square.
cv::Size size_of(RsvgHandle* handle)
{
    constexpr double dpi = 96, otherwise = 1000, most = 1 << 20;
    rsvg_handle_set_dpi(handle, dpi);
    gdouble width = 0, height = 0;
    if (rsvg_handle_get_intrinsic_size_in_pixels(handle, &width, &height) == 0 || !(width > 0) || !(height > 0)) {
        gboolean has_width = 0, has_height = 0, has_box = 0;
        RsvgLength w{}, h{};
        RsvgRectangle box{};
        rsvg_handle_get_intrinsic_dimensions(handle, &has_width, &w, &has_height, &h, &has_box, &box);
        const bool boxed = has_box != 0 && box.width > 0 && box.height > 0;
        width = boxed ? box.width : otherwise;
        height = boxed ? box.height : otherwise;
    }
    return {int(std::clamp(std::round(width), 1.0, most)), int(std::clamp(std::round(height), 1.0, most))};
}

Result<DecodedPhoto> decode_svg(std::string_view bytes, cv::Size at_least, const std::filesystem::path& file)
{
    std::string wrong;
    const OwnSvg<RsvgHandle> handle = drawing_of(bytes, wrong);
    if (!handle)
        return unreadable(wrong, file);
    const cv::Size own = size_of(handle.get());
    if (auto too_large = size_problem(own, file))
        return tl::unexpected(std::move(*too_large));
    // So large as is asked for, of its own shape: a drawing has no pixels of its own.
    double by =
        at_least.empty() ? 1 : std::max(double(at_least.width) / own.width, double(at_least.height) / own.height);
    by = std::min(by, 16'384.0 / std::max(own.width, own.height)); // beyond it nobody sees more
    const cv::Size size(std::max(1, int(std::ceil(own.width * by - 1e-6))),
                        std::max(1, int(std::ceil(own.height * by - 1e-6))));
    cv::Mat pixels(size, CV_8UC4, cv::Scalar::all(0));
    const OwnSvg<cairo_surface_t> surface(cairo_image_surface_create_for_data(
        pixels.data, CAIRO_FORMAT_ARGB32, size.width, size.height, int(pixels.step)));
    const OwnSvg<cairo_t> canvas(cairo_create(surface.get()));
    const RsvgRectangle all{0, 0, double(size.width), double(size.height)};
    GError* error = nullptr;
    if (rsvg_handle_render_document(handle.get(), canvas.get(), &all, &error) == 0) {
        wrong = error ? error->message : "it cannot be drawn";
        if (error)
            g_error_free(error);
        return unreadable(wrong, file);
    }
    cairo_surface_flush(surface.get());
    // Cairo's 32 bits are B G R A in memory, as all processors that Debian's amd64 and arm64 run on
    unmultiply<std::uint8_t>(pixels);
    return DecodedPhoto{pixels, {}};
}

std::string look_into_svg(PhotoFile& photo, bool)
{
    std::string wrong;
    const OwnSvg<RsvgHandle> handle = drawing_of(whole_file(photo.file), wrong);
    if (!handle)
        return wrong.empty() ? "it is damaged" : wrong;
    photo.size = size_of(handle.get());
    photo.alpha = true;
    photo.orientation = 1;
    return {};
}

}

Decoder svg_decoder()
{
    return {.format = PhotoFormat::svg,
            .name = "SVG",
            .endings = {".svg"},
            .knows =
                [](std::string_view first) {
                    const std::string_view head = first.substr(0, 4096);
                    const auto start = head.find_first_not_of(" \t\r\n\xEF\xBB\xBF");
                    return start != std::string_view::npos && head[start] == '<' &&
                           head.find("<svg") != std::string_view::npos;
                },
            .decode = decode_svg,
            .look_into = look_into_svg};
}

}
