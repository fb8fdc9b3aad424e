#include "app/steps/export/export_bench.h"
#include "app/steps/step_page.h"

namespace frenlo::app {

namespace {

/// Export as the window sees it.
class ExportPage : public StepPage
{
public:
    explicit ExportPage(const Services& s)
        : exporter_(s.background), bench_(new ExportBench(s.background, s.session, s.viewing, exporter_))
    {
        for (const auto signal : {&Exporter::finished, &Exporter::stopped})
            connect(&exporter_, signal, this, &StepPage::route_changed);
        connect(&exporter_, &Exporter::failed, this, &StepPage::route_changed);
        connect(&exporter_, &Exporter::progress, this, [this](double fraction) {
            fraction_ = fraction;
            Q_EMIT route_changed();
        });
    }

    [[nodiscard]] QWidget* bench() override { return bench_; }

    [[nodiscard]] RouteState route_state() const override
    {
        if (exporter_.running())
            return {ExportBench::tr("writing, %1 %").arg(int(fraction_ * 100))};
        if (exporter_.last())
            return {ExportBench::tr("%1, checked").arg(to_qt(exporter_.last()->plan.file.filename())), true};
        return {ExportBench::tr("nothing yet")};
    }

private:
    Exporter exporter_;
    ExportBench* bench_;
    double fraction_ = 0;
};

}

const StepModule& export_module()
{
    static const StepModule module{
        {.key = "export", .about = StepInfo::About::either},
        QT_TRANSLATE_NOOP("frenlo::app::StepModule", "Export"),
        [](const Services& s) -> std::unique_ptr<StepPage> { return std::make_unique<ExportPage>(s); }};
    return module;
}

}
