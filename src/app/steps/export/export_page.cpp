#include "app/sheet/reel_rows.h"
#include "app/steps/export/export_bench.h"
#include "app/steps/export/list_bench.h"
#include "app/steps/step_page.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "app/work/desktop.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QStackedWidget>
#include <QVBoxLayout>

#include <algorithm>
#include <array>

namespace frenlo::app {

namespace {

/// Export as the window sees it: what is looked at, and the list of what is written one after another.
class ExportPage : public StepPage
{
public:
    explicit ExportPage(const Services& s)
        : shelf_(s.kept / "presets.json"), exporter_(s.background, s.store.memory()),
          runner_(s.background, s.kept / "exports", s.store.memory()),
          bench_(new ExportBench(s.background, s.session, s.viewing, exporter_, shelf_)),
          list_(new ListBench(s.session, runner_, shelf_)), both_(new QWidget), stack_(new QStackedWidget),
          rows_(s.session, s.viewing, s.waveforms), this_film_(tool(ExportBench::tr("Export now"))),
          list_button_(tool(ExportBench::tr("Export list")))
    {
        auto* column = new QVBoxLayout(both_);
        column->setContentsMargins(0, 0, 0, 0);
        column->setSpacing(0);
        auto* row = new QHBoxLayout;
        row->setContentsMargins(14, 6, 14, 0);
        row->setSpacing(6);
        for (QPushButton* b : {this_film_, list_button_}) {
            b->setCheckable(true);
            row->addWidget(b);
            connect(b, &QPushButton::clicked, this, [this, b] { show(b == list_button_); });
        }
        row->addStretch();
        column->addLayout(row);
        stack_->addWidget(bench_);
        stack_->addWidget(list_);
        column->addWidget(stack_, 1);
        show(false);

        for (const auto signal : {&Exporter::finished, &Exporter::stopped})
            connect(&exporter_, signal, this, &StepPage::route_changed);
        connect(&exporter_, &Exporter::failed, this, &StepPage::route_changed);
        connect(&exporter_, &Exporter::progress, this, [this](double fraction) {
            fraction_ = fraction;
            Q_EMIT route_changed();
        });
        connect(bench_, &ExportBench::to_the_list, this, [this, &session = s.session](const ListedExport& listed) {
            runner_.add({listed}, session.project());
            show(true);
        });
        connect(&runner_, &ListRunner::changed, this, [this] {
            const auto left = int(std::count_if(runner_.entries().begin(), runner_.entries().end(), [](const auto& e) {
                return e.listed.state == ListState::waiting || e.listed.state == ListState::running;
            }));
            list_button_->setText(left > 0 ? ExportBench::tr("Export list · %n waiting", nullptr, left)
                                           : ExportBench::tr("Export list"));
            Q_EMIT route_changed();
        });
        connect(&runner_, &ListRunner::told, this, &StepPage::told);
        connect(&shelf_, &PresetShelf::failed, this, &StepPage::told);
        QMetaObject::invokeMethod(&shelf_, &PresetShelf::load,
                                  Qt::QueuedConnection); // when somebody hears what is told
        connect(&runner_, &ListRunner::ended, this, [](int done, int failed) {
            const QString text = ExportBench::tr("%n file(s) written", nullptr, done) +
                                 (failed > 0 ? ExportBench::tr(", %n failed", nullptr, failed) : QString());
            notify_desktop(ExportBench::tr("The export list is done"), text);
        });
        runner_.restore();
    }

    /// Of the Reel, as its own station shows it.
    [[nodiscard]] RowMeter* row_meter() override { return &rows_; }

    [[nodiscard]] QWidget* bench() override { return both_; }

    [[nodiscard]] RouteState route_state() const override
    {
        if (exporter_.running())
            return {ExportBench::tr("writing, %1 %").arg(int(fraction_ * 100))};
        if (const auto row = runner_.current())
            return {ExportBench::tr("list, %1 of %2").arg(*row + 1).arg(runner_.entries().size())};
        const auto failed = std::count_if(runner_.entries().begin(), runner_.entries().end(),
                                          [](const auto& e) { return e.listed.state == ListState::failed; });
        if (failed > 0)
            return {ExportBench::tr("%n failed", nullptr, int(failed)), false, true};
        if (exporter_.last())
            return {ExportBench::tr("%1, checked").arg(to_qt(exporter_.last()->plan.file.filename())), true};
        return {ExportBench::tr("nothing yet")};
    }

    [[nodiscard]] std::vector<StepKey> keys() override
    {
        return {named(ExportBench::tr("Take it off the list"),
                      {.keys = {Qt::Key_Delete}, .press = [this] { on_list([this] { list_->remove(); }); }}),
                named(ExportBench::tr("Up on the list"),
                      {.keys = {Qt::ALT | Qt::Key_Up}, .press = [this] { on_list([this] { list_->move(-1); }); }}),
                named(ExportBench::tr("Down on the list"),
                      {.keys = {Qt::ALT | Qt::Key_Down}, .press = [this] { on_list([this] { list_->move(1); }); }})};
    }
    [[nodiscard]] std::vector<KeyHelp> key_help() const override
    {
        return {{ExportBench::tr("Alt+↑  Alt+↓"), ExportBench::tr("On the export list: up, down")},
                {ExportBench::tr("Delete"), ExportBench::tr("On the export list: remove")}};
    }

private:
    void show(bool list)
    {
        stack_->setCurrentWidget(list ? static_cast<QWidget*>(list_) : bench_);
        this_film_->setChecked(!list);
        list_button_->setChecked(list);
    }
    template <class Do>
    void on_list(Do what)
    {
        if (stack_->currentWidget() == list_)
            what();
    }

    PresetShelf shelf_;
    Exporter exporter_;
    ListRunner runner_;
    ExportBench* bench_;
    ListBench* list_;
    QWidget* both_;
    QStackedWidget* stack_;
    ReelRows rows_;
    QPushButton* this_film_;
    QPushButton* list_button_;
    double fraction_ = 0;
};

}

namespace {

/// Words of the trade for what is here.
constexpr std::array words{WhereWords{"Format", "codec mp4 gif webm prores h264 render encode"},
                           WhereWords{"Largest file", "file size limit megabytes compress"},
                           WhereWords{"Quality", "bitrate crf"},
                           WhereWords{"Size", "resolution scale 4k 1080p"},
                           WhereWords{"Put on the export list", "queue batch render"},
                           WhereWords{"Presets", "template save settings profile"},
                           WhereWords{"Look ahead", "check verify dry run test before render"},
                           WhereWords{"dither", "banding"}};

}

const StepModule& export_module()
{
    static const StepModule module{
        {.key = "export", .about = StepInfo::About::either},
        QT_TRANSLATE_NOOP("frenlo::app::StepModule", "Export"),
        [](const Services& s) -> std::unique_ptr<StepPage> { return std::make_unique<ExportPage>(s); },
        words};
    return module;
}

}
