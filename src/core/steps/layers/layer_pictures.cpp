#include "core/steps/layers/layer_pictures.h"

#include "core/picture/picture.h"
#include "core/steps/layers/drawn_strokes.h"
#include "core/steps/layers/layer_movement.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <memory>
#include <mutex>
#include <numbers>

namespace frenlo {

Transform layer_transform(const Layer& layer, const LayerKey& key, cv::Size picture, cv::Size frame)
{
    const double fits = std::min(double(frame.width) / picture.width, double(frame.height) / picture.height);
    const double turn = key.turn * std::numbers::pi / 180, scale = key.size * fits;
    const double c = scale * std::cos(turn), s = scale * std::sin(turn);
    const double x = layer.pivot_x * picture.width, y = layer.pivot_y * picture.height;
    return {c, -s, key.x * frame.width - c * x + s * y, s, c, key.y * frame.height - s * x - c * y, 0, 0, 1};
}

std::optional<cv::Size> layer_size(const Layer& layer, cv::Size frame, const OtherFilms& others)
{
    if (!layer.shot)
        return frame;
    const auto film = others ? others(*layer.shot) : std::nullopt;
    return film ? std::optional(film->size) : std::nullopt;
}

namespace {

/// Which photo of the shot is seen at each frame of its film, by its place; and where each photo is.
struct PhotosOfFrames
{
    std::vector<FrameSpan> spans;
    std::map<PhotoId, std::int64_t> places;

    [[nodiscard]] std::optional<std::int64_t> at(FrameIndex frame) const
    {
        const auto it = std::upper_bound(spans.begin(), spans.end(), frame,
                                         [](FrameIndex f, const FrameSpan& s) { return f < s.begin; });
        return it == spans.begin() ? std::nullopt : std::optional((it - 1)->photo.value);
    }
};

PhotosOfFrames photos_of(const Shot& shot, const Schedule& schedule)
{
    PhotosOfFrames photos;
    const auto spans = schedule.spans();
    photos.spans.assign(spans.begin(), spans.end());
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        photos.places.emplace(shot.photos[i].id, std::int64_t(i));
    return photos;
}

/// A drawing, and the photos that it lies over. It becomes a picture when it is first seen: a shot may have hundreds,
/// and every edit makes its film anew.
class Sheet
{
public:
    Sheet(const Drawing& drawing, std::int64_t begin, cv::Size frame, const std::string& name)
        : drawing_(drawing), begin_(begin), frame_(frame), name_(name)
    {
    }
    [[nodiscard]] std::int64_t begin() const { return begin_; }
    [[nodiscard]] bool lies_over(std::int64_t photo) const
    {
        return photo >= begin_ && photo < begin_ + drawing_.photos;
    }
    [[nodiscard]] const std::shared_ptr<const FrameRequest>& picture() const
    {
        std::call_once(once_, [this] {
            const PhotoPtr photo = drawn(drawing_.strokes, frame_, name_);
            picture_ = std::make_shared<const FrameRequest>(
                FrameRequest{.size = photo->size, .alpha = true, .parts = {{1, PlacedPhoto{.photo = photo}}}});
        });
        return picture_;
    }

private:
    const Drawing& drawing_;
    std::int64_t begin_;
    cv::Size frame_;
    const std::string& name_;
    mutable std::once_flag once_;
    mutable std::shared_ptr<const FrameRequest> picture_;
};

/// A layer, ready to be laid over any frame; the layer must outlive it.
class ReadyLayer
{
public:
    ReadyLayer(const Layer& layer, cv::Size frame, Rate rate, const PhotosOfFrames& photos, const OtherFilms& others)
        : layer_(layer), movement_(layer), frame_(frame), rate_(rate),
          begin_((layer.begin.value * rate.value()).rounded()),
          end_(layer.end ? (layer.end->value * rate.value()).rounded() : std::numeric_limits<std::int64_t>::max())
    {
        if (layer.shot) {
            film_ = others ? others(*layer.shot) : std::nullopt;
            return;
        }
        for (const Drawing& d : layer.drawings)
            if (const auto at = photos.places.find(d.photo); at != photos.places.end() && !d.strokes.empty())
                sheets_.push_back(std::make_unique<Sheet>(d, at->second, frame, layer.name));
        std::stable_sort(sheets_.begin(), sheets_.end(),
                         [](const auto& a, const auto& b) { return a->begin() < b->begin(); });
    }

    [[nodiscard]] const Layer& layer() const { return layer_; }
    /// Nothing where it is not there. photo: that is seen in the frame.
    [[nodiscard]] std::optional<LayerOfFilm> at(FrameIndex frame, std::optional<std::int64_t> photo) const
    {
        if (frame.value < begin_ || frame.value >= end_)
            return std::nullopt;
        LayerOfFilm laid;
        laid.layer.picture = layer_.shot ? of_film(frame.value - begin_) : of_drawing(photo);
        if (!laid.layer.picture || laid.layer.picture->size.empty())
            return std::nullopt;
        const LayerKey key = movement_.at(double(frame.value) / rate_.value().approx());
        laid.frame = frame_;
        laid.on_scene = layer_.on_scene;
        laid.drawing = !layer_.shot || film_->drawing;
        laid.layer.to_frame = layer_transform(layer_, key, laid.layer.picture->size, frame_);
        laid.layer.opacity = key.opacity;
        laid.layer.blend = layer_.blend;
        laid.layer.behind = layer_.behind;
        laid.layer.soft_edge = layer_.soft_edge;
        laid.layer.shadow = layer_.shadow;
        return laid;
    }

private:
    [[nodiscard]] std::shared_ptr<const FrameRequest> of_film(std::int64_t local) const
    {
        if (!film_ || film_->frames == 0)
            return nullptr;
        if (local >= film_->frames) {
            if (layer_.film_end == FilmEnd::gone)
                return nullptr;
            local = layer_.film_end == FilmEnd::again ? local % film_->frames : film_->frames - 1;
        }
        return std::make_shared<const FrameRequest>(film_->frame(FrameIndex(local)));
    }
    [[nodiscard]] std::shared_ptr<const FrameRequest> of_drawing(std::optional<std::int64_t> photo) const
    {
        for (std::size_t i = photo ? sheets_.size() : 0; i-- > 0;)
            if (sheets_[i]->lies_over(*photo))
                return sheets_[i]->picture();
        return nullptr;
    }

    const Layer& layer_;
    LayerMovement movement_;
    cv::Size frame_;
    Rate rate_;
    std::int64_t begin_, end_;
    std::optional<OtherFilm> film_;
    std::vector<std::unique_ptr<const Sheet>> sheets_; ///< by their first photo
};

DressFrame dress(const ShotSteps& steps, cv::Size frame, cv::Size scene, Rate rate, PhotosOfFrames photos,
                 const OtherFilms& others)
{
    struct Stack
    {
        ShotSteps steps; ///< whose layers these are
        std::vector<ReadyLayer> layers;
        PhotosOfFrames photos;
    };
    auto stack = std::make_shared<Stack>();
    stack->steps = steps;
    for (const Layer& layer : layers_of(stack->steps))
        stack->layers.emplace_back(layer, layer.on_scene ? scene : frame, rate, photos, others);
    stack->photos = std::move(photos);
    return [stack = std::shared_ptr<const Stack>(std::move(stack))](FrameIndex f, FrameDress& dress) {
        const auto photo = stack->photos.at(f);
        for (const ReadyLayer& ready : stack->layers) {
            if (!ready.layer().on)
                continue;
            auto laid = ready.at(f, photo);
            if (!laid)
                continue;
            if (const auto& matte = ready.layer().matte) {
                laid->layer.matte = Matte{nullptr, matte->of == MatteOf::brightness, matte->inverse};
                for (const ReadyLayer& other : stack->layers)
                    if (other.layer().id == matte->layer && other.layer().id != ready.layer().id)
                        if (auto by = other.at(f, photo))
                            laid->matte_by = std::make_shared<const LayerOfFilm>(std::move(*by));
            }
            dress.layers.push_back(std::move(*laid));
        }
    };
}

}

DressFrame dress_layers(const Shot& shot, const Schedule& schedule, const OtherFilms& others)
{
    const cv::Size frame = layers_of(shot.steps).empty() ? cv::Size() : film_size(shot);
    if (frame.empty())
        return {};
    return dress(shot.steps, frame, undressed_size(shot), schedule.rate(), photos_of(shot, schedule), others);
}

DressFrame dress_reel_layers(const Reel& reel, cv::Size frame, Rate rate, const OtherFilms& others)
{
    if (layers_of(reel.steps).empty() || frame.empty())
        return {};
    return dress(reel.steps, frame, frame, rate, {}, others);
}

}
