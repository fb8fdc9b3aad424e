#include "app/steps/card/card_bench.h"
#include "app/steps/step_page.h"

#include <array>

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

namespace {

/// Words of the trade for what is here.
constexpr std::array words{WhereWords{"Text of the card", "title credits caption intro end"},
                           WhereWords{"How the card moves", "roll scroll crawl credits"},
                           WhereWords{"Typeface", "font"}};

}

const StepModule& card_module()
{
    static const StepModule module{
        {"card"},
        QT_TRANSLATE_NOOP("frenlo::app::StepModule", "Dress"),
        [](const Services& s) -> std::unique_ptr<StepPage> { return std::make_unique<CardPage>(s); },
        words};
    return module;
}

}
