#pragma once
#include <QDBusConnection>
#include <QDBusMessage>
#include <QObject>
#include <QString>

#include <memory>

namespace frenlo::app {

/// Tells the desktop (org.freedesktop.Notifications); nothing where there is none. Does not wait.
void notify_desktop(const QString& title, const QString& text);

/// Notes the palette that the desktop gave to the application, before it gets another.
void note_desktop_palette();
/// Whether the desktop wants its programs dark (org.freedesktop.portal.Settings, color-scheme); where nobody says so,
/// whether the palette that was noted is. Waits a fifth of a second at most.
bool desktop_is_dark(const QDBusConnection& bus = QDBusConnection::sessionBus());

/// Tells when the desktop comes to want its programs dark, or no longer.
class DesktopScheme : public QObject
{
    Q_OBJECT
public:
    explicit DesktopScheme(QDBusConnection bus = QDBusConnection::sessionBus(), QObject* parent = nullptr);

Q_SIGNALS:
    void changed();

private Q_SLOTS:
    void hear(const QDBusMessage& setting);
};

/// While it lives the machine does not go to sleep by itself (org.freedesktop.login1); nothing where nobody can be
/// asked.
class StayAwake
{
public:
    explicit StayAwake(const QString& why);
    ~StayAwake();
    StayAwake(const StayAwake&) = delete;
    StayAwake& operator=(const StayAwake&) = delete;

private:
    struct Held;
    std::shared_ptr<Held> held_; ///< until the answer is there, the question holds it too
};

}
