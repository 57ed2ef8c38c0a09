// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/hangar_log.h"
#include <QObject>
#include <QTimer>
#include <atomic>
#include <memory>

class QThread;

namespace amber::app {

/// Merges one's own log with the one that a hangar shares, beside the work and never in its way: shortly after
/// something was kept, and every minute, for what others have kept and for what could not be sent while the server was
/// away.
class Hangar : public QObject {
    Q_OBJECT
public:
    /// @param logPath one's own, which is written first, always
    explicit Hangar(QString logPath, QObject* parent = nullptr);
    ~Hangar() override;

    /// Empty: no hangar shares its log.
    void setAddress(const QString& address);
    [[nodiscard]] QString address() const { return address_; }
    /// Something was kept: it goes over in a moment.
    void soon();
    void merge();
    /// Ends the merge that goes on between two blocks; the next one goes on from there.
    void stop();
    [[nodiscard]] bool isBusy() const { return thread_ != nullptr; }
    /// Whether the last merge came to its end.
    [[nodiscard]] bool isMerged() const { return merged_; }
    /// How it stands, in a sentence; empty: there is none.
    [[nodiscard]] QString state() const { return state_; }
    /// What the last merge came to.
    [[nodiscard]] QStringList told() const { return told_; }

    static inline int moment = 1500, again = 60'000; ///< ms

signals:
    void changed(); ///< how it stands
    void came();    ///< something of others is in one's own log now

private:
    /// @param with the address that it was with, which may be another than now
    void done(const Result<HangarLog::Exchanged>& result, const QString& with);
    void say(const QString& state);

    QString logPath_, address_, state_;
    QStringList told_;
    QThread* thread_ = nullptr;
    std::shared_ptr<std::atomic<bool>> goOn_;
    QTimer soon_, again_;
    bool merged_ = false, more_ = false; ///< more was kept while a merge went on
};

} // namespace amber::app
