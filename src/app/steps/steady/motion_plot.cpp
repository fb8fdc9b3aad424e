#include "app/steps/steady/motion_plot.h"

#include "core/base/transform.h"
#include "core/steps/steady/steady_values.h"

#include <qcustomplot.h>

#include <algorithm>
#include <array>

namespace frenlo::app {

MotionPlot::MotionPlot(QWidget* parent) : PhotoPlot(parent)
{
    setAccessibleName(tr("Movement over the photos"));
    setToolTip(tr("What was taken out of each photo's place. Thick line: across; thin line: down (pixels, left); "
                  "dotted: turn (degrees, right). A click goes to the photo"));
    plot_->addGraph();
    plot_->addGraph();
    plot_->addGraph(plot_->xAxis, plot_->yAxis2);
    plot_->yAxis2->setVisible(true);
    plot_->yAxis->setLabel(tr("px"));
    plot_->yAxis2->setLabel(tr("°"));
    plot_->graph(0)->setName(tr("across"));
    plot_->graph(1)->setName(tr("down"));
    plot_->graph(2)->setName(tr("turned"));
    begin();
}

void MotionPlot::paint_graphs(const Colours& c)
{
    plot_->graph(0)->setPen(QPen(c.spruce, 2));
    plot_->graph(1)->setPen(QPen(c.ink, 1));
    plot_->graph(2)->setPen(QPen(c.second_ink, 1.5, Qt::DotLine));
}

void MotionPlot::show_shot(const Shot& shot)
{
    std::vector<PhotoIndex> photos;
    std::array<QVector<double>, 3> lines;
    QVector<double> numbers;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shot.photos.size(); ++i) {
        const ShotPhoto& p = shot.photos[i];
        if (!shown[i] || !alignment_of(p))
            continue;
        const Motion m = motion_of(alignment_of(p)->from_film, seen_size(p));
        photos.emplace_back(std::int64_t(i));
        numbers << double(i + 1);
        lines[0] << m.shift.x;
        lines[1] << m.shift.y;
        lines[2] << m.turn_degrees;
    }
    for (int n = 0; n < 3; ++n)
        plot_->graph(n)->setData(numbers, lines[std::size_t(n)], true);
    const auto range_of = [](std::initializer_list<const QVector<double>*> values, double least) {
        double most = least;
        for (const auto* v : values)
            for (const double x : *v)
                most = std::max(most, std::abs(x));
        return QCPRange(-1.1 * most, 1.1 * most); // the reference lies in the middle
    };
    plot_->yAxis->setRange(range_of({&lines[0], &lines[1]}, 1));
    plot_->yAxis2->setRange(range_of({&lines[2]}, 0.1));
    show_photos(std::move(photos), shot.photos.size());
}

}
