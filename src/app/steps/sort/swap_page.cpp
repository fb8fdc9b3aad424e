#include "app/steps/sort/swap_page.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "core/project/edits.h"
#include "core/source/finding.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace frenlo::app {

namespace {

QString names(const std::vector<PhotoPtr>& photos)
{
    std::vector<std::filesystem::path> files;
    files.reserve(photos.size());
    for (const auto& p : photos)
        files.push_back(p->file);
    return QString::fromStdString(some_names(files));
}

}

SwapPage::SwapPage(Session& session, Viewing& viewing, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), heading_(heading({})), summary_(new QLabel),
      note_(notice()), go_(tool({}))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(gap);
    column->addWidget(heading_);
    summary_->setWordWrap(true);
    summary_->setAccessibleName(tr("What matches"));
    column->addWidget(summary_);
    note_->setAccessibleName(tr("What does not match"));
    column->addWidget(note_);
    column->addStretch();
    auto* row = new QHBoxLayout;
    row->setSpacing(gap);
    make_primary(go_);
    auto* leave = tool(tr("Leave the photos"));
    row->addWidget(go_);
    row->addWidget(leave);
    row->addStretch();
    column->addLayout(row);
    connect(go_, &QPushButton::clicked, this, &SwapPage::swap);
    connect(leave, &QPushButton::clicked, this, &SwapPage::closed);
}

void SwapPage::show_plan(const ShotPtr& shot, const SwapPlan& plan, const QString& folder)
{
    shot_ = shot;
    plan_ = plan;
    heading_->setText(tr("Swap the photos of “%1” for those in %2").arg(QString::fromStdString(shot->name), folder));
    const auto by_time = plan.matches.size() - plan.by_number;
    QString text = tr("%1 of %2 photos have a better one: %3 by number, %4 by capture time.")
                       .arg(plan.matches.size())
                       .arg(plan.matches.size() + plan.without_better.size())
                       .arg(plan.by_number)
                       .arg(by_time);
    text += QLatin1Char(' ') + tr("Holds, order and what is set aside stay.");
    summary_->setText(text);
    QStringList notes;
    if (!plan.without_better.empty())
        notes << tr("Without a better one, staying as they are: %1.").arg(names(plan.without_better));
    if (!plan.left_over.empty())
        notes << tr("Of the better set these stand for nothing here: %1.").arg(names(plan.left_over));
    if (plan.other_size)
        notes << tr("The better photos have another size; everything is scaled with them.");
    say(note_, notes.join(QLatin1Char(' ')));
    go_->setText(tr("Swap %n photo(s)", nullptr, int(plan.matches.size())));
    go_->setEnabled(!plan.matches.empty());
    Q_EMIT ready();
}

void SwapPage::swap()
{
    const auto& shots = session_.project().shots;
    const auto at = std::find(shots.begin(), shots.end(), shot_);
    if (at == shots.end()) { // edited while the page was open
        say(note_, tr("The shot has changed since; choose the folder again."));
        go_->setEnabled(false);
        return;
    }
    const ShotIndex shot(at - shots.begin());
    session_.apply([&](const Project& p) { return replace_photos(p, shot, plan_.matches); }, tr("Swap photos"));
    Q_EMIT closed();
}

}
