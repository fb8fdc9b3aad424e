#include "app/steps/sort/filing_page.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "core/base/text.h"
#include "core/steps/sort/write_sidecars.h"

#include <QButtonGroup>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTreeWidget>
#include <QVBoxLayout>

#include <algorithm>

namespace frenlo::app {

namespace {
constexpr std::size_t most_steps_shown = 2000; ///< what is beyond is counted
}

FilingPage::FilingPage(Session& session, Filer& filer, QWidget* parent)
    : QWidget(parent), session_(session), filer_(filer), folder_(new QLineEdit), copy_(tool(tr("Copy files"))),
      move_(tool(tr("Move originals"))), list_(new QTreeWidget), summary_(secondary({})), note_(notice()),
      go_(tool({})), take_back_(tool(tr("Take it back"))),
      sidecars_(tool(tr("Write sidecars"),
                     tr("Write holds, turns and what is set aside into an XMP file beside each photo; what other "
                        "programs wrote there stays")))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    auto* top = new QHBoxLayout;
    top->setSpacing(6);
    top->addWidget(heading(tr("Files in order")));
    top->addSpacing(gap);
    auto* ways = new QButtonGroup(this);
    for (QPushButton* b : {copy_, move_}) {
        b->setCheckable(true);
        ways->addButton(b);
        top->addWidget(b);
    }
    copy_->setChecked(true);
    top->addWidget(secondary(tr("to")));
    folder_->setAccessibleName(tr("Folder for the files"));
    top->addWidget(folder_, 1);
    auto* choose = tool(tr("Choose…"));
    top->addWidget(choose);
    column->addLayout(top);
    list_->setAccessibleName(tr("Which file goes where"));
    list_->setColumnCount(2);
    list_->setHeaderLabels({tr("now"), tr("then")});
    list_->setRootIsDecorated(false);
    list_->setUniformRowHeights(true);
    list_->setTextElideMode(Qt::ElideLeft);
    list_->setFrameShape(QFrame::NoFrame);
    list_->header()->setSectionResizeMode(QHeaderView::Stretch);
    column->addWidget(list_, 1);
    note_->setAccessibleName(tr("Notes on the files"));
    column->addWidget(note_);
    auto* row = new QHBoxLayout;
    row->setSpacing(gap);
    make_primary(go_);
    auto* leave = tool(tr("Back"));
    row->addWidget(go_);
    row->addWidget(take_back_);
    row->addWidget(sidecars_);
    row->addWidget(leave);
    row->addStretch();
    row->addWidget(summary_);
    column->addLayout(row);

    connect(choose, &QPushButton::clicked, this, &FilingPage::choose_folder);
    connect(folder_, &QLineEdit::editingFinished, this, &FilingPage::plan);
    connect(ways, &QButtonGroup::idClicked, this, &FilingPage::plan);
    connect(go_, &QPushButton::clicked, this, &FilingPage::go);
    connect(take_back_, &QPushButton::clicked, &filer, &Filer::take_back);
    connect(sidecars_, &QPushButton::clicked, this, &FilingPage::write_sidecars_beside);
    connect(leave, &QPushButton::clicked, this, &FilingPage::closed);
    connect(&filer, &Filer::ended, this, [this](const QString& message, bool well) {
        done_ = well && filer_.last().has_value();
        done_ ? refresh_buttons() : plan();
        if (done_)
            say(note_, {});
        summary_->setText(message);
    });
    connect(&session, &Session::changed, this, [this] {
        if (isVisible() && !done_)
            plan();
    });
}

void FilingPage::begin()
{
    if (folder_->text().isEmpty() && !session_.is_empty() && !session_.project().shots.front()->photos.empty()) {
        // Beside the photos' folder, so that a card's own folders stay as the camera made them.
        const auto of_photos = session_.project().shots.front()->photos.front().photo->file.parent_path();
        folder_->setText(to_qt(of_photos.parent_path() / "In order"));
    }
    plan();
}

void FilingPage::write_sidecars_beside()
{
    filer_.in_background(
        this, [project = session_.project()] { return write_sidecars(project, std::nullopt, {}); },
        [this](const SidecarReport& report) {
            QString text = tr("%1 sidecars written, %2 said so already").arg(report.written).arg(report.unchanged);
            if (!report.problems.empty())
                text += tr("; %1 could not be: %2")
                            .arg(report.problems.size())
                            .arg(QString::fromStdString(report.problems.front().text()));
            summary_->setText(text);
        });
}

void FilingPage::choose_folder()
{
    auto* dialog = new QFileDialog(this, tr("Put the files in order in"), folder_->text());
    dialog->setFileMode(QFileDialog::Directory);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QFileDialog::fileSelected, this, [this](const QString& folder) {
        folder_->setText(folder);
        plan();
    });
    dialog->open();
}

void FilingPage::plan()
{
    const auto number = ++plan_number_;
    done_ = false;
    const auto way = copy_->isChecked() ? FilingWay::copy : FilingWay::move;
    // Until it is known what that is: the plan before goes elsewhere.
    go_->setText(way == FilingWay::copy ? tr("Copy") : tr("Move"));
    go_->setEnabled(false);
    filer_.in_background(
        this,
        [project = session_.project(), folder = from_qt(folder_->text()), way] {
            return plan_filing(project, folder, way);
        },
        [this, number](FilingPlan plan) {
            if (number != plan_number_)
                return;
            plan_ = std::move(plan);
            show_plan();
        });
}

void FilingPage::show_plan()
{
    list_->clear();
    QList<QTreeWidgetItem*> items;
    const auto folder = from_qt(folder_->text());
    for (std::size_t i = 0; i < std::min(plan_.steps.size(), most_steps_shown); ++i) {
        const auto& [from, to] = plan_.steps[i];
        items << new QTreeWidgetItem({to_qt(from.filename()), to_qt(to.lexically_relative(folder))});
        items.back()->setToolTip(0, to_qt(from));
        items.back()->setToolTip(1, to_qt(to));
    }
    if (plan_.steps.size() > most_steps_shown)
        items << new QTreeWidgetItem({tr("and %1 more").arg(plan_.steps.size() - most_steps_shown)});
    list_->addTopLevelItems(items);
    summary_->setText(tr("%n file(s), %1. Nothing is overwritten.", nullptr, int(plan_.steps.size()))
                          .arg(QString::fromStdString(shown_bytes(plan_.bytes))));
    QString problem;
    if (!plan_.problems.empty()) {
        problem = QString::fromStdString(plan_.problems.front().text());
        if (plan_.problems.size() > 1)
            problem += QLatin1Char(' ') + tr("And %1 more.").arg(plan_.problems.size() - 1);
    }
    say(note_, problem);
    refresh_buttons();
}

void FilingPage::refresh_buttons()
{
    go_->setText(plan_.way == FilingWay::copy ? tr("Copy %n file(s)", nullptr, int(plan_.steps.size()))
                                              : tr("Move %n file(s)", nullptr, int(plan_.steps.size())));
    go_->setEnabled(plan_.problems.empty() && !filer_.running() && !done_);
    take_back_->setVisible(filer_.last().has_value() && !filer_.running());
}

void FilingPage::go()
{
    filer_.start(plan_);
    refresh_buttons();
}

}
