#include "app/bench/sort/sort_bench.h"

#include "app/bench/layouts.h"
#include "app/theme/theme.h"
#include "core/base/text.h"
#include "core/document/edits.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QTreeWidget>
#include <QVBoxLayout>

#include <algorithm>
#include <array>

namespace frenlo::app {

namespace {

constexpr int most_findings = 100; ///< rows; what is beyond is counted

void empty(QLayout* layout)
{
    while (QLayoutItem* item = layout->takeAt(0)) {
        delete item->widget();
        delete item;
    }
}

/// "ferry_0001 – ferry_0048"
QString file_range(const Shot& shot)
{
    if (shot.photos.empty())
        return {};
    const auto stem = [](const ShotPhoto& p) { return QString::fromStdString(shown_path(p.photo->file.stem())); };
    return shot.photos.size() == 1 ? stem(shot.photos.front())
                                   : stem(shot.photos.front()) + QStringLiteral(" – ") + stem(shot.photos.back());
}

}

SortBench::SortBench(Session& session, Viewing& viewing, Findings& findings, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), findings_(findings), shots_(new QTreeWidget),
      findings_heading_(heading(tr("To look at")))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 12);
    column->setSpacing(10);
    build_tools(column);

    auto* halves = new QHBoxLayout;
    halves->setSpacing(wide_gap);
    auto* left = new QVBoxLayout;
    left->setSpacing(6);
    left->addWidget(heading(tr("Shots")));
    shots_->setAccessibleName(tr("List of shots"));
    shots_->setColumnCount(3);
    shots_->setHeaderHidden(true);
    shots_->setRootIsDecorated(false);
    shots_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
    shots_->setTextElideMode(Qt::ElideMiddle);
    shots_->setFrameShape(QFrame::NoFrame);
    shots_->setToolTip(tr("Double-click or F2 names a shot"));
    shots_->header()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
    shots_->header()->setSectionResizeMode(1, QHeaderView::Stretch);
    shots_->header()->setSectionResizeMode(2, QHeaderView::ResizeToContents);
    shots_->header()->setStretchLastSection(false);
    left->addWidget(shots_, 1);
    halves->addLayout(left, 1);

    auto* right = new QVBoxLayout;
    right->setSpacing(6);
    right->addWidget(findings_heading_);
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setAccessibleName(tr("Problems"));
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFocusPolicy(Qt::NoFocus);
    auto* list = new QWidget;
    findings_column_ = new QVBoxLayout(list);
    findings_column_->setContentsMargins(0, 0, 4, 0);
    findings_column_->setSpacing(4);
    scroll->setWidget(list);
    right->addWidget(scroll, 1);
    halves->addLayout(right, 1);
    column->addLayout(halves, 1);

    connect(&session, &Session::changed, this, &SortBench::refresh_shots);
    connect(&viewing, &Viewing::shot_changed, this, &SortBench::refresh_tools);
    connect(&viewing, &Viewing::selection_changed, this, &SortBench::refresh_tools);
    connect(&findings, &Findings::changed, this, &SortBench::refresh_findings);
    connect(shots_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (item)
            viewing_.set_shot(ShotIndex(shots_->indexOfTopLevelItem(item)));
    });
    connect(shots_, &QTreeWidget::itemChanged, this, [this](QTreeWidgetItem* item, int) {
        const ShotIndex shot(shots_->indexOfTopLevelItem(item));
        const std::string name = item->text(0).toStdString();
        // The list is refilled by this edit: not while its editor is closing.
        QMetaObject::invokeMethod(
            this,
            [this, shot, name] {
                session_.apply([&](const Project& p) { return rename_shot(p, shot, name); }, tr("Name the shot"));
                refresh_shots();
            },
            Qt::QueuedConnection);
    });
    refresh_shots();
    refresh_tools();
    refresh_findings();
}

void SortBench::build_tools(QVBoxLayout* column)
{
    auto* row = new QHBoxLayout;
    row->setSpacing(gap);
    auto* bring = tool(tr("Bring a folder in…"), tr("Add the photos of a folder as shots"));
    aside_ = tool(tr("Set aside"), tr("Keep the selected photos in the project, out of the film (X)"));
    by_name_ = tool(tr("by name"), tr("Natural order of the file names"));
    by_time_ = tool(tr("by capture time"), tr("As the camera's clock says"));
    reverse_ = tool(tr("Reverse"), tr("Last photo first"));
    row->addWidget(bring);
    row->addWidget(aside_);
    row->addStretch();
    row->addWidget(secondary(tr("Order")));
    row->addWidget(by_name_);
    row->addWidget(by_time_);
    row->addWidget(reverse_);
    column->addLayout(row);

    connect(bring, &QPushButton::clicked, this, &SortBench::bring_folder_in);
    connect(aside_, &QPushButton::clicked, this, &SortBench::toggle_aside);
    const auto order = [this](PhotoOrder wanted, const QString& name) {
        session_.apply([&](const Project& p) { return order_shot(p, viewing_.shot_index(), wanted); }, name);
    };
    connect(by_name_, &QPushButton::clicked, this, [=, this] { order(PhotoOrder::by_name, tr("Order by name")); });
    connect(by_time_, &QPushButton::clicked, this, [=, this] { order(PhotoOrder::by_time, tr("Order by capture time")); });
    connect(reverse_, &QPushButton::clicked, this, [this] {
        session_.apply([&](const Project& p) { return reverse_shot(p, viewing_.shot_index()); }, tr("Reverse the order"));
    });
}

void SortBench::toggle_aside()
{
    const Shot* shot = viewing_.shot();
    const auto photos = viewing_.selection().photos();
    if (!shot || photos.empty())
        return;
    const bool all_aside =
        std::all_of(photos.begin(), photos.end(), [&](PhotoIndex p) { return shot->photos[p.at()].aside; });
    session_.apply([&](const Project& p) { return set_aside(p, viewing_.shot_index(), photos, !all_aside); },
                   all_aside ? tr("Bring photos back") : tr("Set photos aside"));
}

void SortBench::refresh_tools()
{
    const Shot* shot = viewing_.shot();
    const auto photos = viewing_.selection().photos();
    const bool all_aside = shot && !photos.empty() && std::all_of(photos.begin(), photos.end(), [&](PhotoIndex p) {
        return p.at() < shot->photos.size() && shot->photos[p.at()].aside;
    });
    aside_->setText(all_aside ? tr("Bring back") : tr("Set aside"));
    aside_->setEnabled(!photos.empty());
    for (QPushButton* b : {by_name_, by_time_, reverse_})
        b->setEnabled(shot && shot->photos.size() > 1);
    if (shots_->topLevelItemCount() > viewing_.shot_index().value) {
        const QSignalBlocker quiet(shots_);
        shots_->setCurrentItem(shots_->topLevelItem(int(viewing_.shot_index().value)));
    }
}

void SortBench::refresh_shots()
{
    const QSignalBlocker quiet(shots_);
    shots_->clear();
    for (const auto& shot : session_.project().shots) {
        const auto in_film = photos_in_film(*shot);
        const auto aside = std::int64_t(shot->photos.size()) - in_film;
        auto* item = new QTreeWidgetItem(
            {QString::fromStdString(shot->name), file_range(*shot),
             aside > 0 ? tr("%1, %2 aside").arg(in_film).arg(aside) : QString::number(in_film)});
        item->setFlags(item->flags() | Qt::ItemIsEditable);
        item->setTextAlignment(2, Qt::AlignRight | Qt::AlignVCenter);
        item->setForeground(1, Colours::of(palette()).second_ink);
        shots_->addTopLevelItem(item);
    }
    if (shots_->topLevelItemCount() > viewing_.shot_index().value)
        shots_->setCurrentItem(shots_->topLevelItem(int(viewing_.shot_index().value)));
}

void SortBench::set_aside_there(const ToLookAt& finding)
{
    const std::array photo{finding.photo};
    session_.apply([&](const Project& p) { return set_aside(p, finding.shot, photo, true); }, tr("Set photos aside"));
}

void SortBench::refresh_findings()
{
    empty(findings_column_);
    const auto& all = findings_.all();
    findings_heading_->setText(findings_.open() > 0 ? tr("To look at: %1").arg(findings_.open()) : tr("To look at"));
    if (all.empty()) {
        QLabel* nothing = secondary(tr("Nothing. Every photo can be read and is in its place."));
        nothing->setWordWrap(true);
        findings_column_->addWidget(nothing);
    }
    for (int i = 0; i < std::min(int(all.size()), most_findings); ++i) {
        const ToLookAt finding = all[std::size_t(i)];
        auto* line = new QWidget;
        auto* row = new QHBoxLayout(line);
        row->setContentsMargins(0, 0, 0, 0);
        row->setSpacing(gap);
        auto* text = new QLabel(finding.settled ? finding.text + QLatin1Char(' ') + tr("It is set aside.")
                                                : look_at_this(finding.text));
        text->setWordWrap(true);
        if (finding.settled)
            make_secondary(text);
        row->addWidget(text, 1);
        if (finding.unusable && !finding.settled) {
            auto* aside = tool(tr("Set aside"));
            aside->setAccessibleDescription(finding.text);
            connect(aside, &QPushButton::clicked, this, [this, finding] {
                QMetaObject::invokeMethod(this, [this, finding] { set_aside_there(finding); }, Qt::QueuedConnection);
            });
            row->addWidget(aside);
        }
        auto* show = tool(tr("Show"));
        show->setAccessibleDescription(finding.text);
        connect(show, &QPushButton::clicked, this, [this, finding] { Q_EMIT show_photo(finding.shot, finding.photo); });
        row->addWidget(show);
        findings_column_->addWidget(line);
    }
    if (int(all.size()) > most_findings)
        findings_column_->addWidget(secondary(tr("and %1 more").arg(int(all.size()) - most_findings)));
    findings_column_->addStretch();
}

}
