#include "app/steps/sort/order_menu.h"

#include "app/steps/sort/sort_controller.h"
#include "app/theme/theme.h"

#include <QMenu>
#include <QPushButton>

namespace frenlo::app {

QPushButton* make_order_button(SortController& controller)
{
    auto* button = new QPushButton(QObject::tr("Order"));
    button->setFocusPolicy(Qt::TabFocus);
    button->setToolTip(
        QObject::tr("The order of the photos of this shot; by hand: drag chosen photos, or Alt with the arrow keys"));
    auto* menu = new QMenu(button);
    const auto add = [&](const QString& text, auto what) {
        QObject::connect(menu->addAction(text), &QAction::triggered, &controller, what);
    };
    add(QObject::tr("By name"), [&controller] { controller.order(PhotoOrder::by_name); });
    add(QObject::tr("By capture time"), [&controller] { controller.order(PhotoOrder::by_time); });
    menu->addSeparator();
    add(QObject::tr("Reverse"), [&controller] { controller.reverse(); });
    add(QObject::tr("First photo to the end"), [&controller] { controller.first_to_end(); });
    menu->addSeparator();
    add(QObject::tr("Turn chosen photos right"), [&controller] { controller.turn(1); });
    add(QObject::tr("Turn chosen photos left"), [&controller] { controller.turn(3); });
    make_menu_button(button);
    button->setMenu(menu);
    return button;
}

}
