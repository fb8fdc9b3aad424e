#include "app/steps/frame/frame_tool.h"

#include "app/theme/colours.h"
#include "core/picture/picture.h"

#include <QFontMetrics>
#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace frenlo::app {

namespace {

QPointF middle_of(const cv::Rect2d& box)
{
    return {box.x + box.width / 2, box.y + box.height / 2};
}

QPointF in_widget(QPointF share, const QRectF& where)
{
    return {where.left() + share.x() * where.width(), where.top() + share.y() * where.height()};
}

QPointF turned(QPointF p, double degrees)
{
    const double a = degrees * std::numbers::pi / 180;
    return {std::cos(a) * p.x() - std::sin(a) * p.y(), std::sin(a) * p.x() + std::cos(a) * p.y()};
}

}

FrameTool::FrameTool(Viewing& viewing, FrameController& frame_controller)
    : viewing_(viewing), frame_controller_(frame_controller)
{
    connect(&frame_controller, &FrameController::changed, this, &PictureTool::changed);
}

cv::Size FrameTool::shape(const Shot& shot) const
{
    return undressed_size(shot);
}

std::optional<FrameRequest> FrameTool::picture(const Shot& shot, PhotoIndex photo, cv::Size size) const
{
    FrameRequest request = request_for_shares(shot, std::array{Share{photo}}, size);
    const Framing f = framing_of(shot);
    if (f.straighten != 0 || f.uprights != 0)
        for (FramePart& part : request.parts)
            if (auto* placed = std::get_if<PlacedPhoto>(&part.what))
                placed->view = FrameView{.straighten = f.straighten, .uprights = f.uprights};
    return request;
}

QString FrameTool::caption() const
{
    if (level_)
        return tr("drag along what should be level or upright");
    return views_of(*viewing_.shot()).empty() ? tr("drag the frame or its corners") : tr("drag a view or its corners");
}

std::vector<FrameTool::Box> FrameTool::boxes() const
{
    std::vector<Box> all;
    const Shot* shot = viewing_.shot();
    if (!shot || undressed_size(*shot).empty())
        return all;
    const auto views = views_of(*shot);
    all.reserve(views.size() + 1);
    for (const PhotoIndex v : views) {
        const DriftView& view = *view_of(shot->photos[v.at()]);
        all.push_back({view.box, view.turn, v});
    }
    if (all.empty())
        all.push_back({still_view(framing_of(*shot), undressed_size(*shot)).box, 0, PhotoIndex(-1)});
    return all;
}

std::optional<std::size_t> FrameTool::in_hand(const std::vector<Box>& all) const
{
    const auto view = frame_controller_.view_in_hand();
    for (std::size_t i = 0; i < all.size(); ++i)
        if (all[i].photo == view.value_or(PhotoIndex(-1)))
            return i;
    return std::nullopt;
}

void FrameTool::paint(QPainter& painter, const QRectF& where, const QPalette& palette) const
{
    const Colours c = Colours::of(palette);
    const auto all = boxes();
    const auto hand = in_hand(all);
    painter.setRenderHint(QPainter::Antialiasing);
    const auto outline = [&](const Box& b) {
        const QPointF middle = in_widget(middle_of(b.box), where);
        const QPointF half(b.box.width * where.width() / 2, b.box.height * where.height() / 2);
        QPolygonF corners;
        for (const QPointF k : {QPointF(-1, -1), QPointF(1, -1), QPointF(1, 1), QPointF(-1, 1)})
            corners << middle + turned({k.x() * half.x(), k.y() * half.y()}, b.turn);
        return corners;
    };
    if (hand) { // what is outside of the one in hand steps back
        QPainterPath outside, inside;
        outside.addRect(where);
        inside.addPolygon(outline(all[*hand]));
        inside.closeSubpath();
        painter.fillPath(outside.subtracted(inside), QColor(0, 0, 0, 90));
    }
    for (std::size_t i = 0; i < all.size(); ++i) {
        const bool strong = hand == i;
        const QPolygonF corners = outline(all[i]);
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(QColor(0, 0, 0, strong ? 220 : 140), strong ? 4 : 2.5));
        painter.drawPolygon(corners);
        painter.setPen(QPen(Qt::white, strong ? 2 : 1.2, strong ? Qt::SolidLine : Qt::DashLine));
        painter.drawPolygon(corners);
        if (strong) {
            painter.setPen(QPen(c.ink, 1));
            painter.setBrush(Qt::white);
            for (const QPointF& k : corners)
                painter.drawEllipse(k, 4.5, 4.5);
            painter.setPen(QPen(QColor(255, 255, 255, 90), 1)); // thirds
            for (const double t : {1 / 3.0, 2 / 3.0}) {
                painter.drawLine(corners[0] + (corners[1] - corners[0]) * t,
                                 corners[3] + (corners[2] - corners[3]) * t);
                painter.drawLine(corners[0] + (corners[3] - corners[0]) * t,
                                 corners[1] + (corners[2] - corners[1]) * t);
            }
            // What screens are sure to show, and where letters are safe: EBU R 95.
            painter.setBrush(Qt::NoBrush);
            for (const double share : {0.93, 0.90}) {
                const QPointF middle = (corners[0] + corners[2]) / 2;
                QPolygonF safe;
                for (const QPointF& k : corners)
                    safe << middle + (k - middle) * share;
                painter.setPen(QPen(QColor(255, 255, 255, 110), 1, share > 0.91 ? Qt::DashLine : Qt::DotLine));
                painter.drawPolygon(safe);
            }
        }
        if (all[i].photo.value < 0)
            continue;
        const QString name = tr("view %1 · photo %2").arg(i + 1).arg(all[i].photo.value + 1);
        const QFontMetrics metrics(painter.font());
        const QRectF tab(corners[0], QSizeF(metrics.horizontalAdvance(name) + 14, metrics.height() + 2));
        painter.setPen(Qt::NoPen);
        painter.setBrush(strong ? QColor(Qt::white) : c.ink);
        painter.drawRect(tab);
        painter.setPen(strong ? c.ink : QColor(Qt::white));
        painter.drawText(tab, Qt::AlignCenter, name);
    }
    if (all.size() > 1) {
        // The way of the middle, as it is drifted along.
        std::vector<DriftKnot> knots;
        knots.reserve(all.size());
        for (const Box& b : all)
            knots.push_back({double(b.photo.value), {b.box, b.turn}});
        const DriftPath path(knots, Ease::none, 0);
        QPainterPath way;
        constexpr int steps = 96;
        for (int i = 0; i <= steps; ++i) {
            const double at = knots.front().frame + (knots.back().frame - knots.front().frame) * i / steps;
            const QPointF p = in_widget(middle_of(path.at(at).box), where);
            i == 0 ? way.moveTo(p) : way.lineTo(p);
        }
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(QColor(0, 0, 0, 160), 3));
        painter.drawPath(way);
        painter.setPen(QPen(Qt::white, 1.4));
        painter.drawPath(way);
        painter.setBrush(Qt::white);
        for (const Box& b : all)
            painter.drawEllipse(in_widget(middle_of(b.box), where), 3.5, 3.5);
    }
    if (drawing_) {
        painter.setPen(QPen(Qt::black, 4));
        painter.drawLine(in_widget(from_, where), in_widget(to_, where));
        painter.setPen(QPen(Qt::white, 2));
        painter.drawLine(in_widget(from_, where), in_widget(to_, where));
    }
}

QPointF FrameTool::in_box(const Box& b, QPointF at) const
{
    const cv::Size size = undressed_size(*viewing_.shot());
    const QPointF away = at - middle_of(b.box);
    const QPointF straight = turned({away.x() * size.width, away.y() * size.height}, -b.turn);
    return {straight.x() / (b.box.width * size.width), straight.y() / (b.box.height * size.height)};
}

void FrameTool::begin_level_line()
{
    level_ = true;
    Q_EMIT changed();
}

void FrameTool::press(QPointF at)
{
    from_ = to_ = at;
    if (level_) {
        drawing_ = true;
        return;
    }
    const auto all = boxes();
    // The one in hand first: it may lie below others.
    std::vector<std::size_t> order;
    if (const auto hand = in_hand(all))
        order.push_back(*hand);
    for (std::size_t i = all.size(); i-- > 0;)
        order.push_back(i);
    held_ = Hold::none;
    for (const std::size_t i : order) {
        const QPointF p = in_box(all[i], at);
        const double corner_reach = 0.04 / std::max(0.05, std::min(all[i].box.width, all[i].box.height));
        const bool near_x = std::abs(std::abs(p.x()) - 0.5) < corner_reach,
                   near_y = std::abs(std::abs(p.y()) - 0.5) < corner_reach;
        if (near_x && near_y)
            held_ = Hold::corner;
        else if (std::abs(p.x()) < 0.5 && std::abs(p.y()) < 0.5)
            held_ = Hold::all;
        if (held_ == Hold::none)
            continue;
        pressed_ = all[i];
        corner_x_ = p.x() < 0 ? -1 : 1;
        corner_y_ = p.y() < 0 ? -1 : 1;
        frame_controller_.begin_change();
        if (pressed_.photo.value >= 0)
            frame_controller_.take_in_hand(pressed_.photo);
        return;
    }
}

void FrameTool::drag(QPointF at)
{
    to_ = at;
    if (drawing_) {
        Q_EMIT changed();
        return;
    }
    if (held_ == Hold::none)
        return;
    Box b = pressed_;
    if (held_ == Hold::all) {
        b.box.x += at.x() - from_.x();
        b.box.y += at.y() - from_.y();
        if (b.turn == 0) { // it stays on the photo where it lay on it
            if (pressed_.box.x >= 0 && pressed_.box.br().x <= 1)
                b.box.x = std::clamp(b.box.x, 0.0, 1 - b.box.width);
            if (pressed_.box.y >= 0 && pressed_.box.br().y <= 1)
                b.box.y = std::clamp(b.box.y, 0.0, 1 - b.box.height);
        }
        return set(b);
    }
    // A corner: the one across from it stays.
    const QPointF p = in_box(pressed_, at);
    double wide = std::max(0.02, p.x() * corner_x_ + 0.5), high = std::max(0.02, p.y() * corner_y_ + 0.5);
    const double ratio = frame_controller_.box_ratio();
    if (ratio > 0 || pressed_.photo.value >= 0)
        wide = high = std::max(wide, high);
    b.box.width = std::clamp(pressed_.box.width * wide, 0.01, 4.0);
    b.box.height = std::clamp(pressed_.box.height * high, 0.01, 4.0);
    if (ratio > 0)
        b.box.height = b.box.width / ratio;
    const cv::Size size = undressed_size(*viewing_.shot());
    const QPointF grown((b.box.width - pressed_.box.width) * corner_x_ / 2 * size.width,
                        (b.box.height - pressed_.box.height) * corner_y_ / 2 * size.height);
    const QPointF shift = turned(grown, b.turn);
    const QPointF middle = middle_of(pressed_.box) + QPointF(shift.x() / size.width, shift.y() / size.height);
    b.box.x = middle.x() - b.box.width / 2;
    b.box.y = middle.y() - b.box.height / 2;
    set(b);
}

void FrameTool::release(QPointF at)
{
    if (drawing_) {
        drawing_ = false;
        level_ = false;
        const cv::Size size = undressed_size(*viewing_.shot());
        const double across = (at.x() - from_.x()) * size.width, down = (at.y() - from_.y()) * size.height;
        if (std::hypot(across, down) > 0.02 * size.width) {
            double slope = std::atan2(down, across) * 180 / std::numbers::pi; // clockwise from level
            slope -= 90 * std::round(slope / 90);                             // or from upright
            Q_EMIT levelled(framing_of(*viewing_.shot()).straighten - slope);
        }
        Q_EMIT changed();
        return;
    }
    drag(at);
    held_ = Hold::none;
}

void FrameTool::set(const Box& b)
{
    if (b.photo.value >= 0)
        frame_controller_.set_view(b.photo, {b.box, b.turn});
    else
        frame_controller_.change([&](Framing& f) { f.crop = b.box; }, tr("Set the frame"));
}

}
