#include "app/steps/sort/finding_list.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include <algorithm>

namespace frenlo::app {

namespace {

constexpr int most_lines = 60; ///< of single findings; what is beyond is counted

void empty(QLayout* layout)
{
    while (QLayoutItem* item = layout->takeAt(0)) {
        if (item->widget())
            item->widget()->deleteLater(); // one of its buttons may be what is being pressed
        delete item;
    }
}

}

FindingList::FindingList(Findings& findings, SortController& sort_controller, QWidget* parent)
    : QWidget(parent), findings_(findings), sort_controller_(sort_controller), heading_(heading({}))
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

void FindingList::apply(std::span<const ToLookAt> findings, Remedy remedy)
{
    if (remedy == Remedy::find_again)
        Q_EMIT find_again();
    else
        sort_controller_.remedy(findings, remedy);
}

QWidget* FindingList::line(const QString& said, const FindingGroup& group)
{
    auto* line = new QWidget;
    auto* both = new QVBoxLayout(line);
    both->setContentsMargins(0, 0, 0, 4);
    both->setSpacing(3);
    const std::pair key(group.resolved, group.kind);
    const bool many = group.members.size() > 1, opened = many && opened_.contains(key);
    auto* text = new QLabel(!group.resolved ? look_at_this(said) : many ? said : tr("settled: %1").arg(said));
    text->setWordWrap(true);
    both->addWidget(text);
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    row->setContentsMargins(14, 0, 0, 0);
    both->addLayout(row);
    if (group.resolved)
        make_secondary(text);
    const auto button = [&](const QString& name) {
        auto* b = tool(name);
        b->setAccessibleDescription(said);
        row->addWidget(b);
        return b;
    };
    // One button for the likeliest remedy; the others behind a menu.
    const auto& remedies = group.remedies;
    if (!group.resolved && !remedies.empty())
        connect(button(remedy_text(remedies.front())), &QPushButton::clicked, this,
                [this, group] { apply(group.members, group.remedies.front()); });
    if (!many || !group.resolved) {
        auto* show = button(tr("Show"));
        if (many)
            show->setToolTip(tr("One after the other"));
        connect(show, &QPushButton::clicked, this, [this, group, key, many] {
            const ToLookAt& one = group.members[many ? next_[key]++ % group.members.size() : 0];
            Q_EMIT show_photo(one.shot, one.photo);
        });
    }
    const auto open_or_close = [this, key, opened] {
        if (opened)
            opened_.erase(key);
        else
            opened_.insert(key);
        fill();
    };
    const QString each = opened ? tr("All of them in one line") : tr("Each in its own line");
    if (group.resolved && many)
        connect(button(each), &QPushButton::clicked, this, open_or_close);
    if (!group.resolved) {
        auto* more = button(tr("More"));
        auto* menu = new QMenu(more);
        if (many)
            connect(menu->addAction(each), &QAction::triggered, this, open_or_close);
        for (std::size_t i = 1; i < remedies.size(); ++i)
            connect(menu->addAction(remedy_text(remedies[i])), &QAction::triggered, this,
                    [this, group, i] { apply(group.members, group.remedies[i]); });
        connect(menu->addAction(many ? tr("Leave them as they are") : tr("Leave it as it is")), &QAction::triggered,
                this, [this, group] { sort_controller_.leave(group.members); });
        make_menu_button(more);
        more->setMenu(menu);
    }
    row->addStretch();
    return line;
}

void FindingList::add_group(const FindingGroup& group, int& lines)
{
    const bool many = group.members.size() > 1;
    if (many)
        column_->addWidget(line(group_text(group), group));
    if (many && !opened_.contains({group.resolved, group.kind}))
        return;
    int beyond = 0;
    for (const ToLookAt& one : group.members) {
        if (++lines > most_lines) {
            ++beyond;
            continue;
        }
        QWidget* each = line(QString::fromStdString(one.finding.text),
                             {one.finding.kind, one.resolved, {one}, one.finding.remedies});
        if (many)
            each->setContentsMargins(14, 0, 0, 0);
        column_->addWidget(each);
    }
    if (beyond > 0)
        column_->addWidget(secondary(tr("and %1 more").arg(beyond)));
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
    int lines = 0;
    for (const FindingGroup& group : grouped(all))
        add_group(group, lines);
    column_->addStretch();
}

}
