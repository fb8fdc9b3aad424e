// What a screen reader says of the Sheet.
#include "app/sheet/sheet_accessible.h"
#include "app/sheet/sheet_view.h"

#include <QAccessible>

namespace frenlo::app {

int SheetView::photos() const
{
    return viewing_.shot() ? int(viewing_.shot()->photos.size()) : 0;
}

QString SheetView::photo_name(PhotoIndex photo) const
{
    const ShotPhoto& p = viewing_.shot()->photos[photo.at()];
    return tr("photo %1, %2").arg(photo.value + 1).arg(QString::fromStdString(shown_name(*p.photo)));
}

QString SheetView::photo_hold(PhotoIndex photo) const
{
    const Hold hold = viewing_.shot()->photos[photo.at()].hold;
    if (const auto* frames = std::get_if<Frames>(&hold))
        return tr("%n frame(s)", nullptr, int(frames->count));
    return QString::fromStdString(shown_hold(hold));
}

QString SheetView::photo_state(PhotoIndex photo) const
{
    const ShotPhoto& p = viewing_.shot()->photos[photo.at()];
    QStringList said;
    if (!p.flaw.empty())
        said << QString::fromStdString(p.flaw);
    if (p.aside)
        said << tr("set aside");
    if (p.marker_card)
        said << tr("marker card");
    if (p.marked)
        said << tr("marked");
    if (p.turns != 0)
        said << tr("turned");
    if (viewing_.shown_photo() == photo)
        said << tr("under the player");
    return said.join(QStringLiteral(", "));
}

bool SheetView::is_selected(PhotoIndex photo) const
{
    return viewing_.selection().contains(photo);
}

PhotoIndex SheetView::current_photo() const
{
    return viewing_.selection().current();
}

/// The one that the keys have moved to is read out.
void SheetView::tell_current_photo()
{
    if (!hasFocus() || !QAccessible::isActive() || current_photo().value >= photos())
        return;
    QAccessibleEvent event(this, QAccessible::Focus);
    event.setChild(int(current_photo().value));
    QAccessible::updateAccessibility(&event);
}

}
