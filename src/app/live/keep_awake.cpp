// SPDX-License-Identifier: GPL-3.0-or-later
#include "live/keep_awake.h"
#include <QDBusConnection>
#include <QDBusMessage>
#include <QDBusReply>

namespace amber::app {
namespace {
constexpr int waits = 500; // ms that the desktop may take to answer
QDBusMessage asked(const char* what) {
    return QDBusMessage::createMethodCall(QStringLiteral("org.freedesktop.ScreenSaver"),
                                          QStringLiteral("/org/freedesktop/ScreenSaver"),
                                          QStringLiteral("org.freedesktop.ScreenSaver"), QLatin1String(what));
}
} // namespace

void KeepAwake::hold(const QString& why) {
    if (cookie_ || qEnvironmentVariableIsEmpty("DBUS_SESSION_BUS_ADDRESS"))
        return;
    auto bus = QDBusConnection::sessionBus();
    if (!bus.isConnected())
        return;
    auto message = asked("Inhibit");
    message << QStringLiteral("amber-throttle") << why;
    const QDBusReply<unsigned> reply = bus.call(message, QDBus::Block, waits);
    if (reply.isValid())
        cookie_ = reply.value();
}

void KeepAwake::release() {
    if (!cookie_)
        return;
    auto message = asked("UnInhibit");
    message << cookie_;
    QDBusConnection::sessionBus().send(message);
    cookie_ = 0;
}

} // namespace amber::app
