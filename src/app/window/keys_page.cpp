#include "app/window/keys_page.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"

#include <QDialog>
#include <QGridLayout>
#include <QLabel>
#include <QObject>

namespace frenlo::app {

QWidget* make_keys_page(QWidget* parent)
{
    auto* page = new QDialog(parent);
    page->setAttribute(Qt::WA_DeleteOnClose);
    page->setWindowTitle(QObject::tr("Keys"));
    auto* grid = new QGridLayout(page);
    grid->setContentsMargins(24, 20, 24, 20);
    grid->setHorizontalSpacing(wide_gap * 2);
    grid->setVerticalSpacing(6);
    const std::pair<QString, QString> keys[] = {
        {QObject::tr("1 … 9"), QObject::tr("hold the selected photos for that many frames (all, if none is selected)")},
        {QObject::tr("+   -"), QObject::tr("hold them one frame longer, one frame shorter")},
        {QObject::tr("Space"), QObject::tr("play or stop")},
        {QObject::tr(",   ."), QObject::tr("one frame back, one frame on")},
        {QObject::tr("Shift + ,   Shift + ."), QObject::tr("one photo back, one photo on")},
        {QObject::tr("X"), QObject::tr("set the selected photos aside, or bring them back")},
        {QObject::tr("[   ]"), QObject::tr("start and end of the kept range; in Sort: first and last of a shot")},
        {QObject::tr("M"), QObject::tr("mark the photo under the player, or no longer")},
        {QObject::tr("G"), QObject::tr("onion skin")},
        {QObject::tr("B"), QObject::tr("held: as shot")},
        {QObject::tr("C"), QObject::tr("in Sort, held: the photo before, in place of this one")},
        {QObject::tr("Z"), QObject::tr("the picture at full size, or whole again")},
        {QObject::tr("Alt + Left   Alt + Right"), QObject::tr("slide the kept range one photo, with Shift ten; in Sort: move the selected photos")},
        {QObject::tr("Arrow keys, Page, Home, End"), QObject::tr("move on the Sheet; with Shift the selection grows")},
        {QObject::tr("Ctrl + A   Esc"), QObject::tr("select all photos of the shot; select none")},
        {QObject::tr("Arrow keys, with Shift"), QObject::tr("in Steady, moving by hand: the photo by 0.1 px, by 1 px; Esc ends it")},
        {QObject::tr("Page Up, Page Down, with Shift"), QObject::tr("in Steady, moving by hand: the photo is turned by 0.01°, by 0.1°")},
        {QObject::tr("F11   Esc"), QObject::tr("the picture on the full screen, and back")},
        {QObject::tr("Ctrl + 1 … Ctrl + 5"), QObject::tr("Sort, Pace, Steady, Light, Export")},
        {QObject::tr("Ctrl + Page Up   Ctrl + Page Down"), QObject::tr("the shot before, the next shot")},
        {QObject::tr("F2"), QObject::tr("in the list of shots: name the shot")},
        {QObject::tr("Ctrl + Z   Ctrl + Shift + Z"), QObject::tr("undo, redo")},
        {QObject::tr("Ctrl + N   Ctrl + O   Ctrl + S"), QObject::tr("new, open, save")},
        {QObject::tr("Ctrl + I"), QObject::tr("bring a folder of photos in")},
    };
    int row = 0;
    for (const auto& [key, what] : keys) {
        grid->addWidget(heading(key), row, 0);
        grid->addWidget(new QLabel(what), row, 1);
        ++row;
    }
    return page;
}

}
