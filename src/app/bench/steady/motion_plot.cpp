#include "app/bench/steady/motion_plot.h"

#include "app/bench/plot_style.h"
#include "core/steady/transform.h"

#include <QEvent>
#include <QMouseEvent>
#include <QVBoxLayout>

#include <qcustomplot.h>

#include <algorithm>
#include <array>

namespace frenlo::app {

MotionPlot::MotionPlot(QWidget* parent) : QWidget(parent), plot_(new QCustomPlot)
{
    setAccessibleName(tr("Movement over the photos"));
    setToolTip(tr("What was taken out of each photo's place. Thick line: across; thin line: down (pixels, left); dotted: turn (degrees, right). A click goes to the photo"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(plot_);
    setMinimumHeight(90);
    plot_->addGraph();
    plot_->addGraph();
    plot_->addGraph(plot_->xAxis, plot_->yAxis2);
    plot_->addGraph(); // the place of the player
    plot_->yAxis2->setVisible(true);
    plot_->yAxis->setLabel(tr("px"));
    plot_->yAxis2->setLabel(tr("°"));
    connect(plot_, &QCustomPlot::mousePress, this, [this](QMouseEvent* event) { choose(event->pos()); });
    take_colours();
}

void MotionPlot::take_colours()
{
    const Colours c = Colours::of(palette());
    style_plot(*plot_, c, font());
    plot_->graph(0)->setPen(QPen(c.spruce, 2));
    plot_->graph(1)->setPen(QPen(c.ink, 1));
    plot_->graph(2)->setPen(QPen(c.second_ink, 1.5, Qt::DotLine));
    plot_->graph(3)->setPen(QPen(c.clay, 1.5));
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void MotionPlot::changeEvent(QEvent* event)
{
    QWidget::changeEvent(event);
    if (event->type() == QEvent::PaletteChange)
        take_colours();
}

void MotionPlot::show_shot(const Shot& shot)
{
    photos_.clear();
    std::array<QVector<double>, 3> lines;
    QVector<double> numbers;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shot.photos.size(); ++i) {
        const ShotPhoto& p = shot.photos[i];
        if (!shown[i] || !p.alignment)
            continue;
        const Motion m = motion_of(p.alignment->from_film, seen_size(p));
        photos_.emplace_back(std::int64_t(i));
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
    plot_->xAxis->setRange(1, std::max<double>(2, double(shot.photos.size())));
    plot_->yAxis->setRange(range_of({&lines[0], &lines[1]}, 1));
    plot_->yAxis2->setRange(range_of({&lines[2]}, 0.1));
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void MotionPlot::show_place(PhotoIndex photo)
{
    const QCPRange all = plot_->yAxis->range();
    const double at = double(photo.value + 1);
    plot_->graph(3)->setData({at, at}, {all.lower, all.upper}, true);
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void MotionPlot::choose(QPoint at)
{
    if (photos_.empty())
        return;
    const double number = plot_->xAxis->pixelToCoord(at.x());
    const auto nearest = std::min_element(photos_.begin(), photos_.end(), [&](PhotoIndex a, PhotoIndex b) {
        return std::abs(double(a.value + 1) - number) < std::abs(double(b.value + 1) - number);
    });
    Q_EMIT photo_chosen(*nearest);
}

}
