#include "app/picture/onion_skin.h"

#include "app/picture/picture_view.h"
#include "app/widgets/layouts.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QLabel>
#include <QMenu>
#include <QSlider>
#include <QSpinBox>
#include <QWidgetAction>

#include <algorithm>

namespace frenlo::app {

double onion_opacity(const OnionSkin& skin, int away)
{
    return std::clamp(skin.strength, 0.0, 1.0) / std::max(1, away);
}

QImage difference_of(const QImage& picture, const QImage& other, double gain)
{
    if (picture.size() != other.size() || picture.format() != QImage::Format_RGB32 ||
        other.format() != QImage::Format_RGB32)
        return {};
    QImage out(picture.size(), QImage::Format_RGB32);
    constexpr int middle = 119; // the surround's grey
    const auto shown = [&](int a, int b) { return std::clamp(int(middle + gain * (a - b)), 0, 255); };
    for (int y = 0; y < picture.height(); ++y) {
        const auto* a = reinterpret_cast<const QRgb*>(picture.constScanLine(y));
        const auto* b = reinterpret_cast<const QRgb*>(other.constScanLine(y));
        auto* to = reinterpret_cast<QRgb*>(out.scanLine(y));
        for (int x = 0; x < picture.width(); ++x)
            to[x] =
                qRgb(shown(qRed(a[x]), qRed(b[x])), shown(qGreen(a[x]), qGreen(b[x])), shown(qBlue(a[x]), qBlue(b[x])));
    }
    return out;
}

QMenu* make_onion_menu(PictureView& picture, QWidget* parent)
{
    auto* menu = new QMenu(parent);
    auto* page = new QWidget;
    auto* grid = new QGridLayout(page);
    grid->setContentsMargins(14, 10, 14, 12);
    grid->setHorizontalSpacing(12);
    const auto number = [&](const QString& name, int row, int value) {
        auto* box = new QSpinBox;
        box->setRange(0, OnionSkin::most);
        box->setValue(value);
        box->setAccessibleName(name);
        grid->addWidget(secondary(name), row, 0);
        grid->addWidget(box, row, 1);
        return box;
    };
    const OnionSkin now = picture.onion_skin();
    QSpinBox* back = number(QObject::tr("Photos back"), 0, now.back);
    QSpinBox* ahead = number(QObject::tr("Photos on"), 1, now.ahead);
    auto* strength = new QSlider(Qt::Horizontal);
    strength->setRange(5, 100);
    strength->setValue(int(now.strength * 100));
    strength->setMinimumWidth(140);
    strength->setAccessibleName(QObject::tr("Strength of the onion skin"));
    grid->addWidget(secondary(QObject::tr("Strength")), 2, 0);
    grid->addWidget(strength, 2, 1);
    auto* difference = new QCheckBox(QObject::tr("Only what differs"));
    difference->setChecked(now.difference);
    difference->setToolTip(QObject::tr("From the nearest photo: grey where nothing moved"));
    grid->addWidget(difference, 3, 0, 1, 2);
    const auto take = [&picture, back, ahead, strength, difference] {
        OnionSkin skin = picture.onion_skin();
        skin.back = back->value();
        skin.ahead = ahead->value();
        skin.strength = strength->value() / 100.0;
        skin.difference = difference->isChecked();
        skin.on = true; // who sets it wants to see it
        picture.set_onion_skin(skin);
    };
    for (QSpinBox* box : {back, ahead})
        QObject::connect(box, &QSpinBox::valueChanged, page, take);
    QObject::connect(strength, &QSlider::valueChanged, page, take);
    QObject::connect(difference, &QCheckBox::toggled, page, take);
    auto* action = new QWidgetAction(menu);
    action->setDefaultWidget(page);
    menu->addAction(action);
    return menu;
}

}
