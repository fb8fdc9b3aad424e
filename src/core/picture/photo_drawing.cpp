#include "core/picture/photo_drawing.h"

#include "core/picture/picture.h"
#include "core/picture/placing.h"
#include "core/picture/scale.h"
#include "core/picture/straight_rows.h"
#include "core/picture/turned.h"
#include "core/picture/warp.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

bool reaches_beyond(const Transform& to_undressed, cv::Size frame, cv::Size undressed)
{
    constexpr double nothing = 1e-6; // what sums of fractions leave
    for (const double x : {-0.5, frame.width - 0.5})
        for (const double y : {-0.5, frame.height - 0.5}) {
            const cv::Point2d at = moved(to_undressed, {x, y});
            if (at.x < -0.5 - nothing || at.y < -0.5 - nothing || at.x > undressed.width - 0.5 + nothing ||
                at.y > undressed.height - 0.5 + nothing)
                return true;
        }
    return false;
}

/// How much of each pixel [begin, end) of a row the undressed frame covers: its edge is a pixel soft.
void covered(const Beside& b, int y, int begin, int end, float* share)
{
    const auto edge = [&](double at, int size) {
        return std::clamp(std::min(at + 0.5, size - 0.5 - at) / b.scale + 0.5, 0.0, 1.0);
    };
    for (int x = begin; x < end; ++x) {
        const cv::Point2d at = moved(b.to_undressed, {double(x), double(y)});
        *share++ = float(edge(at.x, b.undressed.width) * edge(at.y, b.undressed.height));
    }
}

/// What of the photo's own pixels is to be decoded, and where it goes.
struct Path
{
    cv::Size at_least; ///< of the whole photo, upright
    Transform to_photo;
    cv::Rect at;
    std::optional<Beside> beside{};
};

/// From the frame to the photo at full size, all in one transform: where it lies in the frame, the film's plane, the
/// photo.
Path path_of(const PlacedPhoto& p, cv::Size photo, cv::Size frame)
{
    const cv::Rect crop = p.placement ? p.placement->crop : cv::Rect({0, 0}, photo);
    const cv::Size2d box = p.view ? box_size(*p.view, crop.size()) : cv::Size2d(crop.size());
    const Fit fit = p.view && p.view->whole_frame ? Fit::fill : p.fit;
    const Placing place = placing(box, frame, fit);
    const cv::Rect2d shown = share_of(box, place.part);
    const double wide = shown.width / place.at.width, high = shown.height / place.at.height;
    Transform into_crop = pixels_over(shown, place.at.size());
    std::optional<Beside> beside;
    if (p.view) {
        constexpr double half = 0.5; // from centres of pixels to corners, and back
        const Transform to_corners{1, 0, half, 0, 1, half, 0, 0, 1}, to_centres{1, 0, -half, 0, 1, -half, 0, 0, 1};
        into_crop = to_centres * out_of_box(*p.view, crop.size()) * to_corners * into_crop;
        if (reaches_beyond(into_crop, place.at.size(), crop.size()))
            beside = Beside{into_crop, crop.size(), std::max(wide, high)};
    }
    const Transform into_plane = Transform{1, 0, double(crop.x), 0, 1, double(crop.y), 0, 0, 1} * into_crop;
    return {{int(std::ceil(photo.width / wide)), int(std::ceil(photo.height / high))},
            p.placement ? p.placement->from_film * into_plane : into_plane,
            place.at,
            beside};
}

/// As a stage may ask for it: means of three by three of its pixels, of encoded values. Nobody looks at it.
Canvas overview_of(const cv::Mat& pixels, const Lens& lens)
{
    const double by = std::min(1.0, double(overview_side) / std::max(pixels.cols, pixels.rows));
    const cv::Size size(std::max(1, int(std::lround(pixels.cols * by))),
                        std::max(1, int(std::lround(pixels.rows * by))));
    cv::Mat some, small;
    cv::resize(pixels, some, size * 3, 0, 0, cv::INTER_NEAREST);
    cv::resize(some, small, size, 0, 0, cv::INTER_AREA);
    const CanvasRows straight = straight_rows(linear_rows(small), lens);
    Canvas overview(size);
    for (int y = 0; y < size.height; ++y)
        straight.row(y, 0, size.width, overview.ptr<float>(y));
    return overview;
}

}

Result<DrawnPhoto> drawing_of(const PlacedPhoto& p, cv::Size frame, Depth result, const PhotoSource& source)
{
    if (p.photo->size.empty())
        return problem("the photo cannot be read", p.photo->file, "Copy it from the card again, or leave it out");
    const cv::Size photo = turned(p.photo->size, p.turns);
    const Path path = path_of(p, photo, frame);
    auto pixels = source.pixels(*p.photo, turned(path.at_least, p.turns), p.damage);
    if (!pixels)
        return tl::unexpected(std::move(pixels.error()));
    const cv::Mat upright = turned(*pixels, p.turns);
    const Transform to_photo = pixels_over({{0, 0}, cv::Size2d(photo)}, upright.size());
    StagePhoto shown = part_of_plane(upright.size());
    if (p.placement)
        shown.to_plane = part_of_plane(p.placement->plane).to_plane * p.placement->from_film.inv() * to_photo;
    shown.lens = p.lens;
    shown.overview = [upright, lens = p.lens] { return overview_of(upright, lens); };
    auto missing = std::make_shared<MissingPart>();
    shown.other = [&source, missing](const PhotoFile& file, cv::Size at_least) {
        auto other = source.pixels(file, at_least, Damage::accept);
        if (!other && !source.what_there_is())
            missing->note(other.error());
        return other;
    };
    return DrawnPhoto{.pixels = upright,
                      .at = path.at,
                      .to_pixels = pixels_over({{0, 0}, cv::Size2d(upright.size())}, photo) * path.to_photo,
                      .shown = std::move(shown),
                      .edges = p.placement ? p.placement->edges : Edges::go_on,
                      .beside = path.beside,
                      .photo = &p,
                      .result = result,
                      .missing = std::move(missing)};
}

bool untouched(const DrawnPhoto& d, const FrameRequest& request)
{
    const bool kept = d.pixels.depth() != CV_32F && (d.pixels.channels() == 3 || (request.alpha && !d.photo->backdrop));
    return kept && !d.beside && d.pixels.size() == request.size && d.photo->stages.entries().empty() &&
           d.photo->lens.nothing() && d.at == cv::Rect({0, 0}, request.size) && d.to_pixels == Transform::eye();
}

std::optional<cv::Rect2d> plainly_scaled(const DrawnPhoto& d, const FrameRequest& request)
{
    if (d.pixels.type() != CV_8UC3 || d.beside || request.depth != Depth::eight || !d.photo->stages.entries().empty() ||
        !d.photo->lens.nothing() || d.at != cv::Rect({0, 0}, request.size))
        return std::nullopt;
    return scaled_part(d.pixels.size(), d.to_pixels, request.size);
}

namespace {

bool has_alpha(const DrawnPhoto& d)
{
    return d.pixels.channels() == 4 || make_transparent(d.photo->stages);
}

}

bool stays_transparent(const DrawnPhoto& d)
{
    return has_alpha(d) && !d.photo->backdrop;
}

namespace {

/// In linear light, without what the lens did: all of the photo made as small as the frame lets it be before, since a
/// pixel that is bent costs several that are only scaled.
Smaller straightened(const DrawnPhoto& d)
{
    CanvasRows rows = linear_rows(d.pixels, d.result);
    if (d.photo->lens.nothing())
        return {std::move(rows), d.to_pixels};
    const cv::Point2d middle(d.at.width / 2.0, d.at.height / 2.0), here = moved(d.to_pixels, middle);
    const double covered = std::min(cv::norm(moved(d.to_pixels, middle + cv::Point2d(1, 0)) - here),
                                    cv::norm(moved(d.to_pixels, middle + cv::Point2d(0, 1)) - here));
    constexpr double spare = 1.25; // pixels a pixel of the frame that are left
    const double by = covered / spare;
    const cv::Size whole = rows.size;
    const cv::Size size(int(std::ceil(whole.width / by)), int(std::ceil(whole.height / by)));
    if (!(by > 1.1) || size.width < 2 || size.height < 2) // and where it is no number
        return {straight_rows(std::move(rows), d.photo->lens), d.to_pixels};
    return {straight_rows(scaled_rows(rows, cv::Rect({0, 0}, whole), size), d.photo->lens),
            pixels_over({{0, 0}, cv::Size2d(size)}, whole) * d.to_pixels};
}

/// The photo in linear light with all done to its pixels, and how the frame lies in it.
Smaller prepared(const DrawnPhoto& d)
{
    Smaller straight = straightened(d);
    if (d.photo->stages.entries().empty())
        return straight;
    const Smaller small = smaller_first(straight.rows, straight.to_source, d.at.size(), d.edges);
    StagePhoto shown = d.shown;
    const Transform to_decoded = d.to_pixels * small.to_source.inv();
    shown.size = small.rows.size;
    shown.to_plane = d.shown.to_plane * to_decoded;
    shown.to_photo = d.shown.to_photo * to_decoded;
    return {staged(small.rows, d.photo->stages, shown), small.to_source};
}

/// What lies behind and beside the photo: one colour, or a picture.
class Behind
{
public:
    Behind(const DrawnPhoto& d, cv::Size frame) : line_(1, frame.width, cv::Vec4f())
    {
        const bool bars = d.at.size() != frame || d.beside;
        if (bars && d.photo->view && d.photo->view->beyond == Beyond::blurred)
            picture_ = out_of_focus(d.pixels, frame);
        else if (!stays_transparent(d))
            lay_over(line_.ptr<float>(0), frame.width, d.photo->backdrop.value_or(Backdrop{0, 0, 0}));
    }
    /// From the pixel x of row y on.
    [[nodiscard]] const float* row(int y, int x) const
    {
        return (picture_.empty() ? line_.ptr<float>(0) : picture_.ptr<float>(y)) + 4 * std::ptrdiff_t(x);
    }

private:
    /// The photo over the whole frame, blurred: made small, which is what blurs it, and large again.
    static Canvas out_of_focus(const cv::Mat& pixels, cv::Size frame)
    {
        constexpr int side = 48;
        const cv::Size small = fitted(frame, {side, side});
        const Placing part = placing(cv::Size2d(pixels.size()), small, Fit::fill);
        const cv::Rect2d shown = share_of(cv::Size2d(pixels.size()), part.part);
        cv::Mat some;
        cv::resize(pixels(cv::Rect(cv::Point(shown.tl()), cv::Size(shown.size())) & cv::Rect({0, 0}, pixels.size())),
                   some, small, 0, 0, cv::INTER_AREA);
        Canvas light = to_canvas(some), large;
        cv::GaussianBlur(light, light, {}, 2);
        cv::resize(light, large, frame, 0, 0, cv::INTER_CUBIC);
        return large;
    }

    Canvas line_;
    Canvas picture_;
};

}

std::optional<Problem> draw(const DrawnPhoto& d, cv::Size frame, const TakeRow& take)
{
    const Behind behind(d, frame);
    if (d.at.size() != frame) {
        const auto fill = [&](int y, int begin, int end) {
            if (begin < end)
                take(y, begin, end, behind.row(y, begin));
        };
        for (int y = 0; y < frame.height; ++y)
            if (y < d.at.y || y >= d.at.br().y) {
                fill(y, 0, frame.width);
            } else {
                fill(y, 0, d.at.x);
                fill(y, d.at.br().x, frame.width);
            }
    }
    const bool opaque = has_alpha(d) && d.photo->backdrop;
    std::vector<float> mixed(opaque || d.beside ? std::size_t(d.at.width) * 4 : 0),
        share(d.beside ? std::size_t(d.at.width) : 0);
    const auto [rows, to_source] = prepared(d);
    warp(rows, to_source, d.at.size(), d.edges, [&](int y, int begin, int end, const float* drawn) {
        if (!mixed.empty()) {
            std::copy_n(drawn, std::ptrdiff_t(end - begin) * 4, mixed.data());
            drawn = mixed.data();
        }
        if (opaque)
            lay_over(mixed.data(), end - begin, *d.photo->backdrop);
        if (d.beside) {
            covered(*d.beside, y, begin, end, share.data());
            const float* other = behind.row(y + d.at.y, begin + d.at.x);
            for (int i = 0; i < (end - begin) * 4; ++i)
                mixed[std::size_t(i)] = other[i] + share[std::size_t(i) / 4] * (mixed[std::size_t(i)] - other[i]);
        }
        take(y + d.at.y, begin + d.at.x, end + d.at.x, drawn);
    });
    return d.missing->problem();
}

}
