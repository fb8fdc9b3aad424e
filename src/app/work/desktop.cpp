#include "app/work/desktop.h"

#include <QDBusConnection>
#include <QDBusMessage>
#include <QDBusPendingCallWatcher>
#include <QDBusPendingReply>
#include <QDBusUnixFileDescriptor>
#include <QVariantMap>

namespace frenlo::app {

void notify_desktop(const QString& title, const QString& text)
{
    const QDBusConnection bus = QDBusConnection::sessionBus();
    if (!bus.isConnected())
        return;
    QDBusMessage message = QDBusMessage::createMethodCall(
        QStringLiteral("org.freedesktop.Notifications"), QStringLiteral("/org/freedesktop/Notifications"),
        QStringLiteral("org.freedesktop.Notifications"), QStringLiteral("Notify"));
    constexpr int as_usual = -1;
    message << QStringLiteral("Frenlo") << 0U << QStringLiteral("frenlo") << title << text << QStringList()
            << QVariantMap() << as_usual;
    bus.send(message);
}

/// The file that login1 gives: as long as it is open, it holds.
struct StayAwake::Held
{
    QDBusUnixFileDescriptor file;
};

StayAwake::StayAwake(const QString& why) : held_(std::make_shared<Held>())
{
    const QDBusConnection bus = QDBusConnection::systemBus();
    if (!bus.isConnected())
        return;
    QDBusMessage message = QDBusMessage::createMethodCall(
        QStringLiteral("org.freedesktop.login1"), QStringLiteral("/org/freedesktop/login1"),
        QStringLiteral("org.freedesktop.login1.Manager"), QStringLiteral("Inhibit"));
    message << QStringLiteral("sleep:idle") << QStringLiteral("Frenlo") << why << QStringLiteral("block");
    auto* answer = new QDBusPendingCallWatcher(bus.asyncCall(message));
    QObject::connect(answer, &QDBusPendingCallWatcher::finished, answer,
                     [answer, waiting = std::weak_ptr<Held>(held_)] {
                         const QDBusPendingReply<QDBusUnixFileDescriptor> reply = *answer;
                         if (const auto held = waiting.lock(); held && reply.isValid())
                             held->file = reply.value();
                         answer->deleteLater();
                     });
}

StayAwake::~StayAwake() = default;

}
