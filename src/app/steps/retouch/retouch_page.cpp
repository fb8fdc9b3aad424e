#include "app/steps/retouch/retouch_bench.h"
#include "app/steps/step_page.h"

#include <array>

namespace frenlo::app {

namespace {

/// Retouch as the window sees it.
class RetouchPage : public StepPage
{
public:
    explicit RetouchPage(const Services& s)
        : controller_(s.background, s.session, s.viewing),
          bench_(new RetouchBench(s.viewing, controller_, s.picture, s.player))
    {
        connect(&controller_, &RetouchController::failed, this, &StepPage::told);
        connect(&controller_, &RetouchController::changed, this, &StepPage::route_changed);
    }

    [[nodiscard]] QWidget* bench() override { return bench_; }
    [[nodiscard]] QString page_name() const override { return RetouchBench::tr("Retouch"); }
    [[nodiscard]] RouteState route_state() const override
    {
        const auto spots = controller_.spots();
        const bool look = controller_.shot() && !retouch_notes(*controller_.shot()).empty();
        return spots.empty() ? RouteState{RetouchBench::tr("as shot")}
                             : RouteState{RetouchBench::tr("%n spot(s)", nullptr, int(spots.size())), true, look};
    }
    [[nodiscard]] std::vector<StepKey> keys() override
    {
        return {{.keys = {Qt::Key_Delete, Qt::Key_Backspace}, .press = [this] { bench_->remove(); }}};
    }
    [[nodiscard]] std::vector<KeyHelp> key_help() const override
    {
        return {{RetouchBench::tr("Delete"), RetouchBench::tr("In Retouch: take the spot in hand away")}};
    }

private:
    RetouchController controller_;
    RetouchBench* bench_;
};

}

namespace {

/// Words of the trade for what is here.
constexpr std::array words{WhereWords{"Find dust", "sensor dust spots clean"},
                           WhereWords{"Make the clean plate", "background plate rig removal"},
                           WhereWords{"Follow what is under it", "track"},
                           WhereWords{"Place it here too", "wire rig removal support"}};

}

const StepModule& retouch_module()
{
    static const StepModule module{
        {"retouch"},
        QT_TRANSLATE_NOOP("frenlo::app::StepModule", "Dress"),
        [](const Services& s) -> std::unique_ptr<StepPage> { return std::make_unique<RetouchPage>(s); },
        words};
    return module;
}

}
