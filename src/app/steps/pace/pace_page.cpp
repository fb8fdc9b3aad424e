#include "app/picture/player.h"
#include "app/steps/pace/in_between_search.h"
#include "app/steps/pace/loop_search.h"
#include "app/steps/pace/pace_bench.h"
#include "app/steps/pace/tapping.h"
#include "app/steps/pace/thinning.h"
#include "app/steps/pace/timing_files.h"
#include "app/steps/step_page.h"

#include <array>

namespace frenlo::app {

namespace {

/// Pace as the window sees it.
class PacePage : public StepPage
{
public:
    explicit PacePage(const Services& s)
        : viewing_(s.viewing), controller_(s.session, s.viewing),
          thinning_(s.background, s.store, s.session, s.viewing), loops_(s.background, s.store, s.session, s.viewing),
          in_betweens_(s.background, s.store, s.session, s.viewing),
          tapping_(s.session, s.viewing, s.player, controller_), files_(s.session, s.viewing), player_(s.player),
          bench_(new PaceBench(s.session, s.viewing, controller_, thinning_, loops_, in_betweens_, tapping_, files_))
    {
        connect(&thinning_, &Thinning::failed, this, &StepPage::told);
        connect(&loops_, &LoopSearch::failed, this, &StepPage::told);
        connect(&in_betweens_, &InBetweenSearch::failed, this, &StepPage::told);
        connect(&files_, &TimingFiles::failed, this, &StepPage::told);
        connect(&files_, &TimingFiles::written, this,
                [this](const QString& file) { Q_EMIT told(PaceBench::tr("Written: %1").arg(file)); });
        connect(bench_, &PaceBench::resolved, this, &StepPage::keys_to_sheet);
    }

    [[nodiscard]] QWidget* bench() override { return bench_; }
    [[nodiscard]] RowActions* row_actions() override { return &controller_; }

    [[nodiscard]] RouteState route_state() const override
    {
        const Schedule& schedule = viewing_.schedule();
        const bool lost = !schedule.between_frames().empty();
        return {PaceBench::tr("%1 fps · %2")
                    .arg(QString::fromStdString(schedule.rate().text()))
                    .arg(viewing_.length_text(viewing_.film_frames())),
                viewing_.film_frames() > 0 && !lost, lost};
    }

    [[nodiscard]] std::vector<StepKey> keys() override
    {
        using enum StepKey::Where;
        std::vector<StepKey> keys;
        for (int n = 1; n <= 9; ++n)
            keys.push_back(named(PaceBench::tr("%n frame(s)", nullptr, n),
                                 {{Qt::Key(Qt::Key_0 + n)}, [this, n] { controller_.set_hold(Frames{n}); }, everywhere},
                                 PaceBench::tr("Hold for")));
        keys.push_back(named(PaceBench::tr("Start of the kept range"),
                             {{Qt::Key_BracketLeft}, [this] { controller_.keep_from_here(); }, rows}));
        keys.push_back(named(PaceBench::tr("End of the kept range"),
                             {{Qt::Key_BracketRight}, [this] { controller_.keep_to_here(); }, rows}));
        // Signs are typed with Shift on some keyboards: all ways to them are taken.
        keys.push_back(named(PaceBench::tr("Hold a frame longer"),
                             {{Qt::Key_Plus, Qt::SHIFT | Qt::Key_Plus, Qt::SHIFT | Qt::Key_Equal},
                              [this] { controller_.lengthen(1); },
                              everywhere,
                              true}));
        keys.push_back(named(PaceBench::tr("Hold a frame shorter"),
                             {{Qt::Key_Minus}, [this] { controller_.lengthen(-1); }, everywhere, true}));
        keys.push_back(
            named(PaceBench::tr("Mark the photo"), {{Qt::Key_M}, [this] { controller_.mark_here(); }, rows}));
        keys.push_back(
            named(PaceBench::tr("Play or stop, or tap"),
                  {{Qt::Key_Space}, [this] { tapping_.running() ? tapping_.tap() : player_.toggle(); }, step}));
        return keys;
    }

    bool end_what_goes_on() override
    {
        if (!tapping_.running())
            return false;
        tapping_.end();
        return true;
    }

    [[nodiscard]] std::vector<KeyHelp> key_help() const override
    {
        return {{PaceBench::tr("1 … 9"),
                 PaceBench::tr("hold the selected photos for that many frames (all, if none is selected)")},
                {PaceBench::tr("+   -"), PaceBench::tr("hold them one frame longer, one frame shorter")},
                {PaceBench::tr("[   ]"), PaceBench::tr("start and end of the kept range")},
                {PaceBench::tr("Alt + Left   Alt + Right"),
                 PaceBench::tr("slide the kept range one photo, with Shift ten")},
                {PaceBench::tr("M"), PaceBench::tr("mark the photo under the player, or no longer")}};
    }

private:
    Viewing& viewing_;
    PaceController controller_;
    Thinning thinning_;
    LoopSearch loops_;
    InBetweenSearch in_betweens_;
    Tapping tapping_;
    TimingFiles files_;
    Player& player_;
    PaceBench* bench_;
};

}

namespace {

/// Words of the trade for what is here.
constexpr std::array words{WhereWords{"Mix over the joint", "crossfade seamless loop blend"},
                           WhereWords{"Hold", "duration exposure time frames twos on ones slow down faster"},
                           WhereWords{"Delivered at", "fps frames per second speed timing"},
                           WhereWords{"Total length", "duration fit to time"},
                           WhereWords{"Speed", "slow motion slow down speed up faster retime"},
                           WhereWords{"Backwards", "reverse rewind"},
                           WhereWords{"There and back", "ping-pong boomerang bounce palindrome"},
                           WhereWords{"Length of the range", "trim cut in out point"},
                           WhereWords{"Keep as a version of its own", "duplicate subclip alternative"},
                           WhereWords{"Motion", "interpolation optical flow tween blend frame blending"},
                           WhereWords{"Speed course", "time remap ramp speed ramp curve ease"},
                           WhereWords{"Vary holds", "jitter random boil"},
                           WhereWords{"Write…", "xsheet exposure sheet dopesheet edl otio csv"},
                           WhereWords{"Find a loop", "seamless loop cycle"},
                           WhereWords{"Find stumbles", "remove duplicates drop frames jerk jump judder doubles"},
                           WhereWords{"shutter", "motion blur shutter angle long exposure"},
                           WhereWords{"Selection backwards", "reverse section rewind part"},
                           WhereWords{"Tap holds", "tap beat rhythm record timing"}};

}

const StepModule& pace_module()
{
    static const StepModule module{
        {"pace"},
        QT_TRANSLATE_NOOP("frenlo::app::StepModule", "Pace"),
        [](const Services& s) -> std::unique_ptr<StepPage> { return std::make_unique<PacePage>(s); },
        words};
    return module;
}

}
