#include "app/steps/retouch/areas_part.h"
#include "app/steps/retouch/retouch_bench.h"
#include "app/steps/retouch/retouch_parts.h"
#include "app/steps/retouch/states_part.h"
#include "app/steps/step_page.h"

#include <array>

namespace frenlo::app {

namespace {

/// Retouch as the window sees it.
class RetouchPage : public StepPage
{
public:
    explicit RetouchPage(const Services& s)
        : controller_(s.background, s.session, s.viewing), areas_(s.background, s.session, s.viewing),
          spots_(new RetouchBench(s.viewing, controller_, s.picture, s.player)),
          area_part_(new AreasPart(s.viewing, areas_, s.picture, s.player)),
          bench_(new RetouchParts(
              {{RetouchBench::tr("Heal"), RetouchBench::tr("Spots, supports, dust: what should not be there"), spots_},
               {RetouchBench::tr("Areas"),
                RetouchBench::tr("Parts of the picture: toned by themselves, or shown from another "
                                 "photo"),
                area_part_},
               {RetouchBench::tr("States"),
                RetouchBench::tr("Finished versions of the same photos, switched along the film"),
                new StatesPart(s.viewing, areas_)}}))
    {
        connect(&areas_, &AreasController::failed, this, &StepPage::told);
        connect(&areas_, &AreasController::changed, this, &StepPage::route_changed);
        connect(&controller_, &RetouchController::failed, this, &StepPage::told);
        connect(&controller_, &RetouchController::changed, this, &StepPage::route_changed);
    }

    [[nodiscard]] QWidget* bench() override { return bench_; }
    [[nodiscard]] QString page_name() const override { return RetouchBench::tr("Retouch"); }
    [[nodiscard]] RouteState route_state() const override
    {
        const auto spots = controller_.spots().size(), areas = areas_.areas().size(), states = areas_.states().size();
        const Shot* shot = controller_.shot();
        const bool look = shot && (!retouch_notes(*shot).empty() || !area_notes(*shot).empty());
        QStringList said;
        if (spots > 0)
            said << RetouchBench::tr("%n spot(s)", nullptr, int(spots));
        if (areas > 0)
            said << RetouchBench::tr("%n area(s)", nullptr, int(areas));
        if (states > 0)
            said << RetouchBench::tr("%n state(s)", nullptr, int(states));
        return said.isEmpty() ? RouteState{RetouchBench::tr("as shot")}
                              : RouteState{said.join(QStringLiteral(" · ")), true, look};
    }
    [[nodiscard]] std::vector<StepKey> keys() override
    {
        return {named(RetouchBench::tr("Take what is in hand away"),
                      {.keys = {Qt::Key_Delete, Qt::Key_Backspace},
                       .press = [this] { area_part_->isVisible() ? areas_.remove() : spots_->remove(); }})};
    }
    [[nodiscard]] std::vector<KeyHelp> key_help() const override
    {
        return {{RetouchBench::tr("Delete"), RetouchBench::tr("In Retouch: take the spot or the area in hand away")}};
    }

private:
    RetouchController controller_;
    AreasController areas_;
    RetouchBench* spots_;
    AreasPart* area_part_;
    RetouchParts* bench_;
};

}

namespace {

/// Words of the trade for what is here.
constexpr std::array words{WhereWords{"Find dust", "sensor dust spots clean"},
                           WhereWords{"Make the clean plate", "background plate rig removal"},
                           WhereWords{"Follow what is under it", "track"},
                           WhereWords{"Place it here too", "wire rig removal support"},
                           WhereWords{"Outline an area", "mask roto lasso local adjustment dodge burn"},
                           WhereWords{"Brush an area", "mask paint"},
                           WhereWords{"Find what appears", "build up reveal one by one assemble"},
                           WhereWords{"Add a state", "day night version look switch variant"}};

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
