#include "app/picture/clipped.h"
#include "app/picture/picture_step.h"
#include "app/picture/picture_view.h"
#include "app/steps/step_page.h"
#include "app/steps/tone/anchor_row.h"
#include "app/steps/tone/tone_bench.h"
#include "app/steps/tone/tone_meter.h"
#include "app/theme/colours.h"
#include "core/steps/tone/tone_blend.h"
#include "core/steps/tone/tone_edits.h"

#include <QPainter>

#include <algorithm>
#include <array>

namespace frenlo::app {

namespace {

/// The tone of Light as the window sees it.
class TonePage : public StepPage, public PictureStep
{
public:
    explicit TonePage(const Services& s)
        : viewing_(s.viewing), picture_(s.picture), controller_(s.background, s.session, s.viewing, s.store),
          bench_(new ToneBench(s.session, s.viewing, controller_, s.picture, s.kept))
    {
        connect(bench_, &ToneBench::show_photo, this, &StepPage::show_photo);
        connect(bench_, &ToneBench::failed, this, &StepPage::told);
        connect(&controller_, &ToneController::failed, this, &StepPage::told);
    }

    [[nodiscard]] QWidget* bench() override { return bench_; }
    [[nodiscard]] QString page_name() const override { return ToneBench::tr("Tone"); }
    [[nodiscard]] RowMeter* row_meter() override { return &meter_; }
    [[nodiscard]] const PictureStep* picture_step() const override { return this; }

    [[nodiscard]] RouteState route_state() const override
    {
        const Shot& shot = *viewing_.shot();
        if (!is_toned(shot))
            return {ToneBench::tr("as shot")};
        const auto anchors = anchors_of(shot).size();
        return {anchors > 1 ? ToneBench::tr("toned, %1 anchors").arg(anchors) : ToneBench::tr("toned"), true};
    }

    /// The same frame as shot.
    [[nodiscard]] std::optional<FrameRequest> compared_picture(cv::Size size) const override
    {
        const Shot* shot = viewing_.shot();
        if (!shot || !is_toned(*shot) || viewing_.schedule().frames() == 0)
            return std::nullopt;
        return viewing_.film()->frame(viewing_.playhead(), {.size = size, .corrections = Corrections::none});
    }
    [[nodiscard]] QString compared_name() const override { return ToneBench::tr("as shot"); }

    /// The anchor that this one is blended with most: the nearest other one.
    [[nodiscard]] std::optional<PhotoIndex> beside() const override
    {
        const Shot* shot = viewing_.shot();
        const PhotoIndex here = viewing_.shown_photo();
        if (!shot || !bench_->anchors().both_shown())
            return std::nullopt;
        if (const ShotPtr now = viewing_.edited_shot(); now != anchors_seen_) {
            anchors_seen_ = now; // asked for several times a painting
            anchors_ = anchors_of(*shot);
        }
        const auto& anchors = anchors_;
        if (anchors.size() < 2)
            return std::nullopt;
        const auto nearest = std::min_element(anchors.begin(), anchors.end(), [&](PhotoIndex a, PhotoIndex b) {
            const auto away = [&](PhotoIndex p) {
                return p == here ? std::int64_t(1) << 60 : std::abs(p.value - here.value);
            };
            return away(a) < away(b);
        });
        return *nearest;
    }
    [[nodiscard]] QString beside_text(PhotoIndex photo) const override
    {
        const Shot& shot = *viewing_.shot();
        QString text = anchor_of(shot.photos[photo.at()]) ? ToneBench::tr("anchor, photo %1").arg(photo.value + 1)
                                                          : ToneBench::tr("photo %1").arg(photo.value + 1);
        if (const auto* light = shot.photos[photo.at()].steps.find<ToneLight>())
            text += ToneBench::tr(" · light %1 stops").arg(light->stops, 0, 'f', 1);
        if (photo != viewing_.shown_photo())
            text += ToneBench::tr(" · click to set this one");
        return text;
    }
    void paint_over(QPainter& painter, const QRectF& where, const QImage& picture) const override
    {
        if (clipped_)
            painter.drawImage(where, clipped_marks(picture, Colours::of(picture_.palette())));
    }

    [[nodiscard]] std::vector<StepKey> keys() override
    {
        return {named(ToneBench::tr("What is clipped"), held_key(
                                                            Qt::Key_E,
                                                            [this](bool on) {
                                                                clipped_ = on;
                                                                picture_.update();
                                                            },
                                                            StepKey::Where::step))};
    }
    [[nodiscard]] std::vector<KeyHelp> key_help() const override
    {
        return {{ToneBench::tr("E"),
                 ToneBench::tr("held, in Tone: where nothing is left between a channel's ends: striped where it is "
                               "white, dotted where it is black")}};
    }
    void left() override { clipped_ = false; }

private:
    Viewing& viewing_;
    PictureView& picture_;
    ToneController controller_;
    ToneMeter meter_;
    ToneBench* bench_;
    bool clipped_ = false;
    mutable ShotPtr anchors_seen_; ///< that anchors_ are of
    mutable std::vector<PhotoIndex> anchors_;
};

}

namespace {

/// Words of the trade for what is here.
constexpr std::array words{WhereWords{"Pick a grey", "white balance neutral colour cast temperature"},
                           WhereWords{"Characteristic curve", "curves grade colour correction contrast exposure"},
                           WhereWords{"Copy or keep", "preset look lut paste"},
                           WhereWords{"Waveform", "scope histogram levels"}, WhereWords{"Undo toning", "reset grade"}};

}

const StepModule& tone_module()
{
    static const StepModule module{
        {"tone"},
        QT_TRANSLATE_NOOP("frenlo::app::StepModule", "Light"),
        [](const Services& s) -> std::unique_ptr<StepPage> { return std::make_unique<TonePage>(s); },
        words};
    return module;
}

}
