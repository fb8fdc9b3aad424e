#include "app/picture/picture_view.h"
#include "app/steps/frame/frame_bench.h"
#include "app/steps/step_page.h"
#include "core/picture/picture.h"

#include <array>

namespace frenlo::app {

namespace {

/// The frame of Dress as the window sees it.
class FramePage : public StepPage
{
public:
    explicit FramePage(const Services& s)
        : viewing_(s.viewing), controller_(s.session, s.viewing),
          bench_(new FrameBench(s.background, s.session, s.viewing, controller_, s.picture, s.player, s.store))
    {
        connect(bench_, &FrameBench::show_photo, this, &StepPage::show_photo);
        connect(bench_, &FrameBench::failed, this, &StepPage::told);
    }

    [[nodiscard]] QWidget* bench() override { return bench_; }
    [[nodiscard]] QString page_name() const override { return FrameBench::tr("Frame"); }
    [[nodiscard]] RouteState route_state() const override
    {
        const Shot& shot = *viewing_.shot();
        if (!is_dressed(shot))
            return {FrameBench::tr("as shot")};
        const Framing f = framing_of(shot);
        QStringList said;
        if (!f.shape.as_photos())
            said << QString::fromStdString(shape_text(f.shape));
        if (const auto views = views_of(shot).size(); views > 0)
            said << FrameBench::tr("%n view(s)", nullptr, int(views));
        return {said.isEmpty() ? FrameBench::tr("dressed") : said.join(QStringLiteral(", ")), true};
    }
    [[nodiscard]] std::vector<KeyHelp> key_help() const override { return {}; }

private:
    Viewing& viewing_;
    FrameController controller_;
    FrameBench* bench_;
};

}

namespace {

/// Words of the trade for what is here.
constexpr std::array words{WhereWords{"Own shape", "aspect ratio crop size resolution upright vertical square"},
                           WhereWords{"New view here", "pan zoom ken burns camera move keyframe drift"},
                           WhereWords{"Draw level", "straighten horizon rotate"},
                           WhereWords{"Find uprights", "keystone perspective converging verticals transform"},
                           WhereWords{"k1", "lens distortion barrel pincushion correction profile"},
                           WhereWords{"Bars", "letterbox cinema 2.39"},
                           WhereWords{"Miniature", "tilt shift toy"},
                           WhereWords{"Fade in", "fade from black"},
                           WhereWords{"Fade out", "fade to black"}};

}

const StepModule& frame_module()
{
    static const StepModule module{
        {"frame"},
        QT_TRANSLATE_NOOP("frenlo::app::StepModule", "Dress"),
        [](const Services& s) -> std::unique_ptr<StepPage> { return std::make_unique<FramePage>(s); },
        words};
    return module;
}

}
