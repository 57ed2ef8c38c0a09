// SPDX-License-Identifier: GPL-3.0-or-later
#include "live/recorder_link.h"
#include "kit/words.h"
#include "units/text.h"
#include <QDateTime>
#include <QFileInfo>
#include <QHostAddress>
#include <QRegularExpression>
#include <QSerialPort>
#include <QTcpSocket>
#include <QUdpSocket>

namespace amber::app {
namespace {
constexpr int linkAgainAfter = 2000, linkLooksEach = 1000; // ms
constexpr std::int64_t linkSilentAfter = 5000;             // ms
constexpr int linkMostAtOnce = 1 << 20;                    // bytes that wait in a device
} // namespace

RecorderLink::RecorderLink(QObject* parent) : QObject(parent), now([] { return QDateTime::currentMSecsSinceEpoch(); }) {
    again_.setSingleShot(true);
    again_.setInterval(linkAgainAfter);
    connect(&again_, &QTimer::timeout, this, &RecorderLink::tryAgain);
    quiet_.setInterval(linkLooksEach);
    connect(&quiet_, &QTimer::timeout, this, [this] {
        // A pseudo-terminal shows neither modem lines nor that its other end is gone.
        const bool silent = lastCame_ > 0 && now() - lastCame_ > linkSilentAfter;
        if (silent && !silent_)
            emit told(tr("Nothing comes from the recorder."));
        silent_ = silent;
        if (silent && qobject_cast<QSerialPort*>(device_.get()) &&
            !QFileInfo::exists(address_.section(QLatin1Char(':'), 1).section(QLatin1Char('@'), 0, 0)))
            fail(tr("The recorder's port is gone."));
    });
}
RecorderLink::~RecorderLink() = default;

QString RecorderLink::connectTo(const QString& address, const TypeNotes& notes, const AirframeFacts* facts) {
    off();
    if (address.trimmed().isEmpty())
        return {};
    static const QRegularExpression shape(QStringLiteral(
        "^(?:serial:/[^@]{1,250}(?:@[0-9]{3,7})?|(?:tcp|udp):[0-9A-Za-z.\\-\\[\\]:]{1,250}:[0-9]{1,5})$"));
    if (!shape.match(address.trimmed()).hasMatch())
        return tr("Write serial:/dev/ttyUSB0, tcp:192.168.4.1:5000 or udp:127.0.0.1:5000.");
    address_ = address.trimmed();
    if (!address_.startsWith(QLatin1String("serial:"))) {
        const int port = address_.section(QLatin1Char(':'), -1).toInt();
        if (port < 1 || port > 65'535 || QHostAddress(address_.section(QLatin1Char(':'), 1, -2)).isNull()) {
            address_.clear();
            return tr("An address is figures, as 192.168.4.1, and a port from 1 to 65,535.");
        }
    }
    reader_ = std::make_unique<aloft::LineReader>(notes, facts);
    quiet_.start();
    tryAgain();
    return {};
}

void RecorderLink::off() {
    again_.stop();
    quiet_.stop();
    if (device_)
        device_->disconnect(this);
    device_.reset();
    reader_.reset();
    address_.clear();
    why_.clear();
    lastCame_ = 0;
}

void RecorderLink::fail(const QString& why) {
    if (why != why_)
        emit told(why);
    why_ = why;
    if (device_) {
        device_->disconnect(this);
        device_.release()->deleteLater(); // it may be the one that has just complained
    }
    if (reader_)
        reader_->parted();
    if (!address_.isEmpty())
        again_.start();
}

void RecorderLink::tryAgain() {
    const QString where = address_.section(QLatin1Char(':'), 1);
    if (address_.startsWith(QLatin1String("serial:"))) {
        auto port = std::make_unique<QSerialPort>();
        port->setPortName(where.section(QLatin1Char('@'), 0, 0));
        if (const int speed = where.section(QLatin1Char('@'), 1).toInt(); speed > 0)
            port->setBaudRate(speed);
        port->setReadBufferSize(linkMostAtOnce);
        if (!port->open(QIODevice::ReadOnly)) {
            fail(tr("The recorder's port %1: %2.").arg(port->portName(), port->errorString()));
            return;
        }
        auto* raw = port.get();
        connect(raw, &QSerialPort::readyRead, this, [this, raw] { take(raw->readAll()); });
        connect(raw, &QSerialPort::errorOccurred, this, [this, raw](QSerialPort::SerialPortError error) {
            if (error != QSerialPort::NoError && error != QSerialPort::TimeoutError)
                fail(tr("The recorder's port is gone: %1.").arg(raw->errorString()));
        });
        device_ = std::move(port);
    } else if (address_.startsWith(QLatin1String("tcp:"))) {
        auto socket = std::make_unique<QTcpSocket>();
        auto* raw = socket.get();
        raw->setReadBufferSize(linkMostAtOnce);
        connect(raw, &QTcpSocket::readyRead, this, [this, raw] { take(raw->readAll()); });
        connect(raw, &QTcpSocket::errorOccurred, this,
                [this, raw] { fail(tr("The recorder: %1.").arg(raw->errorString())); });
        raw->connectToHost(QHostAddress(where.section(QLatin1Char(':'), 0, -2)),
                           static_cast<quint16>(where.section(QLatin1Char(':'), -1).toInt()));
        device_ = std::move(socket);
    } else {
        auto socket = std::make_unique<QUdpSocket>();
        auto* raw = socket.get();
        if (!raw->bind(QHostAddress(where.section(QLatin1Char(':'), 0, -2)),
                       static_cast<quint16>(where.section(QLatin1Char(':'), -1).toInt()))) {
            fail(tr("The recorder's address: %1.").arg(raw->errorString()));
            return;
        }
        connect(raw, &QUdpSocket::readyRead, this, [this, raw] {
            QByteArray all;
            while (raw->hasPendingDatagrams() && all.size() < linkMostAtOnce) {
                QByteArray one(static_cast<int>(raw->pendingDatagramSize()), Qt::Uninitialized);
                raw->readDatagram(one.data(), one.size());
                all += one;
                if (!all.endsWith('\n'))
                    all += '\n'; // a datagram ends its line
            }
            take(all);
        });
        device_ = std::move(socket);
    }
    why_.clear();
}

void RecorderLink::take(const QByteArray& bytes) {
    if (!reader_ || bytes.isEmpty())
        return;
    const std::int64_t at = now();
    lastCame_ = at;
    silent_ = false;
    const auto rows = reader_->take({bytes.constData(), static_cast<std::size_t>(bytes.size())}, at);
    for (const auto& line : reader_->told())
        emit told(q(line));
    if (!rows.empty() && reader_->map())
        emit came(*reader_->map(), rows);
}

QString RecorderLink::state() const {
    if (address_.isEmpty())
        return {};
    if (!why_.isEmpty())
        return why_;
    if (!reader_ || reader_->lines() == 0)
        return tr("Recorder: nothing yet");
    return silent_ ? tr("Recorder: silent for %1")
                         .arg(q(formatMinutesSeconds(static_cast<double>(now() - lastCame_) / 1000.0)))
                   : tr("Recorder: %n line(s)", nullptr, static_cast<int>(reader_->lines()));
}

} // namespace amber::app
