#include "app/sheet/reel_rows.h"
#include "app/steps/reel/reel_bench.h"
#include "app/steps/reel/reel_hands.h"
#include "app/steps/step_page.h"

#include <array>

namespace frenlo::app {

namespace {

/// The order and the joins of the Reel as the window sees them.
class ReelOrderPage : public StepPage
{
public:
    explicit ReelOrderPage(const Services& s)
        : session_(s.session), viewing_(s.viewing), bench_(new ReelBench(s.session, s.viewing)),
          rows_(s.session, s.viewing, s.waveforms), hands_(s.session, s.viewing, rows_)
    {
        connect(&s.session, &Session::changed, this, &StepPage::route_changed);
    }

    [[nodiscard]] QWidget* bench() override { return bench_; }
    [[nodiscard]] QString page_name() const override { return ReelBench::tr("Order and joins"); }
    [[nodiscard]] RowMeter* row_meter() override { return &rows_; }

    [[nodiscard]] RouteState route_state() const override
    {
        const auto films = int(reel_items(session_.project()).size());
        QString figure = ReelBench::tr("%n shot(s)", nullptr, films);
        if (viewing_.on_reel())
            figure += QStringLiteral(" · ") + viewing_.length_text(viewing_.film_frames());
        return {figure, !session_.project().reel.items.empty()};
    }

    [[nodiscard]] std::vector<StepKey> keys() override
    {
        return {named(ReelBench::tr("Take the shot out"),
                      {.keys = {Qt::Key_Delete}, .press = [this] { bench_->take_out(); }}),
                named(ReelBench::tr("The shot one place up"),
                      {.keys = {Qt::ALT | Qt::Key_Up}, .press = [this] { bench_->carry(-1); }, .repeats = true}),
                named(ReelBench::tr("The shot one place down"),
                      {.keys = {Qt::ALT | Qt::Key_Down}, .press = [this] { bench_->carry(1); }, .repeats = true})};
    }
    [[nodiscard]] std::vector<KeyHelp> key_help() const override
    {
        return {{ReelBench::tr("Alt+↑  Alt+↓"), ReelBench::tr("In the Reel: the shot in hand one place up or down")},
                {ReelBench::tr("Delete"), ReelBench::tr("In the Reel: take the shot in hand out")}};
    }

private:
    Session& session_;
    Viewing& viewing_;
    ReelBench* bench_;
    ReelRows rows_;
    ReelHands hands_;
};

}

namespace {

/// Words of the trade for what is here.
constexpr std::array reel_words{WhereWords{"How it goes over into the next", "transition dissolve crossfade wipe cut"},
                                WhereWords{"Shots of the Reel", "edit sequence timeline montage"},
                                WhereWords{"Chapter", "marker bookmark"}};

}

const StepModule& reel_module()
{
    static const StepModule module{
        {.key = "reel", .about = StepInfo::About::reel},
        QT_TRANSLATE_NOOP("frenlo::app::StepModule", "Reel"),
        [](const Services& s) -> std::unique_ptr<StepPage> { return std::make_unique<ReelOrderPage>(s); },
        reel_words};
    return module;
}

}
