#include "app/steps/layers/layer_list.h"

#include "app/widgets/layouts.h"

#include <QHeaderView>
#include <QSignalBlocker>

namespace frenlo::app {

LayerList::LayerList(Viewing& viewing, LayersController& controller, QWidget* parent)
    : QTreeWidget(parent), viewing_(viewing), controller_(controller)
{
    setAccessibleName(tr("List of layers"));
    setToolTip(tr("The highest first; the tick switches a layer on and off"));
    setColumnCount(2);
    setHeaderLabels({tr("Layer"), tr("frames")});
    setRootIsDecorated(false);
    setUniformRowHeights(true);
    setFrameShape(QFrame::NoFrame);
    header()->setStretchLastSection(false);
    header()->setSectionResizeMode(0, QHeaderView::Stretch);
    header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
    connect(this, &QTreeWidget::currentItemChanged, this, [this] {
        const int row = indexOfTopLevelItem(currentItem());
        if (row >= 0 && std::size_t(row) < ids_.size())
            controller_.choose(ids_[std::size_t(row)]);
    });
    connect(this, &QTreeWidget::itemChanged, this, [this](QTreeWidgetItem* item, int column) {
        const int row = indexOfTopLevelItem(item);
        if (column != 0 || row < 0 || std::size_t(row) >= ids_.size())
            return;
        const bool on = item->checkState(0) == Qt::Checked;
        controller_.choose(ids_[std::size_t(row)]);
        controller_.begin_change();
        controller_.change([&](Layer& l) { l.on = on; }, on ? tr("Switch the layer on") : tr("Switch the layer off"));
    });
}

QString LayerList::frames_text(const Layer& layer) const
{
    const Rate rate = controller_.project().delivered_at;
    const std::int64_t begin = (layer.begin.value * rate.value()).rounded();
    const std::int64_t end = layer.end ? (layer.end->value * rate.value()).rounded() : viewing_.film_frames();
    return layer.begin.value == Fraction(0) && !layer.end ? tr("all") : tr("%1 – %2").arg(begin + 1).arg(end);
}

void LayerList::fill()
{
    const QSignalBlocker quiet(this);
    const auto all = controller_.layers();
    const Layer* hand = controller_.layer();
    set_lines(*this, all.size());
    ids_.clear();
    for (std::size_t i = 0; i < all.size(); ++i) {
        const Layer& layer = all[all.size() - 1 - i];
        ids_.push_back(layer.id);
        QTreeWidgetItem* item = topLevelItem(int(i));
        QString text = QString::fromStdString(layer.name) + QStringLiteral(" · ") + controller_.kind_text(layer);
        if (layer.behind)
            text += tr(" · behind");
        if (layer.locked)
            text += tr(" · locked");
        item->setText(0, text);
        item->setText(1, frames_text(layer));
        item->setCheckState(0, layer.on ? Qt::Checked : Qt::Unchecked);
        if (hand && hand->id == layer.id)
            setCurrentItem(item);
    }
}

}
