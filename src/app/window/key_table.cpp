#include "app/window/key_table.h"

#include <QAbstractButton>
#include <QAction>
#include <QApplication>
#include <QComboBox>
#include <QKeyEvent>
#include <QTreeWidget>

#include <algorithm>

namespace frenlo::app {

KeyTable::KeyTable(Viewing& viewing, QWidget& window, QWidget& sheet)
    : QObject(&window), viewing_(viewing), window_(window), sheet_(sheet)
{
    qApp->installEventFilter(this);
}

void KeyTable::add(std::string_view step, std::vector<StepKey> keys)
{
    for (StepKey& key : keys) {
        if (key.press)
            for (const QKeySequence& typed : key.keys) {
                QAction*& action = actions_[typed];
                if (!action) {
                    action = new QAction(&window_);
                    action->setShortcut(typed);
                    action->setAutoRepeat(false);
                    connect(action, &QAction::triggered, this, [this, typed] { press(typed); });
                    window_.addAction(action);
                }
                action->setAutoRepeat(action->autoRepeat() || key.repeats);
            }
        meanings_.push_back({step, std::move(key)});
    }
    // The most particular meaning of a key comes first.
    std::stable_sort(meanings_.begin(), meanings_.end(),
                     [](const Meaning& a, const Meaning& b) { return a.key.where < b.key.where; });
}

bool KeyTable::applies(const Meaning& meaning) const
{
    switch (meaning.key.where) {
    case StepKey::Where::step:
        return viewing_.is_step(meaning.step);
    case StepKey::Where::rows:
        return !viewing_.step().tiles && !viewing_.on_reel();
    case StepKey::Where::everywhere:
        return true;
    }
    return false;
}

void KeyTable::press(const QKeySequence& keys)
{
    for (const Meaning& m : meanings_)
        if (m.key.press && m.key.keys.contains(keys) && applies(m))
            return m.key.press();
}

bool KeyTable::on_sheet(const QKeySequence& keys, bool pressed, bool again)
{
    for (const Meaning& m : meanings_) {
        if (!m.key.on_sheet || !m.key.keys.contains(keys) || !applies(m))
            continue;
        if (pressed && m.key.on_sheet(again))
            return true;
        if (!pressed && m.key.release) {
            if (!again)
                m.key.release();
            return true;
        }
    }
    return false;
}

bool KeyTable::eventFilter(QObject* watched, QEvent* event)
{
    const bool pressed = event->type() == QEvent::KeyPress;
    if ((pressed || event->type() == QEvent::KeyRelease) && watched == &sheet_) { // an action only knows presses
        const auto* key = static_cast<QKeyEvent*>(event);
        return on_sheet(QKeySequence(key->keyCombination()), pressed, key->isAutoRepeat());
    }
    if (event->type() != QEvent::ShortcutOverride)
        return false;
    const auto* key = static_cast<QKeyEvent*>(event);
    const bool plain = !(key->modifiers() & (Qt::ControlModifier | Qt::AltModifier | Qt::MetaModifier));
    const bool button = qobject_cast<QAbstractButton*>(watched) && key->key() == Qt::Key_Space;
    const bool typed_in =
        plain && (qobject_cast<QComboBox*>(watched) || qobject_cast<QTreeWidget*>(watched)) && !key->text().isEmpty();
    if (button || typed_in) {
        event->accept();
        return true;
    }
    return false;
}

}
