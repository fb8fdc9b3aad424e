#include "app/steps/shoot/take_key.h"

#include "core/base/atomic_file.h"
#include "core/base/problem.h"

#include <QApplication>
#include <QKeyEvent>
#include <QLineEdit>

#include <fstream>
#include <iterator>
#include <string>
#include <utility>

namespace frenlo::app {

namespace {

bool is_modifier(int key)
{
    return key == Qt::Key_Shift || key == Qt::Key_Control || key == Qt::Key_Alt || key == Qt::Key_Meta ||
           key == Qt::Key_AltGr || key == Qt::Key_unknown || key == 0;
}

QKeySequence typed(const QKeyEvent& event)
{
    const int modifiers = int((event.modifiers() & ~Qt::KeypadModifier).toInt());
    return {modifiers | event.key()};
}

}

TakeKey::TakeKey(std::filesystem::path kept, std::function<void()> press, QObject* parent)
    : QObject(parent), kept_(std::move(kept)), press_(std::move(press)), key_(Qt::Key_T)
{
}

/// Every event of the application goes by it only while it is.
void TakeKey::set_active(bool on)
{
    if (on == active_)
        return;
    active_ = on;
    if (!on) {
        learning_ = false;
        qApp->removeEventFilter(this);
        return;
    }
    qApp->installEventFilter(this);
}

const QKeySequence& TakeKey::key()
{
    if (!std::exchange(read_, true)) {
        std::ifstream in(file());
        const std::string text{std::istreambuf_iterator<char>(in), {}};
        const QKeySequence was = QKeySequence::fromString(QString::fromStdString(text).trimmed());
        if (!was.isEmpty())
            key_ = was;
    }
    return key_;
}

void TakeKey::learn()
{
    learning_ = !learning_;
    Q_EMIT changed();
}

void TakeKey::set_key(const QKeySequence& key)
{
    read_ = true;
    key_ = key;
    try {
        write_whole_file(file(), key.toString().toStdString() + '\n');
    } catch (const Failure& failure) {
        Q_EMIT failed(QString::fromStdString(failure.problem().text()));
    }
}

bool TakeKey::eventFilter(QObject* watched, QEvent* event)
{
    if (!active_ || (event->type() != QEvent::KeyPress && event->type() != QEvent::ShortcutOverride) ||
        !watched->isWidgetType())
        return false;
    const auto& key = static_cast<const QKeyEvent&>(*event);
    if (is_modifier(key.key()))
        return false;
    if (learning_) {
        event->accept();
        if (event->type() == QEvent::KeyPress && !key.isAutoRepeat()) {
            learning_ = false;
            if (key.key() != Qt::Key_Escape)
                set_key(typed(key));
            Q_EMIT changed();
        }
        return true;
    }
    // Letters that are typed into a field are letters.
    const bool into_field = qobject_cast<QLineEdit*>(QApplication::focusWidget()) != nullptr;
    if (typed(key) != this->key() || into_field || QApplication::activeModalWidget() ||
        QApplication::activePopupWidget())
        return false;
    event->accept();
    if (event->type() == QEvent::KeyPress && !key.isAutoRepeat())
        press_();
    return true;
}

}
