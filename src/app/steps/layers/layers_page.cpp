#include "app/steps/layers/layers_bench.h"
#include "app/steps/step_page.h"
#include "core/picture/picture.h"
#include "core/source/photo_source.h"
#include "core/steps/layers/layer_pictures.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <tuple>

namespace frenlo::app {

namespace {

/// The layers of Dress, of a shot or of the Reel, as the window sees them.
class LayersPage : public StepPage
{
public:
    explicit LayersPage(const Services& s)
        : background_(s.background), viewing_(s.viewing), store_(s.store),
          controller_(s.background, s.session, s.viewing),
          bench_(new LayersBench(s.session, s.viewing, controller_, s.picture, s.player))
    {
        connect(&controller_, &LayersController::failed, this, &StepPage::told);
        connect(&controller_, &LayersController::changed, this, &StepPage::route_changed);
        connect(bench_, &LayersBench::show_shot, this, [this](ShotId id) {
            if (const auto shot = controller_.project().find_shot(id))
                Q_EMIT show_photo(*shot, PhotoIndex(0));
        });
        connect(bench_, &LayersBench::pick_colour, this, &LayersPage::pick_colour);
    }

    [[nodiscard]] QWidget* bench() override { return bench_; }
    [[nodiscard]] QString page_name() const override { return LayersBench::tr("Layers"); }
    [[nodiscard]] RouteState route_state() const override
    {
        const auto layers = controller_.layers();
        const bool look = !layer_notes(controller_.project(), controller_.home()).empty();
        return layers.empty() ? RouteState{LayersBench::tr("as shot")}
                              : RouteState{LayersBench::tr("%n layer(s)", nullptr, int(layers.size())), true, look};
    }
    [[nodiscard]] std::vector<StepKey> keys() override
    {
        std::vector<StepKey> keys;
        const std::array<std::tuple<Qt::Key, int, int>, 4> ways{
            {{Qt::Key_Left, -1, 0}, {Qt::Key_Right, 1, 0}, {Qt::Key_Up, 0, -1}, {Qt::Key_Down, 0, 1}}};
        for (const auto& [key, x, y] : ways)
            for (const int far : {1, 10}) {
                const auto nudge = [this, x = x, y = y, far] { bench_->nudge(x * far, y * far); };
                const QKeySequence sequence(far == 1 ? QKeyCombination(key) : QKeyCombination(Qt::SHIFT, key));
                StepKey key_of{.keys = {sequence}, .press = {}};
                key_of.on_sheet = [this, nudge](bool) {
                    const Layer* layer = controller_.layer();
                    if (!bench_->has_tool() || !layer || !layer->shot || layer->locked)
                        return false;
                    nudge();
                    return true;
                };
                keys.push_back(std::move(key_of));
            }
        return keys;
    }
    [[nodiscard]] std::vector<KeyHelp> key_help() const override
    {
        return {{LayersBench::tr("← → ↑ ↓"),
                 LayersBench::tr("In Layers: the layer in hand by a pixel, with Shift by ten")}};
    }

private:
    /// From the photos as shot, small: noise is averaged over some pixels.
    void pick_colour(QPointF at)
    {
        const auto of = controller_.colour_home();
        const auto place = of ? controller_.project().find_shot(*of) : std::nullopt;
        if (!place)
            return;
        const Shot& shot = controller_.project().shot(*place);
        const Layer* layer = controller_.layer();
        PhotoIndex photo = layer ? PhotoIndex(0) : viewing_.shown_photo();
        if (photo.value < 0 || photo.at() >= shot.photos.size())
            return;
        const cv::Point2d share = layer ? in_layer(*layer, at) : cv::Point2d(at.x(), at.y());
        const cv::Size size = fitted(seen_size(shot.photos[photo.at()]), {640, 640});
        background_.run(
            this,
            [request = request_for_photo(shot, photo, size), &store = store_, share]() -> std::optional<ColourOut> {
                const auto picture = render(request, Previews(store));
                if (!picture)
                    return std::nullopt;
                constexpr int around = 3;
                const cv::Point middle(int(share.x * picture->cols), int(share.y * picture->rows));
                const cv::Rect part =
                    cv::Rect(middle - cv::Point(around, around), cv::Size(2 * around + 1, 2 * around + 1)) &
                    cv::Rect({0, 0}, picture->size());
                if (part.empty())
                    return std::nullopt;
                const cv::Scalar mean = cv::mean((*picture)(part));
                const auto channel = [&](int c) { return std::uint8_t(std::clamp(std::lround(mean[c]), 0L, 255L)); };
                return ColourOut{.colour = {channel(2), channel(1), channel(0)}};
            },
            [this](std::optional<ColourOut> picked) {
                if (!picked)
                    return;
                if (const auto now = controller_.colour_out()) {
                    const Backdrop colour = picked->colour;
                    *picked = *now;
                    picked->colour = colour;
                }
                controller_.begin_change();
                controller_.set_colour_out(picked, LayersBench::tr("Take a colour out"));
            },
            Rank::measure);
    }
    /// Shares of the layer's picture, from those of the frame.
    [[nodiscard]] cv::Point2d in_layer(const Layer& layer, QPointF at) const
    {
        const cv::Size frame = controller_.frame_of(layer), picture = controller_.picture_size(layer);
        if (frame.empty() || picture.empty())
            return {0.5, 0.5};
        const Transform back = layer_transform(layer, controller_.place(layer), picture, frame).inv();
        const cv::Point2d p = moved(back, {at.x() * frame.width, at.y() * frame.height});
        return {p.x / picture.width, p.y / picture.height};
    }

    Background& background_;
    Viewing& viewing_;
    PreviewStore& store_;
    LayersController controller_;
    LayersBench* bench_;
};

}

namespace {

/// Words of the trade for what is here.
constexpr std::array words{WhereWords{"Add a picture…", "logo watermark overlay image composite"},
                           WhereWords{"Add text", "caption subtitle lower third nameplate title"},
                           WhereWords{"Draw", "paint rotoscope animate brush sketch"},
                           WhereWords{"Take a colour out", "green screen chroma key blue screen keying"},
                           WhereWords{"Set a key here", "keyframe animate"},
                           WhereWords{"What of it shows", "mask matte stencil"},
                           WhereWords{"Shadow", "drop shadow"}};

}

const StepModule& layers_module()
{
    static const StepModule module{
        {.key = "layers", .about = StepInfo::About::either},
        QT_TRANSLATE_NOOP("frenlo::app::StepModule", "Dress"),
        [](const Services& s) -> std::unique_ptr<StepPage> { return std::make_unique<LayersPage>(s); },
        words};
    return module;
}

}
