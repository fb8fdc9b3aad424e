#include "app/steps/reel/reel_list.h"

#include <QDropEvent>
#include <QHeaderView>
#include <QSignalBlocker>

#include <algorithm>

namespace frenlo::app {

ReelList::ReelList(Viewing& viewing, QWidget* parent) : QTreeWidget(parent), viewing_(viewing)
{
    setAccessibleName(tr("Shots of the Reel"));
    setToolTip(tr("Carry a shot to another place with the mouse; Alt and the arrow keys do the same"));
    setColumnCount(4);
    setHeaderLabels({tr("Shot"), tr("begins"), tr("lasts"), tr("then")});
    setRootIsDecorated(false);
    setUniformRowHeights(true);
    setFrameShape(QFrame::NoFrame);
    setDragDropMode(QAbstractItemView::InternalMove);
    setDropIndicatorShown(true);
    header()->setStretchLastSection(false);
    header()->setSectionResizeMode(0, QHeaderView::Stretch);
    for (const int column : {1, 2, 3})
        header()->setSectionResizeMode(column, QHeaderView::ResizeToContents);
    connect(this, &QTreeWidget::currentItemChanged, this, &ReelList::chosen_changed);
}

namespace {

QString then_text(const ReelPart& part, bool last)
{
    const QString frames = ReelList::tr(" %1 f").arg(part.join.frames());
    switch (part.item.join.kind) {
    case JoinKind::cut:
        return last ? QString() : ReelList::tr("cut");
    case JoinKind::dissolve:
        return ReelList::tr("dissolve") + frames;
    case JoinKind::dip:
        return ReelList::tr("dip") + frames;
    case JoinKind::wipe:
        return ReelList::tr("wipe") + frames;
    }
    return {};
}

}

void ReelList::fill()
{
    const ReelPage* reel = viewing_.reel();
    if (!reel)
        return;
    const auto before = chosen();
    const QSignalBlocker quiet(this);
    const auto parts = reel->film->parts();
    while (topLevelItemCount() > int(parts.size()))
        delete takeTopLevelItem(topLevelItemCount() - 1);
    while (topLevelItemCount() < int(parts.size())) {
        auto* item = new QTreeWidgetItem(this);
        item->setFlags(Qt::ItemIsSelectable | Qt::ItemIsEnabled | Qt::ItemIsDragEnabled);
    }
    ids_.clear();
    for (std::size_t i = 0; i < parts.size(); ++i) {
        const ReelPart& part = parts[i];
        ids_.push_back(part.item.id);
        QTreeWidgetItem* item = topLevelItem(int(i));
        QString name = QString::fromStdString(part.shot->name);
        if (part.item.speed != Fraction(1))
            name += tr(" · × %1").arg(part.item.speed.approx(), 0, 'g', 3);
        item->setText(0, name);
        item->setText(1, viewing_.length_text(part.frames.begin.value));
        item->setText(2, viewing_.length_text(part.frames.frames()));
        item->setText(3, then_text(part, i + 1 == parts.size()));
        item->setToolTip(3, part.held > 0 ? tr("A photo is held under it, since the ranges leave too little out")
                                          : QString());
    }
    const auto same = before ? std::find(ids_.begin(), ids_.end(), *before) : ids_.end();
    if (!ids_.empty())
        setCurrentItem(topLevelItem(same == ids_.end() ? 0 : int(same - ids_.begin())));
}

std::optional<std::size_t> ReelList::chosen_row() const
{
    const int row = indexOfTopLevelItem(currentItem());
    return row < 0 || std::size_t(row) >= ids_.size() ? std::nullopt : std::optional(std::size_t(row));
}

std::optional<ReelItemId> ReelList::chosen() const
{
    const auto row = chosen_row();
    return row ? std::optional(ids_[*row]) : std::nullopt;
}

void ReelList::choose(std::size_t row)
{
    setCurrentItem(topLevelItem(int(row)));
}

/// The list does not change itself: the project does, and the list follows.
void ReelList::dropEvent(QDropEvent* event)
{
    const auto item = chosen();
    if (event->source() != this || !item)
        return;
    QTreeWidgetItem* under = itemAt(event->position().toPoint());
    std::size_t to = ids_.size();
    if (under) {
        to = std::size_t(indexOfTopLevelItem(under));
        if (event->position().y() > visualItemRect(under).center().y())
            ++to;
    }
    event->setDropAction(Qt::IgnoreAction);
    event->accept();
    Q_EMIT carried(*item, to < ids_.size() ? std::optional(ids_[to]) : std::nullopt);
}

}
