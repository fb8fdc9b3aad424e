#include "app/bench/sort/finding_list.h"

#include "app/bench/layouts.h"
#include "app/theme/theme.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include <algorithm>

namespace frenlo::app {

namespace {

constexpr int most_lines = 40; ///< what is beyond is counted

void empty(QLayout* layout)
{
    while (QLayoutItem* item = layout->takeAt(0)) {
        if (item->widget())
            item->widget()->deleteLater(); // one of its buttons may be what is being pressed
        delete item;
    }
}

}

FindingList::FindingList(Findings& findings, Sorting& sorting, QWidget* parent)
    : QWidget(parent), findings_(findings), sorting_(sorting), heading_(heading({}))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addWidget(heading_);
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setAccessibleName(tr("Problems"));
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFocusPolicy(Qt::NoFocus);
    auto* list = new QWidget;
    column_ = new QVBoxLayout(list);
    column_->setContentsMargins(0, 0, 4, 0);
    column_->setSpacing(4);
    list->setMinimumWidth(0);
    scroll->setWidget(list);
    column->addWidget(scroll, 1);
    connect(&findings, &Findings::changed, this, &FindingList::fill);
    fill();
}

void FindingList::apply(const ToLookAt& finding, Remedy remedy)
{
    if (remedy == Remedy::find_again)
        Q_EMIT find_again();
    else
        sorting_.remedy(finding, remedy);
}

QWidget* FindingList::line(const ToLookAt& finding)
{
    auto* line = new QWidget;
    auto* both = new QVBoxLayout(line);
    both->setContentsMargins(0, 0, 0, 4);
    both->setSpacing(3);
    const QString said = QString::fromStdString(finding.finding.text);
    auto* text = new QLabel(finding.settled ? tr("settled: %1").arg(said) : look_at_this(said));
    text->setWordWrap(true);
    both->addWidget(text);
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    row->setContentsMargins(14, 0, 0, 0);
    both->addLayout(row);
    if (finding.settled)
        make_secondary(text);
    // One button for the likeliest remedy; the others behind a menu.
    const auto& remedies = finding.finding.remedies;
    if (!finding.settled && !remedies.empty()) {
        auto* first = tool(remedy_text(remedies.front()));
        first->setAccessibleDescription(said);
        connect(first, &QPushButton::clicked, this, [this, finding] { apply(finding, finding.finding.remedies.front()); });
        row->addWidget(first);
    }
    auto* show = tool(tr("Show"));
    show->setAccessibleDescription(said);
    connect(show, &QPushButton::clicked, this, [this, finding] { Q_EMIT show_photo(finding.shot, finding.photo); });
    row->addWidget(show);
    if (finding.settled) {
        row->addStretch();
        return line;
    }
    auto* more = tool(tr("More"));
    more->setAccessibleDescription(said);
    auto* menu = new QMenu(more);
    for (std::size_t i = 1; i < remedies.size(); ++i)
        connect(menu->addAction(remedy_text(remedies[i])), &QAction::triggered, this,
                [this, finding, i] { apply(finding, finding.finding.remedies[i]); });
    connect(menu->addAction(tr("Leave it as it is")), &QAction::triggered, this, [this, finding] { sorting_.leave(finding); });
    make_menu_button(more);
    more->setMenu(menu);
    row->addWidget(more);
    row->addStretch();
    return line;
}

void FindingList::fill()
{
    empty(column_);
    const auto& all = findings_.all();
    heading_->setText(findings_.open() > 0 ? tr("To look at: %1").arg(findings_.open()) : tr("To look at"));
    if (all.empty()) {
        QLabel* nothing = secondary(tr("Nothing. Every photo can be read and is in its place."));
        nothing->setWordWrap(true);
        column_->addWidget(nothing);
    }
    for (int i = 0; i < std::min(int(all.size()), most_lines); ++i)
        column_->addWidget(line(all[std::size_t(i)]));
    if (int(all.size()) > most_lines)
        column_->addWidget(secondary(tr("and %1 more").arg(int(all.size()) - most_lines)));
    column_->addStretch();
}

}
