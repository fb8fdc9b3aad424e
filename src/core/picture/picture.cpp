#include "core/picture/picture.h"

#include "core/picture/placing.h"
#include "core/picture/scale.h"
#include "core/picture/step_pictures.h"
#include "core/picture/turned.h"
#include "core/picture/warp.h"

#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace frenlo {

cv::Size film_size(const Shot& shot)
{
    const cv::Size undressed = undressed_size(shot);
    for (const StepPictures& step : step_pictures())
        if (step.dressed_size && !undressed.empty())
            if (const auto size = step.dressed_size(shot, undressed))
                return *size;
    return undressed;
}

cv::Size undressed_size(const Shot& shot)
{
    for (const StepPictures& step : step_pictures())
        if (step.film_size)
            if (const auto size = step.film_size(shot))
                return *size;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shown.size(); ++i)
        if (shown[i] && !shot.photos[i].photo->size.empty())
            return seen_size(shot.photos[i]);
    return {};
}

namespace {

PlacedPhoto as_shot(const Shot& shot, PhotoIndex photo, Fit fit)
{
    const ShotPhoto& p = shot.photos.at(photo.at());
    return {.photo = p.photo,
            .turns = p.turns,
            .damage = p.what_there_is ? Damage::accept : Damage::refuse,
            .fit = p.fill ? Fit::fill : fit,
            .backdrop = shot.backdrop};
}

PlacedPhoto as_in_film(const Shot& shot, PhotoIndex photo, Fit fit, Corrections corrections)
{
    PlacedPhoto placed = as_shot(shot, photo, fit);
    const ShotPhoto& p = shot.photos[photo.at()];
    placed.placement = placement_of(shot, p);
    if (corrections == Corrections::applied)
        placed.stages = stages_of(shot, photo);
    return placed;
}

/// With photos in place of those that others stand in for.
std::vector<Share> as_seen(const Shot& shot, std::span<const Share> shares)
{
    std::vector<Share> seen;
    for (const Share& share : shares)
        for (const Share& other : standing_in(shot, share.photo)) {
            const auto same =
                std::find_if(seen.begin(), seen.end(), [&](const Share& s) { return s.photo == other.photo; });
            if (same == seen.end())
                seen.push_back({other.photo, share.weight * other.weight});
            else
                same->weight += share.weight * other.weight;
        }
    return seen;
}

}

FrameRequest request_for_photo(const Shot& shot, PhotoIndex photo, cv::Size size, Fit fit)
{
    return {.size = size, .parts = {{1, as_shot(shot, photo, fit)}}};
}

FrameRequest request_for_shares(const Shot& shot, std::span<const Share> shares, cv::Size size, Fit fit,
                                Corrections corrections)
{
    FrameRequest request{.size = size};
    for (const Share& share :
         corrections == Corrections::applied ? as_seen(shot, shares) : std::vector<Share>(shares.begin(), shares.end()))
        request.parts.push_back({share.weight, as_in_film(shot, share.photo, fit, corrections)});
    return request;
}

cv::Size fitted(cv::Size shape, cv::Size box)
{
    if (shape.empty() || box.empty())
        return {1, 1};
    const double scale = std::min(double(box.width) / shape.width, double(box.height) / shape.height);
    return {std::clamp(static_cast<int>(std::lround(shape.width * scale)), 1, box.width),
            std::clamp(static_cast<int>(std::lround(shape.height * scale)), 1, box.height)};
}

namespace {

/// Pixels of the frame against the edges of what there is to see.
struct Beside
{
    Transform to_undressed; ///< of pixels in the frame to those of the undressed frame, centres on integers
    cv::Size undressed;
    double scale = 1; ///< pixels of that for one of the frame
};

/// A photo that was decoded, and how it comes into the frame.
struct Drawing
{
    cv::Mat pixels;      ///< upright
    cv::Rect at;         ///< where it lies in the frame
    Transform to_pixels; ///< of pixels there to those decoded
    StagePhoto shown;    ///< those decoded, as stages see them
    Edges edges = Edges::go_on;
    std::optional<Beside> beside{}; ///< where it reaches beyond the undressed frame
    const PlacedPhoto* photo = nullptr;
    Depth result = Depth::eight;
};

bool reaches_beyond(const Transform& to_undressed, cv::Size frame, cv::Size undressed)
{
    constexpr double nothing = 1e-6; // what sums of fractions leave
    for (const double x : {-0.5, frame.width - 0.5})
        for (const double y : {-0.5, frame.height - 0.5}) {
            const cv::Vec3d at = to_undressed * cv::Vec3d(x, y, 1);
            if (at[0] < -0.5 - nothing || at[1] < -0.5 - nothing || at[0] > undressed.width - 0.5 + nothing ||
                at[1] > undressed.height - 0.5 + nothing)
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
        const cv::Vec3d at = b.to_undressed * cv::Vec3d(x, y, 1);
        *share++ = float(edge(at[0], b.undressed.width) * edge(at[1], b.undressed.height));
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
Canvas overview_of(const cv::Mat& pixels)
{
    const double by = std::min(1.0, double(overview_side) / std::max(pixels.cols, pixels.rows));
    const cv::Size size(std::max(1, int(std::lround(pixels.cols * by))),
                        std::max(1, int(std::lround(pixels.rows * by))));
    cv::Mat some, small;
    cv::resize(pixels, some, size * 3, 0, 0, cv::INTER_NEAREST);
    cv::resize(some, small, size, 0, 0, cv::INTER_AREA);
    return to_canvas(small);
}

Result<Drawing> drawing_of(const PlacedPhoto& p, cv::Size frame, Depth result, const PhotoSource& source)
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
    shown.overview = [upright] { return overview_of(upright); };
    shown.other = [&source](const PhotoFile& file, cv::Size at_least) {
        return source.pixels(file, at_least, Damage::accept);
    };
    return Drawing{.pixels = upright,
                   .at = path.at,
                   .to_pixels = pixels_over({{0, 0}, cv::Size2d(upright.size())}, photo) * path.to_photo,
                   .shown = std::move(shown),
                   .edges = p.placement ? p.placement->edges : Edges::go_on,
                   .beside = path.beside,
                   .photo = &p,
                   .result = result};
}

/// Nothing is done to its pixels.
bool untouched(const Drawing& d, const FrameRequest& request)
{
    const bool kept = d.pixels.depth() != CV_32F && (d.pixels.channels() == 3 || (request.alpha && !d.photo->backdrop));
    return kept && !d.beside && d.pixels.size() == request.size && d.photo->stages.entries().empty() &&
           d.at == cv::Rect({0, 0}, request.size) && d.to_pixels == Transform::eye();
}

/// The part of its pixels that fills the frame, where all that is done to them is that they are scaled, and eight bits
/// do.
std::optional<cv::Rect2d> plainly_scaled(const Drawing& d, const FrameRequest& request)
{
    if (d.pixels.type() != CV_8UC3 || d.beside || request.depth != Depth::eight || !d.photo->stages.entries().empty() ||
        d.at != cv::Rect({0, 0}, request.size))
        return std::nullopt;
    return scaled_part(d.pixels.size(), d.to_pixels, request.size);
}

cv::Mat in_depth(const cv::Mat& pixels, Depth depth)
{
    const int wanted = depth == Depth::sixteen ? CV_16U : CV_8U;
    if (pixels.depth() == wanted)
        return pixels;
    cv::Mat out;
    pixels.convertTo(out, wanted, depth == Depth::sixteen ? 257.0 : 1.0 / 257.0);
    return out;
}

bool has_alpha(const Drawing& d)
{
    return d.pixels.channels() == 4 || make_transparent(d.photo->stages);
}

bool stays_transparent(const Drawing& d)
{
    return has_alpha(d) && !d.photo->backdrop;
}

/// The photo in linear light with all done to its pixels, and how the frame lies in it.
Smaller prepared(const Drawing& d)
{
    if (d.photo->stages.entries().empty())
        return {linear_rows(d.pixels, d.result), d.to_pixels};
    const Smaller small = smaller_first(linear_rows(d.pixels, d.result), d.to_pixels, d.at.size(), d.edges);
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
    Behind(const Drawing& d, cv::Size frame) : line_(1, frame.width, cv::Vec4f())
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

/// All of the frame, in parts of rows: the photo, and what lies behind and beside it.
void draw(const Drawing& d, cv::Size frame, const TakeRow& take)
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
}

/// The parts' sum, or what is wrong with one of them.
class Summed
{
public:
    Summed(const FrameRequest& request, Depth depth, const PhotoSource& source)
        : source_(source), depth_(depth), sum_(request.size, cv::Vec4f())
    {
        add(request, 1);
        bool laid = false; // the layers have their place among what is done to the frame
        for (const auto& stage : request.finish.entries()) {
            if (!laid && stage.type->order > frame_order::layers) {
                lay_all(request);
                laid = true;
            }
            if (!failed_)
                stage.type->apply(stage.value.get(), sum_);
        }
        if (!laid)
            lay_all(request);
    }
    [[nodiscard]] const std::optional<Problem>& failed() const { return failed_; }
    [[nodiscard]] bool alpha() const { return alpha_; }
    [[nodiscard]] const Canvas& canvas() const { return sum_; }

private:
    void add(const FrameRequest& request, double weight)
    {
        for (const FramePart& part : request.parts) {
            if (failed_)
                return;
            if (part.weight == 0)
                continue;
            const auto* frame = std::get_if<std::shared_ptr<const FrameRequest>>(&part.what);
            if (part.edge || (frame && is_finished(**frame)))
                add_by_itself(part, weight * part.weight);
            else if (frame)
                add(**frame, weight * part.weight);
            else if (const auto* photo = std::get_if<PlacedPhoto>(&part.what))
                add(*photo, weight * part.weight);
            else
                add(std::get<PlainColour>(part.what), weight * part.weight);
        }
    }
    /// Something is done to it as a whole.
    static bool is_finished(const FrameRequest& r)
    {
        return !r.finish.entries().empty() || !r.layers.empty() || r.backdrop;
    }
    void lay_all(const FrameRequest& request)
    {
        for (const LaidOver& layer : request.layers)
            if (!layer.behind)
                lay(layer);
        for (std::size_t i = request.layers.size(); i-- > 0;) // the highest comes first: it is nearest
            if (request.layers[i].behind)
                lay(request.layers[i]);
        if (request.backdrop)
            tbb::parallel_for(0, sum_.rows, [&](int y) { lay_over(sum_.ptr<float>(y), sum_.cols, *request.backdrop); });
    }
    /// Of one photo or drawing to which nothing is done: where it is transparent all round, that is left out.
    [[nodiscard]] std::optional<PlacedLayer> made_at_once(const LaidOver& layer)
    {
        const FrameRequest& request = *layer.picture;
        const auto* photo = request.parts.size() == 1 ? std::get_if<PlacedPhoto>(&request.parts.front().what) : nullptr;
        if (!photo || is_finished(request) || request.parts.front().edge || request.parts.front().weight != 1 ||
            !photo->stages.entries().empty() || photo->placement || photo->view || photo->backdrop)
            return std::nullopt;
        auto drawing = drawing_of(*photo, request.size, depth_, source_);
        if (!drawing) {
            failed_ = std::move(drawing.error());
            return PlacedLayer{};
        }
        if (drawing->at != cv::Rect({0, 0}, request.size))
            return std::nullopt;
        const cv::Mat& pixels = drawing->pixels;
        cv::Rect seen({0, 0}, pixels.size());
        if (pixels.channels() == 4) {
            cv::Mat alpha, there;
            cv::extractChannel(pixels, alpha, 3);
            cv::compare(alpha, 0, there, cv::CMP_GT);
            seen = cv::boundingRect(there);
        }
        if (seen.empty())
            return PlacedLayer{};
        LaidOver part = layer;
        part.to_frame = layer.to_frame * Transform{double(request.size.width) / pixels.cols,
                                                   0,
                                                   0,
                                                   0,
                                                   double(request.size.height) / pixels.rows,
                                                   0,
                                                   0,
                                                   0,
                                                   1} *
                        Transform{1, 0, double(seen.x), 0, 1, double(seen.y), 0, 0, 1};
        return placed_layer(to_canvas(pixels(seen)), part, sum_.size());
    }
    [[nodiscard]] PlacedLayer made(const LaidOver& layer)
    {
        if (failed_ || !layer.picture)
            return {};
        if (auto placed = made_at_once(layer))
            return std::move(*placed);
        Summed picture(*layer.picture, depth_, source_);
        if (picture.failed_) {
            failed_ = std::move(picture.failed_);
            return {};
        }
        return placed_layer(picture.sum_, layer, sum_.size());
    }
    void lay(const LaidOver& layer)
    {
        PlacedLayer placed = made(layer);
        if (failed_ || placed.where.empty())
            return;
        if (layer.matte) {
            const PlacedLayer by = layer.matte->by ? made(*layer.matte->by) : PlacedLayer{};
            if (failed_)
                return;
            limit(placed, matte_shares(by, *layer.matte, sum_.size()));
        }
        const PlacedLayer shadow = layer.shadow ? shadow_of(placed, *layer.shadow, sum_.size()) : PlacedLayer{};
        if (layer.behind) {
            put_behind(placed);
            put_behind(shadow);
        } else {
            put_onto(shadow, Blend::over);
            put_onto(placed, layer.blend);
        }
    }
    static void limit(PlacedLayer& layer, const cv::Mat1f& shares)
    {
        const cv::Rect seen = layer.where & cv::Rect({0, 0}, shares.size());
        for (int y = seen.y; y < seen.br().y; ++y)
            for (int x = seen.x; x < seen.br().x; ++x)
                layer.pixels(y - layer.where.y, x - layer.where.x) *= shares(y, x);
    }
    template <class Put>
    void put(const PlacedLayer& layer, Put put_row)
    {
        const cv::Rect seen = layer.where & cv::Rect({0, 0}, sum_.size());
        if (seen.empty())
            return;
        tbb::parallel_for(seen.y, seen.br().y, [&](int y) {
            put_row(sum_.ptr<float>(y) + 4 * std::ptrdiff_t(seen.x),
                    layer.pixels.ptr<float>(y - layer.where.y) + 4 * std::ptrdiff_t(seen.x - layer.where.x),
                    seen.width);
        });
    }
    void put_onto(const PlacedLayer& layer, Blend blend)
    {
        put(layer, [&](float* below, const float* row, int n) { blend_onto(below, row, n, blend); });
    }
    void put_behind(const PlacedLayer& layer)
    {
        put(layer, [](float* above, const float* row, int n) { blend_behind(above, row, n); });
    }
    /// What is not the same everywhere in the frame, or has something done to it alone, is made first.
    void add_by_itself(const FramePart& part, double weight)
    {
        const auto* frame = std::get_if<std::shared_ptr<const FrameRequest>>(&part.what);
        FrameRequest alone{.size = sum_.size()};
        if (frame)
            alone = **frame;
        else
            alone.parts = {{1, part.what, std::nullopt}};
        alone.size = sum_.size();
        Summed made(alone, depth_, source_);
        if (made.failed_) {
            failed_ = std::move(made.failed_);
            return;
        }
        alpha_ = alpha_ || made.alpha_;
        tbb::parallel_for(0, sum_.rows, [&](int y) {
            auto* to = sum_.ptr<float>(y);
            const auto* from = made.sum_.ptr<float>(y);
            for (int x = 0; x < sum_.cols; ++x) {
                const auto share = float(part.edge ? weight * part.edge->share({x, y}, sum_.size()) : weight);
                for (int c = 0; c < 4; ++c)
                    to[x * 4 + c] += share * from[x * 4 + c];
            }
        });
    }
    void add(const PlainColour& plain, double weight)
    {
        Canvas one(1, 1, cv::Vec4f());
        lay_over(one.ptr<float>(0), 1, plain.colour);
        sum_ += cv::Scalar(one(0, 0)) * weight;
    }
    void add(const PlacedPhoto& photo, double weight)
    {
        auto drawing = drawing_of(photo, sum_.size(), depth_, source_);
        if (!drawing) {
            failed_ = std::move(drawing.error());
            return;
        }
        alpha_ = alpha_ || stays_transparent(*drawing);
        draw(*drawing, sum_.size(), [&, share = float(weight)](int y, int begin, int end, const float* row) {
            auto* to = sum_.ptr<float>(y) + std::ptrdiff_t(begin) * 4;
            for (int i = 0; i < (end - begin) * 4; ++i)
                to[i] += share * row[i];
        });
    }

    const PhotoSource& source_;
    Depth depth_;
    Canvas sum_;
    bool alpha_ = false;
    std::optional<Problem> failed_;
};

/// The same for the same photo on any machine.
std::uint32_t noise_of(const PhotoFile& photo)
{
    return std::uint32_t(hash_of(photo.file.filename().native()) + std::size_t(photo.picture));
}

Result<cv::Mat> render_one(const FrameRequest& request, const PlacedPhoto& photo, const PhotoSource& source)
{
    auto drawing = drawing_of(photo, request.size, request.depth, source);
    if (!drawing)
        return tl::unexpected(std::move(drawing.error()));
    if (untouched(*drawing, request))
        return in_depth(drawing->pixels, request.depth);
    if (const auto part = plainly_scaled(*drawing, request))
        return scaled_eight(drawing->pixels, *part, request.size);
    Quantising how{.depth = request.depth, .alpha = request.alpha && stays_transparent(*drawing)};
    if (request.dither && !photo.stages.entries().empty())
        how.dither = noise_of(*photo.photo);
    Quantised out(request.size, how);
    draw(*drawing, request.size, [&](int y, int begin, int end, const float* row) { out.take(y, begin, end, row); });
    return out.picture();
}

}

Result<cv::Mat> render(const FrameRequest& request, const PhotoSource& source)
{
    if (request.parts.size() == 1 && request.finish.entries().empty() && request.layers.empty() && !request.backdrop)
        if (const auto* photo = std::get_if<PlacedPhoto>(&request.parts.front().what))
            return render_one(request, *photo, source);
    const Summed summed(request, request.depth, source);
    if (summed.failed())
        return tl::unexpected(*summed.failed());
    Quantising how{.depth = request.depth, .alpha = request.alpha && summed.alpha()};
    if (request.dither)
        how.dither = noise_of(*request.photo());
    return quantised(summed.canvas(), how);
}

Result<Canvas> render_canvas(const FrameRequest& request, const PhotoSource& source)
{
    const Summed summed(request, Depth::sixteen, source);
    if (summed.failed())
        return tl::unexpected(*summed.failed());
    return summed.canvas();
}

}
