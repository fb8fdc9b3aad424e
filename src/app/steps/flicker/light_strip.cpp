#include "app/steps/flicker/light_strip.h"

#include "app/theme/colours.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QSlider>
#include <QVBoxLayout>

#include <algorithm>

namespace frenlo::app {

namespace {
constexpr int between = 2; ///< pixels between before and after
}

LightStrip::LightStrip(Viewing& viewing, StripMaker& strips, QWidget* parent)
    : QWidget(parent), viewing_(viewing), strips_(strips), column_(new QSlider(Qt::Horizontal))
{
    setAccessibleName(tr("Strip of the shot"));
    setToolTip(
        tr("One column of each photo, all side by side: as shot above, evened below. A click goes to the photo"));
    column_->setAccessibleName(tr("Column of the strip"));
    column_->setToolTip(tr("Which column of the photos"));
    column_->setRange(0, 100);
    column_->setValue(50);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addStretch(1);
    column->addWidget(column_);
    setMinimumHeight(90);
    connect(column_, &QSlider::valueChanged, this, &LightStrip::show_shot);
    connect(&strips, &StripMaker::changed, this, qOverload<>(&QWidget::update));
}

void LightStrip::show_shot()
{
    strips_.make(column_->value() / 100.0);
    update();
}

void LightStrip::show_place(PhotoIndex photo)
{
    place_ = photo;
    update();
}

QRect LightStrip::room() const
{
    return rect().adjusted(0, 0, 0, -column_->height() - 4);
}

void LightStrip::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    const Colours c = Colours::of(palette());
    const Strip& s = strips_.strip();
    const QRect all = room();
    if (s.photos.empty()) {
        painter.setPen(c.second_ink);
        painter.drawText(all, Qt::AlignCenter | Qt::TextWordWrap,
                         strips_.fraction() < 1 ? tr("Reading the photos: %1 %").arg(int(strips_.fraction() * 100))
                                                : tr("The photos could not be read."));
        return;
    }
    const int half = (all.height() - between) / 2;
    const QRect above(all.left(), all.top(), all.width(), half),
        below(all.left(), all.bottom() - half + 1, all.width(), half);
    const double ratio = devicePixelRatioF();
    for (const auto& [image, where] : {std::pair(&s.before, above), std::pair(&s.after, below)}) {
        // Wider than the room, columns are averaged; narrower, each stays a sharp column.
        const auto how = image->width() > where.width() * ratio ? Qt::SmoothTransformation : Qt::FastTransformation;
        painter.drawImage(where, image->scaled((QSizeF(where.size()) * ratio).toSize(), Qt::IgnoreAspectRatio, how));
    }
    const auto at = std::find(s.photos.begin(), s.photos.end(), place_);
    if (at == s.photos.end())
        return;
    const double wide = double(all.width()) / double(s.photos.size()),
                 left = all.left() + wide * double(at - s.photos.begin());
    painter.setPen(QPen(c.clay, 1.5));
    painter.drawRect(QRectF(left, all.top(), std::max(2.0, wide), all.height() - 1));
}

void LightStrip::mousePressEvent(QMouseEvent* event)
{
    const auto& photos = strips_.strip().photos;
    const QRect all = room();
    if (photos.empty() || !all.contains(event->pos()))
        return;
    const double along = (event->position().x() - all.left()) / all.width();
    Q_EMIT photo_chosen(photos[std::min(photos.size() - 1, std::size_t(along * double(photos.size())))]);
}

}
