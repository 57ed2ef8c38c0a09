// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "aloft/line_reader.h"
#include <QObject>
#include <QTimer>
#include <functional>
#include <memory>

class QIODevice;

namespace amber::app {

/// The wire to a recorder: a serial port, a TCP address that it listens at, or UDP datagrams to an address of this
/// machine. Off until somebody sets it up; the window never waits for it; what parts comes back by itself.
///
/// Addresses: "serial:/dev/ttyUSB0" with "@115200" behind it for another speed than 9,600; "tcp:192.168.4.1:5000";
/// "udp:127.0.0.1:5000", which is bound to that address and to no other.
class RecorderLink : public QObject {
    Q_OBJECT
public:
    explicit RecorderLink(QObject* parent = nullptr);
    ~RecorderLink() override;

    std::function<std::int64_t()> now; ///< ms since 1970, of the run
    /// @return what is wrong with the address, or empty. Empty address: off
    QString connectTo(const QString& address, const TypeNotes& notes, const AirframeFacts* facts);
    void off();
    [[nodiscard]] QString address() const { return address_; }
    /// "Recorder: 1,204 lines", "Recorder: silent for 0:12"; empty: off.
    [[nodiscard]] QString state() const;
    [[nodiscard]] std::size_t lines() const { return reader_ ? reader_->lines() : 0; }

signals:
    void came(const amber::record::RecorderMap& map, const std::vector<amber::aloft::LiveRow>& rows);
    void told(QString what);

private:
    void tryAgain();
    void take(const QByteArray& bytes);
    void fail(const QString& why);

    QString address_, why_;
    std::unique_ptr<aloft::LineReader> reader_;
    std::unique_ptr<QIODevice> device_;
    QTimer again_, quiet_;
    std::int64_t lastCame_ = 0;
    bool silent_ = false;
};

} // namespace amber::app
