#include "app/bench/light/light_plot.h"

#include "app/bench/plot_style.h"

#include <QEvent>
#include <QMouseEvent>
#include <QVBoxLayout>

#include <qcustomplot.h>

#include <algorithm>
#include <cmath>

namespace frenlo::app {

namespace {
enum Graph { as_shot, evened, suspects, steps, place };
}

LightPlot::LightPlot(QWidget* parent) : QWidget(parent), plot_(new QCustomPlot)
{
    setAccessibleName(tr("Brightness over the photos"));
    setToolTip(tr("Thin line: as shot; thick line: evened; crosses: photos that stand out; triangles: the light changes and stays so. A click goes to the photo"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(plot_);
    setMinimumHeight(90);
    for (int n = as_shot; n <= place; ++n)
        plot_->addGraph();
    plot_->yAxis->setLabel(tr("stops"));
    connect(plot_, &QCustomPlot::mousePress, this, [this](QMouseEvent* event) { choose(event->pos()); });
    take_colours();
}

void LightPlot::take_colours()
{
    const Colours c = Colours::of(palette());
    style_plot(*plot_, c, font());
    plot_->graph(as_shot)->setPen(QPen(c.second_ink, 1));
    plot_->graph(evened)->setPen(QPen(c.spruce, 2));
    for (const auto& [graph, shape] : {std::pair(suspects, QCPScatterStyle::ssCross), std::pair(steps, QCPScatterStyle::ssTriangle)}) {
        plot_->graph(graph)->setLineStyle(QCPGraph::lsNone);
        plot_->graph(graph)->setPen(QPen(c.amber, 2));
        plot_->graph(graph)->setScatterStyle(QCPScatterStyle(shape, 8));
    }
    plot_->graph(place)->setPen(QPen(c.clay, 1.5));
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void LightPlot::changeEvent(QEvent* event)
{
    QWidget::changeEvent(event);
    if (event->type() == QEvent::PaletteChange)
        take_colours();
}

void LightPlot::show_shot(const Shot& shot)
{
    photos_.clear();
    QVector<double> numbers, before, after, odd, odd_at, jumps, jumps_at;
    const auto shown = in_film(shot);
    double low = 1e9, high = -1e9;
    for (std::size_t i = 0; i < shot.photos.size(); ++i) {
        const auto& light = shot.photos[i].light;
        if (!shown[i] || !light)
            continue;
        photos_.emplace_back(std::int64_t(i));
        const double number = double(i + 1);
        numbers << number;
        before << light->change.stops;
        after << light->after;
        low = std::min({low, light->change.stops, light->after});
        high = std::max({high, light->change.stops, light->after});
        if (light->change.suspect)
            odd_at << number, odd << light->change.stops;
        if (light->jump)
            jumps_at << number, jumps << light->change.stops;
    }
    plot_->graph(as_shot)->setData(numbers, before, true);
    plot_->graph(evened)->setData(numbers, after, true);
    plot_->graph(suspects)->setData(odd_at, odd, true);
    plot_->graph(steps)->setData(jumps_at, jumps, true);
    plot_->xAxis->setRange(1, std::max<double>(2, double(shot.photos.size())));
    if (low <= high) {
        const double air = std::max(0.02, 0.08 * (high - low));
        plot_->yAxis->setRange(low - air, high + air);
    }
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void LightPlot::show_place(PhotoIndex photo)
{
    const QCPRange all = plot_->yAxis->range();
    const double at = double(photo.value + 1);
    plot_->graph(place)->setData({at, at}, {all.lower, all.upper}, true);
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void LightPlot::choose(QPoint at)
{
    if (photos_.empty())
        return;
    const double number = plot_->xAxis->pixelToCoord(at.x());
    Q_EMIT photo_chosen(*std::min_element(photos_.begin(), photos_.end(), [&](PhotoIndex a, PhotoIndex b) {
        return std::abs(double(a.value + 1) - number) < std::abs(double(b.value + 1) - number);
    }));
}

}
