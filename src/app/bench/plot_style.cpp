#include "app/bench/plot_style.h"

#include <qcustomplot.h>

namespace frenlo::app {

void style_plot(QCustomPlot& plot, const Colours& c, const QFont& font)
{
    QFont small = font;
    small.setPixelSize(11);
    plot.setBackground(c.raised);
    for (QCPAxis* axis : {plot.xAxis, plot.yAxis, plot.yAxis2}) {
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
        axis->ticker()->setTickCount(axis == plot.xAxis ? 5 : 3);
    }
}

}
