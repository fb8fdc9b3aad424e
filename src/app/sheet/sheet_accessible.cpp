#include "app/sheet/sheet_accessible.h"

#include "app/sheet/sheet_view.h"

#include <QAccessible>
#include <QAccessibleWidget>

#include <map>

namespace frenlo::app {

namespace {

/// One photo of the Sheet; there while the Sheet is.
class PhotoItem : public QAccessibleInterface
{
public:
    PhotoItem(SheetView& sheet, int photo) : sheet_(sheet), photo_(photo) {}

    [[nodiscard]] bool isValid() const override { return photo_ < sheet_.photos(); }
    [[nodiscard]] QObject* object() const override { return nullptr; }
    [[nodiscard]] QAccessibleInterface* childAt(int, int) const override { return nullptr; }
    [[nodiscard]] QAccessibleInterface* parent() const override
    {
        return QAccessible::queryAccessibleInterface(&sheet_);
    }
    [[nodiscard]] QAccessibleInterface* child(int) const override { return nullptr; }
    [[nodiscard]] int childCount() const override { return 0; }
    [[nodiscard]] int indexOfChild(const QAccessibleInterface*) const override { return -1; }
    [[nodiscard]] QString text(QAccessible::Text kind) const override
    {
        if (!isValid())
            return {};
        switch (kind) {
        case QAccessible::Name:
            return sheet_.photo_name(PhotoIndex(photo_));
        case QAccessible::Value:
            return sheet_.photo_hold(PhotoIndex(photo_));
        case QAccessible::Description:
            return sheet_.photo_state(PhotoIndex(photo_));
        default:
            return {};
        }
    }
    void setText(QAccessible::Text, const QString&) override {}
    [[nodiscard]] QRect rect() const override
    {
        const QRect tile = isValid() ? sheet_.tile_in_view(PhotoIndex(photo_)) : QRect();
        return {sheet_.viewport()->mapToGlobal(tile.topLeft()), tile.size()};
    }
    [[nodiscard]] QAccessible::Role role() const override { return QAccessible::ListItem; }
    [[nodiscard]] QAccessible::State state() const override
    {
        QAccessible::State s;
        s.selectable = s.multiSelectable = s.focusable = true;
        s.selected = isValid() && sheet_.is_selected(PhotoIndex(photo_));
        s.focused = isValid() && sheet_.hasFocus() && sheet_.current_photo() == PhotoIndex(photo_);
        s.offscreen = !isValid() || !sheet_.viewport()->rect().intersects(sheet_.tile_in_view(PhotoIndex(photo_)));
        return s;
    }

private:
    SheetView& sheet_;
    int photo_;
};

/// The Sheet as a list of its photos.
class SheetList : public QAccessibleWidget
{
public:
    explicit SheetList(SheetView& sheet) : QAccessibleWidget(&sheet, QAccessible::List), sheet_(sheet) {}
    ~SheetList() override
    {
        for (const auto& [photo, id] : items_)
            QAccessible::deleteAccessibleInterface(id);
    }

    [[nodiscard]] int childCount() const override { return sheet_.photos(); }
    [[nodiscard]] QAccessibleInterface* child(int at) const override
    {
        if (at < 0 || at >= childCount())
            return nullptr;
        auto [item, fresh] = items_.try_emplace(at, 0);
        if (fresh)
            item->second = QAccessible::registerAccessibleInterface(new PhotoItem(sheet_, at));
        return QAccessible::accessibleInterface(item->second);
    }
    [[nodiscard]] int indexOfChild(const QAccessibleInterface* child) const override
    {
        for (const auto& [photo, id] : items_)
            if (QAccessible::accessibleInterface(id) == child)
                return photo;
        return -1;
    }
    [[nodiscard]] QAccessibleInterface* childAt(int x, int y) const override
    {
        for (int i = 0; i < childCount(); ++i)
            if (auto* item = child(i); item->rect().contains(x, y))
                return item;
        return nullptr;
    }
    [[nodiscard]] QAccessibleInterface* focusChild() const override
    {
        return sheet_.hasFocus() ? child(int(sheet_.current_photo().value)) : nullptr;
    }

private:
    SheetView& sheet_;
    mutable std::map<int, QAccessible::Id> items_; ///< made when they are asked for
};

QAccessibleInterface* make(const QString&, QObject* object)
{
    auto* sheet = qobject_cast<SheetView*>(object);
    return sheet ? new SheetList(*sheet) : nullptr;
}

}

void install_sheet_accessibility()
{
    static const bool once = (QAccessible::installFactory(make), true);
    static_cast<void>(once);
}

}
