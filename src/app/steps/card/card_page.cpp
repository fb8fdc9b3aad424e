#include "app/steps/card/card_bench.h"
#include "app/steps/step_page.h"

namespace frenlo::app {

namespace {

/// The cards of Dress as the window sees them.
class CardPage : public StepPage
{
public:
    explicit CardPage(const Services& s) : viewing_(s.viewing), bench_(new CardBench(s.session, s.viewing)) {}

    [[nodiscard]] QWidget* bench() override { return bench_; }
    [[nodiscard]] QString page_name() const override { return CardBench::tr("Card"); }
    [[nodiscard]] RouteState route_state() const override
    {
        const bool card = text_card_of(*viewing_.shot()) != nullptr;
        return {card ? CardBench::tr("a card") : CardBench::tr("as shot"), card};
    }

private:
    Viewing& viewing_;
    CardBench* bench_;
};

}

const StepModule& card_module()
{
    static const StepModule module{
        {"card"},
        QT_TRANSLATE_NOOP("frenlo::app::StepModule", "Dress"),
        [](const Services& s) -> std::unique_ptr<StepPage> { return std::make_unique<CardPage>(s); }};
    return module;
}

}
