#include "app/widgets/photo_plot.h"

#include <qcustomplot.h>
#include <QEvent>
#include <QMouseEvent>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace frenlo::app {

PhotoPlot::PhotoPlot(QWidget* parent) : QWidget(parent), plot_(new QCustomPlot)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(plot_);
    setMinimumHeight(90);
    install_plot_accessibility();
    connect(plot_, &QCustomPlot::mousePress, this, [this](QMouseEvent* event) { choose(event->pos()); });
}

void PhotoPlot::begin()
{
    place_ = plot_->graphCount();
    plot_->addGraph();
    take_colours();
}

void PhotoPlot::take_colours()
{
    const Colours c = Colours::of(palette());
    QFont small = font();
    small.setPixelSize(11);
    plot_->setBackground(c.raised);
    for (QCPAxis* axis : {plot_->xAxis, plot_->yAxis, plot_->yAxis2}) {
        axis->setBasePen(QPen(c.line));
        axis->setTickPen(QPen(c.line));
        axis->setSubTicks(false);
        axis->setTickLength(0, 3);
        axis->setTickLabelColor(c.second_ink);
        axis->setLabelColor(c.second_ink);
        axis->setTickLabelFont(small);
        axis->setLabelFont(small);
        axis->setLabelPadding(1);
        axis->grid()->setPen(QPen(c.line, 1, Qt::DotLine));
        axis->grid()->setZeroLinePen(QPen(c.line));
        axis->ticker()->setTickCount(axis == plot_->xAxis ? 5 : 3);
    }
    paint_graphs(c);
    plot_->graph(place_)->setPen(QPen(c.clay, 1.5));
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void PhotoPlot::changeEvent(QEvent* event)
{
    QWidget::changeEvent(event);
    if (event->type() == QEvent::PaletteChange && place_ >= 0)
        take_colours();
}

void PhotoPlot::show_photos(std::vector<PhotoIndex> photos, std::size_t of)
{
    photos_ = std::move(photos);
    plot_->xAxis->setRange(1, std::max<double>(2, double(of)));
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

PlotWords::Point PhotoPlot::spoken_point(int at) const
{
    const double number = double(photos_[std::size_t(at)].value + 1);
    QStringList said;
    for (int n = 0; n < plot_->graphCount(); ++n) {
        const QCPGraph& graph = *plot_->graph(n);
        const auto here = graph.data()->findBegin(number, false);
        if (n == place_ || graph.name().isEmpty() || here == graph.data()->constEnd() || here->key != number)
            continue;
        constexpr int decimals = 2;
        said << tr("%1 %2 %3").arg(graph.name()).arg(here->value, 0, 'f', decimals).arg(graph.valueAxis()->label());
    }
    return {tr("photo %1").arg(number), said.join(QStringLiteral(", "))};
}

void PhotoPlot::show_place(PhotoIndex photo)
{
    const QCPRange all = plot_->yAxis->range();
    const double at = double(photo.value + 1);
    plot_->graph(place_)->setData({at, at}, {all.lower, all.upper}, true);
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void PhotoPlot::choose(QPoint at)
{
    if (photos_.empty())
        return;
    const double number = plot_->xAxis->pixelToCoord(at.x());
    Q_EMIT photo_chosen(*std::min_element(photos_.begin(), photos_.end(), [&](PhotoIndex a, PhotoIndex b) {
        return std::abs(double(a.value + 1) - number) < std::abs(double(b.value + 1) - number);
    }));
}

}
