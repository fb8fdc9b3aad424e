#include "app/steps/sort/sort_page.h"

#include "app/picture/picture_view.h"
#include "app/steps/sort/order_menu.h"
#include "app/steps/sort/sort_bench.h"
#include "app/steps/sort/sort_tools.h"
#include "core/cards/card_values.h"
#include "core/steps/sort/scan.h"

#include <QFileDialog>
#include <QPushButton>

#include <array>

namespace frenlo::app {

SortPage::SortPage(const Services& s)
    : background_(s.background), session_(s.session), viewing_(s.viewing), findings_(s.background, s.session, s.loader),
      controller_(s.background, s.session, s.viewing, findings_), filer_(s.background, s.session, s.filings),
      bench_(new SortBench(s.background, s.session, s.viewing, findings_, controller_, filer_)),
      tools_(new SortTools(s.session, s.viewing, controller_, s.picture)), order_(make_order_button(controller_))
{
    session_.set_journals(s.filings);
    connect(bench_, &SortBench::bring_folder_in, this, s.bring_folder_in);
    connect(bench_, &SortBench::ask_better_set, this, [this] { ask_better_set(*bench_); });
    connect(bench_, &SortBench::find_again, this, [this] { ask_where_photos_are(*bench_); });
    connect(bench_, &SortBench::show_photo, this, &SortPage::show_photo);
    connect(bench_, &SortBench::failed, this, &SortPage::told);
    connect(&findings_, &Findings::changed, this, &SortPage::route_changed);
    connect(&findings_, &Findings::failed, this, &SortPage::told);
    connect(&controller_, &SortController::failed, this, &SortPage::told);
    connect(&filer_, &Filer::progress, this, [this](double fraction, const QString& what) {
        if (filer_.running())
            Q_EMIT progress(fraction, what, [this] { filer_.stop(); });
    });
    connect(&filer_, &Filer::ended, this, [this](const QString& message, bool well) {
        Q_EMIT progress_ended();
        if (!well || !bench_->isVisible())
            Q_EMIT told(message);
    });
    filer_.finish_left_over();
}

QWidget* SortPage::bench()
{
    return bench_;
}

RouteState SortPage::route_state() const
{
    std::int64_t photos = 0, aside = 0;
    bool unsorted = false;
    for (const auto& s : session_.project().shots) {
        unsorted = unsorted || !s->parts.empty();
        if (text_card_of(*s)) // it is no photo
            continue;
        photos += photos_in_film(*s);
        aside += std::int64_t(s->photos.size()) - photos_in_film(*s);
    }
    QString text = tr("%n photo(s)", nullptr, int(photos));
    if (findings_.open() > 0)
        text += tr(", %1 to look at").arg(findings_.open());
    else if (aside > 0)
        text += tr(", %1 aside").arg(aside);
    return {text, findings_.open() == 0 && !unsorted, findings_.open() > 0};
}

std::vector<StepKey> SortPage::keys()
{
    using enum StepKey::Where;
    return {named(tr("Set aside, or bring back"), {{Qt::Key_X}, [this] { controller_.toggle_aside(); }, everywhere}),
            named(tr("First of a shot"), {{Qt::Key_BracketLeft}, [this] { controller_.first_here(); }}),
            named(tr("Last of a shot"), {{Qt::Key_BracketRight}, [this] { controller_.last_here(); }})};
}

std::vector<KeyHelp> SortPage::key_help() const
{
    return {{tr("X"), tr("set the selected photos aside, or bring them back")},
            {tr("[   ]"), tr("in Sort: first and last of a shot")},
            {tr("Alt + Left   Alt + Right"), tr("in Sort: move the selected photos")},
            {tr("F2"), tr("in the list of shots: name the shot")}};
}

void SortPage::ask_better_set(QWidget& beside)
{
    const ShotPtr shot = viewing_.edited_shot();
    if (!shot)
        return;
    auto* dialog = new QFileDialog(beside.window(), tr("Choose the folder with the better set"));
    dialog->setFileMode(QFileDialog::Directory);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QFileDialog::fileSelected, this, [this, shot](const QString& folder) {
        background_.run(
            this,
            [shot, places = std::array{from_qt(folder)}] {
                return Background::guarded([&] {
                    std::vector<PhotoPtr> have, better;
                    for (const auto& p : shot->photos)
                        have.push_back(p.photo);
                    for (const auto& found : scan(places, {.looking = Looking::at_headers}, {}).photos)
                        if (found.state == PhotoState::fine)
                            better.push_back(found.photo);
                    return plan_swap(have, better);
                });
            },
            [this, shot, folder](const Result<SwapPlan>& plan) {
                if (plan)
                    bench_->swap_page().show_plan(shot, *plan, folder);
                else
                    Q_EMIT told(QString::fromStdString(plan.error().text()));
            },
            Rank::measure);
    });
    dialog->open();
}

void SortPage::ask_where_photos_are(QWidget& beside)
{
    auto* dialog = new QFileDialog(beside.window(), tr("Choose the folder to look in"));
    dialog->setFileMode(QFileDialog::Directory);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QFileDialog::fileSelected, this,
            [this](const QString& folder) { session_.find_again(from_qt(folder)); });
    dialog->open();
}

namespace {

/// Words of the trade for what is here.
constexpr std::array words{WhereWords{"Bring a folder in…", "import open load ingest card"},
                           WhereWords{"Files in order…", "rename renumber copy number offload"},
                           WhereWords{"Swap photos…", "replace relink proxy conform"},
                           WhereWords{"Set aside", "reject delete hide cull remove"},
                           WhereWords{"Backdrop", "background transparent alpha colour"},
                           WhereWords{"Write sidecars", "xmp rating metadata"},
                           WhereWords{"Blink", "compare flip"}};

}

const StepModule& sort_module()
{
    static const StepModule module{
        {"sort", true},
        QT_TRANSLATE_NOOP("frenlo::app::StepModule", "Sort"),
        [](const Services& s) -> std::unique_ptr<StepPage> { return std::make_unique<SortPage>(s); },
        words};
    return module;
}

}
