#include "app/steps/export/trade_view.h"

#include "app/theme/colours.h"
#include "core/base/text.h"

#include <QPainter>

#include <algorithm>

namespace frenlo::app {

namespace {

constexpr int left = 48, right = 10, top = 8, below = 18; ///< margins, pixels

}

TradeView::TradeView(QWidget* parent) : QWidget(parent)
{
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
    setAccessibleName(tr("What was tried to keep the limit"));
    install_plot_accessibility();
    hide();
}

PlotWords::Point TradeView::spoken_point(int at) const
{
    const TriedSettings& t = tried_[std::size_t(at)];
    const QString bytes = QString::fromStdString(shown_bytes(t.bytes));
    const bool chosen = std::size_t(at) + 1 == tried_.size();
    return {(by_side_ ? tr("%1 pixels") : tr("quality %1")).arg(by_side_ ? t.size.width : t.quality),
            chosen      ? tr("%1, chosen").arg(bytes)
            : t.sampled ? tr("about %1").arg(bytes)
                        : bytes};
}

void TradeView::show_trade(const std::vector<TriedSettings>& tried, std::int64_t limit)
{
    tried_ = tried;
    limit_ = double(limit);
    setVisible(tried.size() > 1 && limit > 0);
    if (tried.empty())
        return;
    most_bytes_ = limit_;
    for (const TriedSettings& t : tried)
        most_bytes_ = std::max(most_bytes_, double(t.bytes));
    most_bytes_ *= 1.05;
    by_side_ = std::all_of(tried.begin(), tried.end(),
                           [&](const TriedSettings& t) { return t.quality == tried.front().quality; });
    QStringList said;
    for (const TriedSettings& t : tried) {
        const QString bytes = QString::fromStdString(shown_bytes(t.bytes));
        said << (by_side_ ? tr("%1 pixels: %2") : tr("quality %1: %2"))
                    .arg(by_side_ ? t.size.width : t.quality)
                    .arg(t.sampled ? tr("about %1").arg(bytes) : bytes);
    }
    setAccessibleDescription(said.join(QStringLiteral("; ")));
    setToolTip(said.join(QLatin1Char('\n')));
    update();
}

QPointF TradeView::place_of(const TriedSettings& t) const
{
    double most = 100;
    if (by_side_) {
        most = 1;
        for (const TriedSettings& other : tried_)
            most = std::max(most, double(other.size.width));
    }
    const double up = double(by_side_ ? t.size.width : t.quality) / most;
    return {left + (width() - left - right) * double(t.bytes) / most_bytes_,
            height() - below - (height() - top - below) * up};
}

void TradeView::paintEvent(QPaintEvent*)
{
    if (tried_.empty())
        return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Colours c = Colours::of(palette());
    QFont small = font();
    small.setPixelSize(11);
    painter.setFont(small);
    painter.setPen(QPen(c.line, 1));
    painter.drawLine(left, height() - below, width() - right, height() - below);
    painter.drawLine(left, top, left, height() - below);
    painter.setPen(c.second_ink);
    painter.drawText(QRect(0, 0, left - 4, height() - below), Qt::AlignRight | Qt::AlignTop,
                     by_side_ ? tr("side") : tr("quality"));
    const double at_limit = left + (width() - left - right) * limit_ / most_bytes_;
    painter.setPen(QPen(c.amber, 1.4, Qt::DashLine));
    painter.drawLine(QPointF(at_limit, top), QPointF(at_limit, height() - below));
    painter.setPen(c.second_ink);
    // On the side of the line that has room for it.
    const QString limit = tr("limit %1").arg(QString::fromStdString(shown_bytes(std::uintmax_t(limit_))));
    const int wide = painter.fontMetrics().horizontalAdvance(limit), foot = height() - below + 2;
    const int begins = at_limit + wide <= width() - right ? int(at_limit) : int(at_limit) - wide;
    painter.drawText(QRect(begins, foot, wide, below - 2), Qt::AlignLeft, limit);
    std::vector<QPointF> way, files;
    for (const TriedSettings& t : tried_) {
        way.push_back(place_of(t));
        if (!t.sampled)
            files.push_back(way.back());
    }
    std::sort(way.begin(), way.end(), [](const QPointF& a, const QPointF& b) { return a.x() < b.x(); });
    painter.setPen(QPen(c.second_ink, 1));
    painter.drawPolyline(way.data(), int(way.size()));
    painter.setBrush(c.ink);
    painter.setPen(Qt::NoPen);
    for (const QPointF& p : files)
        painter.drawEllipse(p, 2.5, 2.5);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(c.spruce, 2));
    painter.drawEllipse(place_of(tried_.back()), 6, 6);
}

}
