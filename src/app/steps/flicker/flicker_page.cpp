#include "app/picture/picture_step.h"
#include "app/picture/picture_view.h"
#include "app/steps/flicker/flicker_bench.h"
#include "app/steps/flicker/light_meter.h"
#include "app/steps/step_page.h"
#include "app/widgets/layouts.h"
#include "app/work/task.h"
#include "core/source/photo_source.h"
#include "core/steps/flicker/first_look.h"

#include <QComboBox>

#include <array>

namespace frenlo::app {

namespace {

/// The flicker of Light as the window sees it.
class FlickerPage : public StepPage, public PictureStep
{
public:
    explicit FlickerPage(const Services& s)
        : look_(s.background, Rank::prepare), store_(s.store), viewing_(s.viewing),
          controller_(s.background, s.session, s.viewing), strips_(s.background, s.session, s.viewing, s.store),
          bench_(new FlickerBench(s.session, s.viewing, controller_, strips_, s.picture))
    {
        connect(bench_, &FlickerBench::show_photo, this, &StepPage::show_photo);
        connect(&controller_, &FlickerController::failed, this, &StepPage::told);
        connect(scale_, &QComboBox::activated, this, [this](int which) { meter_.set_each_its_own(which == 1); });
        const auto refresh = [this] { scale_->setVisible(viewing_.shot() && meter_.has(*viewing_.shot())); };
        connect(&viewing_, &Viewing::shot_changed, this, refresh);
        refresh();
    }

    [[nodiscard]] QWidget* bench() override { return bench_; }
    [[nodiscard]] QString page_name() const override { return FlickerBench::tr("Flicker"); }
    [[nodiscard]] QWidget* sheet_tools() override { return scale_row_; }
    [[nodiscard]] RowMeter* row_meter() override { return &meter_; }
    [[nodiscard]] const PictureStep* picture_step() const override { return this; }

    [[nodiscard]] RouteState route_state() const override
    {
        const Shot& shot = *viewing_.shot();
        if (!deflicker_of(shot))
            return {FlickerBench::tr("as shot")};
        int odd = 0, not_measured = 0;
        const auto shown = in_film(shot);
        for (std::size_t i = 0; i < shot.photos.size(); ++i) {
            odd += shown[i] && to_look_at(shot.photos[i]);
            not_measured += shown[i] && !light_of(shot.photos[i]);
        }
        return {not_measured > 0 ? FlickerBench::tr("%n photo(s) not evened", nullptr, not_measured)
                : odd > 0        ? FlickerBench::tr("%n photo(s) to look at", nullptr, odd)
                                 : FlickerBench::tr("flicker %1 stop").arg(flicker_text(*deflicker_of(shot))),
                odd + not_measured == 0, odd + not_measured > 0};
    }

    void suggest(const ShotPtr& shot, const std::function<void(const QString& question)>& question) override
    {
        look_.forget();
        look_.start(
            {shot->id, "flicker"},
            [shot, &store = store_](const Job& job) { return flickers_by(*shot, Previews(store), job); },
            [question](double stops) {
                constexpr double even = 0.03; // stops: less is hardly seen
                if (stops >= even)
                    question(FlickerBench::tr("It flickers by about %1 stop: remove it?").arg(stops, 0, 'f', 2));
            });
    }

    /// The same frame in the light that it was shot in.
    [[nodiscard]] std::optional<FrameRequest> compared_picture(cv::Size size) const override
    {
        const Shot* shot = viewing_.shot();
        if (!shot || !deflicker_of(*shot) || viewing_.schedule().frames() == 0)
            return std::nullopt;
        return viewing_.film()->frame(viewing_.playhead(), {.size = size, .corrections = Corrections::none});
    }
    [[nodiscard]] QString compared_name() const override { return FlickerBench::tr("as shot"); }

private:
    Task look_; ///< at what has come in
    PreviewStore& store_;
    Viewing& viewing_;
    FlickerController controller_;
    StripMaker strips_;
    LightMeter meter_;
    FlickerBench* bench_;
    QComboBox* scale_ =
        choice(FlickerBench::tr("Scale of the brightness below the photos"),
               {FlickerBench::tr("one scale"), FlickerBench::tr("each row its own")},
               FlickerBench::tr("Below the photos: all rows on one scale, so that they can be compared, or each "
                                "on its own, so that flicker is seen where the light goes from day to night"));
    QWidget* scale_row_ = one_row({scale_}); ///< which the Sheet shows, whatever is in it
};

}

namespace {

/// Words of the trade for what is here.
constexpr std::array words{WhereWords{"Remove flicker", "deflicker flicker exposure brightness smooth"},
                           WhereWords{"How much is evened", "strength amount"},
                           WhereWords{"Changes that stay", "trend sunset ramp holy grail"},
                           WhereWords{"Undo flicker removal", "reset as shot"}};

}

const StepModule& flicker_module()
{
    static const StepModule module{
        {"flicker"},
        QT_TRANSLATE_NOOP("frenlo::app::StepModule", "Light"),
        [](const Services& s) -> std::unique_ptr<StepPage> { return std::make_unique<FlickerPage>(s); },
        words};
    return module;
}

}
