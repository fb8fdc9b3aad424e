#include "app/steps/sort/filer.h"

#include <QPointer>

namespace frenlo::app {

Filer::Filer(Background& background, Session& session, const std::filesystem::path& journals, QObject* parent)
    : QObject(parent), background_(background), session_(session), journals_(journals), task_(background, Rank::write)
{
    connect(&task_, &Task::progress, this, &Filer::progress);
    connect(&task_, &Task::failed, this, [this](const QString& message) { Q_EMIT ended(message, false); });
    connect(&task_, &Task::stopped, this,
            [this] { Q_EMIT ended(tr("Stopped; the others are where they were."), false); });
    connect(&session, &Session::started, this, [this] { last_.reset(); });
}

void Filer::start(const FilingPlan& plan)
{
    task_.start(
        {}, [plan, journals = journals_](const Job& job) { return run_filing(plan, journals, job); },
        [this](const Filing& filing) {
            last_ = filing.done.steps.empty() || filing.done.way == FilingWay::take_back ? std::nullopt
                                                                                         : std::optional(filing.done);
            follow(filing.done);
            Q_EMIT ended(said(filing), !filing.problem);
        });
}

void Filer::follow(const FilingPlan& done)
{
    if (done.way != FilingWay::move)
        return;
    Moved moved;
    for (const auto& [from, to] : done.steps)
        moved[from] = to;
    session_.relocate(std::move(moved));
}

QString Filer::said(const Filing& filing) const
{
    const int n = int(filing.done.steps.size());
    QString text = filing.done.way == FilingWay::copy   ? tr("%n file(s) copied.", nullptr, n)
                   : filing.done.way == FilingWay::move ? tr("%n file(s) moved.", nullptr, n)
                                                        : tr("%n file(s) removed again.", nullptr, n);
    if (filing.problem)
        text += QLatin1Char(' ') + QString::fromStdString(filing.problem->text());
    else if (filing.stopped)
        text += QLatin1Char(' ') + tr("Stopped; the others are where they were.");
    return text;
}

void Filer::take_back()
{
    if (last_)
        start(reversed(*last_));
}

void Filer::finish_left_over()
{
    background_.run(
        this, [journals = journals_] { return Background::guarded([&] { return finish_filings(journals, {}); }); },
        [this](const Result<std::vector<FinishedFiling>>& finished) {
            if (!finished) {
                Q_EMIT ended(QString::fromStdString(finished.error().text()), false);
                return;
            }
            if (finished->empty())
                return;
            std::size_t files = 0;
            QString problems;
            for (const auto& f : *finished) {
                files += f.files;
                for (const auto& p : f.problems)
                    problems += QLatin1Char(' ') + QString::fromStdString(p.text());
            }
            Q_EMIT ended(tr("Putting files in order was interrupted last time; it is finished now, %n file(s).",
                            nullptr, int(files)) +
                             problems,
                         problems.isEmpty());
        },
        Rank::save);
}

}
