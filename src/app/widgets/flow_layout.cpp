#include "app/widgets/flow_layout.h"

#include <QWidget>

#include <algorithm>

namespace frenlo::app {

FlowLayout::FlowLayout(QWidget* parent, bool last_right) : QLayout(parent), last_right_(last_right) {}

FlowLayout::~FlowLayout()
{
    for (QLayoutItem* item : items_)
        delete item;
}

void FlowLayout::insertWidget(int at, QWidget* widget)
{
    addWidget(widget);
    const auto place = items_.begin() + std::clamp(at, 0, count() - 1);
    std::rotate(place, items_.end() - 1, items_.end());
    invalidate();
}

QLayoutItem* FlowLayout::itemAt(int at) const
{
    return at >= 0 && at < count() ? items_[std::size_t(at)] : nullptr;
}

QLayoutItem* FlowLayout::takeAt(int at)
{
    QLayoutItem* item = itemAt(at);
    if (item) {
        items_.erase(items_.begin() + at);
        invalidate();
    }
    return item;
}

QSize FlowLayout::sizeHint() const
{
    QSize all(0, 0);
    for (const QLayoutItem* item : items_)
        if (!item->isEmpty()) {
            const QSize size = item->sizeHint();
            all = {all.width() + (all.width() > 0 ? spacing() : 0) + size.width(),
                   std::max(all.height(), size.height())};
        }
    const QMargins m = contentsMargins();
    return all + QSize(m.left() + m.right(), m.top() + m.bottom());
}

QSize FlowLayout::minimumSize() const
{
    QSize most(0, 0);
    for (const QLayoutItem* item : items_)
        if (!item->isEmpty())
            most = most.expandedTo(item->minimumSize());
    const QMargins m = contentsMargins();
    return most + QSize(m.left() + m.right(), m.top() + m.bottom());
}

void FlowLayout::setGeometry(const QRect& rect)
{
    QLayout::setGeometry(rect);
    laid(rect, true);
}

int FlowLayout::laid(const QRect& rect, bool move) const
{
    const QMargins m = contentsMargins();
    const QRect room = rect.marginsRemoved(m);
    struct Line
    {
        std::vector<QLayoutItem*> items;
        int width = 0, height = 0;
    };
    std::vector<Line> lines;
    for (QLayoutItem* item : items_) {
        if (item->isEmpty())
            continue;
        const QSize size = item->sizeHint();
        const int more = lines.empty() || lines.back().items.empty() ? size.width() : spacing() + size.width();
        if (lines.empty() || lines.back().width + more > room.width()) {
            lines.push_back({{item}, size.width(), size.height()});
            continue;
        }
        Line& line = lines.back();
        line.items.push_back(item);
        line.width += more;
        line.height = std::max(line.height, size.height());
    }
    int y = room.top();
    for (const Line& line : lines) {
        int x = room.left();
        for (QLayoutItem* item : line.items) {
            const QSize size = item->sizeHint();
            if (last_right_ && lines.size() == 1 && item == line.items.back() && line.items.size() > 1)
                x = std::max(x, room.right() + 1 - size.width());
            if (move) // in the middle of its line
                item->setGeometry({x, y + (line.height - size.height()) / 2,
                                   std::min(size.width(), std::max(1, room.width())), size.height()});
            x += size.width() + spacing();
        }
        y += line.height + spacing();
    }
    return y - room.top() - (lines.empty() ? 0 : spacing()) + m.top() + m.bottom();
}

}
