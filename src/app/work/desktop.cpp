#include "app/work/desktop.h"

#include <QDBusPendingCallWatcher>
#include <QDBusPendingReply>
#include <QDBusUnixFileDescriptor>
#include <QDBusVariant>
#include <QGuiApplication>
#include <QPalette>
#include <QVariantMap>

namespace frenlo::app {

namespace {

constexpr QLatin1String portal("org.freedesktop.portal.Desktop");
constexpr QLatin1String portal_path("/org/freedesktop/portal/desktop");
constexpr QLatin1String portal_settings("org.freedesktop.portal.Settings");
constexpr QLatin1String scheme_group("org.freedesktop.appearance");
constexpr QLatin1String scheme_key("color-scheme");

bool palette_is_dark()
{
    static const bool noted = QGuiApplication::palette().color(QPalette::Window).lightness() < 128;
    return noted;
}

}

void note_desktop_palette()
{
    palette_is_dark();
}

bool desktop_is_dark(const QDBusConnection& bus)
{
    const bool dark_at_start = palette_is_dark();
    if (!bus.isConnected())
        return dark_at_start;
    QDBusMessage message = QDBusMessage::createMethodCall(portal, portal_path, portal_settings, QStringLiteral("Read"));
    message << scheme_group << scheme_key;
    constexpr int patience = 200; // ms
    const QDBusMessage answer = bus.call(message, QDBus::Block, patience);
    if (answer.type() != QDBusMessage::ReplyMessage || answer.arguments().isEmpty())
        return dark_at_start;
    QVariant value = answer.arguments().front();
    while (value.canConvert<QDBusVariant>()) // one in the other
        value = value.value<QDBusVariant>().variant();
    constexpr uint prefers_dark = 1;
    return value.toUInt() == prefers_dark;
}

DesktopScheme::DesktopScheme(QDBusConnection bus, QObject* parent) : QObject(parent)
{
    if (bus.isConnected())
        bus.connect(portal, portal_path, portal_settings, QStringLiteral("SettingChanged"), this,
                    SLOT(hear(QDBusMessage)));
}

void DesktopScheme::hear(const QDBusMessage& setting)
{
    const QVariantList said = setting.arguments(); // group, key, value
    if (said.value(0).toString() == scheme_group && said.value(1).toString() == scheme_key)
        Q_EMIT changed();
}

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
