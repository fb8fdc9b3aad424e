#include "app/steps/flicker/light_plot.h"

#include "core/steps/flicker/flicker_edits.h"

#include <qcustomplot.h>

#include <algorithm>

namespace frenlo::app {

namespace {
enum Graph
{
    as_shot,
    evened,
    outliers,
    steps
};
}

LightPlot::LightPlot(QWidget* parent) : PhotoPlot(parent)
{
    setAccessibleName(tr("Brightness over the photos"));
    setToolTip(tr("Thin line: as shot; thick line: evened; crosses: photos that stand out; triangles: the light "
                  "changes and stays so. A click goes to the photo"));
    for (int n = as_shot; n <= steps; ++n)
        plot_->addGraph();
    plot_->graph(as_shot)->setName(tr("as shot"));
    plot_->graph(evened)->setName(tr("evened"));
    plot_->graph(outliers)->setName(tr("stands out"));
    plot_->graph(steps)->setName(tr("the light changes and stays so"));
    plot_->yAxis->setLabel(tr("stops"));
    begin();
}

void LightPlot::paint_graphs(const Colours& c)
{
    plot_->graph(as_shot)->setPen(QPen(c.second_ink, 1));
    plot_->graph(evened)->setPen(QPen(c.spruce, 2));
    for (const auto& [graph, shape] :
         {std::pair(outliers, QCPScatterStyle::ssCross), std::pair(steps, QCPScatterStyle::ssTriangle)}) {
        plot_->graph(graph)->setLineStyle(QCPGraph::lsNone);
        plot_->graph(graph)->setPen(QPen(c.amber, 2));
        plot_->graph(graph)->setScatterStyle(QCPScatterStyle(shape, 8));
    }
}

void LightPlot::show_shot(const Shot& shot)
{
    std::vector<PhotoIndex> photos;
    QVector<double> numbers, before, after, odd, odd_at, jumps, jumps_at;
    const auto shown = in_film(shot);
    double low = 1e9, high = -1e9;
    for (std::size_t i = 0; i < shot.photos.size(); ++i) {
        const auto& light = light_of(shot.photos[i]);
        if (!shown[i] || !light)
            continue;
        photos.emplace_back(std::int64_t(i));
        const double number = double(i + 1), now = *light_now(shot, photos.back());
        numbers << number;
        before << light->change.stops;
        after << now;
        low = std::min({low, light->change.stops, now});
        high = std::max({high, light->change.stops, now});
        if (light->change.outlier)
            odd_at << number, odd << light->change.stops;
        if (light->jump)
            jumps_at << number, jumps << light->change.stops;
    }
    plot_->graph(as_shot)->setData(numbers, before, true);
    plot_->graph(evened)->setData(numbers, after, true);
    plot_->graph(outliers)->setData(odd_at, odd, true);
    plot_->graph(steps)->setData(jumps_at, jumps, true);
    if (low <= high) {
        const double air = std::max(0.02, 0.08 * (high - low));
        plot_->yAxis->setRange(low - air, high + air);
    }
    show_photos(std::move(photos), shot.photos.size());
}

}
