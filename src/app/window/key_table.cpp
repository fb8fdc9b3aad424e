#include "app/window/key_table.h"

#include <QAbstractButton>
#include <QAction>
#include <QApplication>
#include <QComboBox>
#include <QKeyEvent>
#include <QMenu>
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
    case StepKey::Where::everywhere: // but a step's own keys are about photos of a shot, and the Reel's are of many
        return meaning.step.empty() || !viewing_.on_reel();
    }
    return false;
}

void KeyTable::add_entry(QMenu& menu, Meaning& meaning)
{
    // The key is shown and not set: as an action of the window it is there already.
    QAction* action = menu.addAction(meaning.key.entry + QLatin1Char('\t') +
                                     meaning.key.keys.front().toString(QKeySequence::NativeText));
    if (!meaning.key.hold) {
        connect(action, &QAction::triggered, this, [press = meaning.key.press] { press(); });
        return;
    }
    action->setCheckable(true);
    action->setChecked(meaning.held);
    connect(action, &QAction::triggered, this, [this, entry = meaning.key.entry](bool on) {
        for (Meaning& m : meanings_)
            if (m.key.entry == entry && m.key.hold) {
                m.held = on;
                m.key.hold(on);
            }
    });
}

void KeyTable::fill(QMenu& menu)
{
    menu.clear();
    QHash<QString, QMenu*> groups;
    for (const bool own : {true, false}) {
        for (Meaning& m : meanings_) {
            const bool of_step = m.key.where == StepKey::Where::step;
            if (m.key.entry.isEmpty() || of_step != own || !applies(m))
                continue;
            QMenu* into = &menu;
            if (!m.key.group.isEmpty()) {
                QMenu*& group = groups[m.key.group];
                if (!group)
                    group = menu.addMenu(m.key.group);
                into = group;
            }
            add_entry(*into, m);
        }
        if (own && !menu.isEmpty())
            menu.addSeparator();
    }
}

std::vector<StepKey> KeyTable::entries() const
{
    std::vector<StepKey> all;
    for (const Meaning& m : meanings_)
        if (!m.key.entry.isEmpty())
            all.push_back(m.key);
    return all;
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
