// SPDX-License-Identifier: GPL-3.0-or-later
#include "log/hangar.h"
#include "kit/words.h"
#include <QDateTime>
#include <QThread>
#include <utility>

namespace amber::app {

Hangar::Hangar(QString logPath, QObject* parent) : QObject(parent), logPath_(std::move(logPath)) {
    for (auto* timer : {&soon_, &again_}) {
        timer->setSingleShot(true);
        connect(timer, &QTimer::timeout, this, &Hangar::merge);
    }
}

Hangar::~Hangar() {
    if (!thread_)
        return;
    *goOn_ = false;
    thread_->wait();
    delete thread_;
}

void Hangar::setAddress(const QString& address) {
    if (address == address_)
        return;
    stop();
    address_ = address;
    told_.clear();
    merged_ = false;
    say(address.isEmpty() ? QString() : tr("The hangar's log: not merged yet."));
    if (!address.isEmpty())
        merge();
}

void Hangar::soon() {
    if (!address_.isEmpty())
        soon_.start(moment);
}

void Hangar::merge() {
    if (address_.isEmpty())
        return;
    more_ = isBusy();
    if (more_)
        return;
    soon_.stop();
    again_.stop();
    goOn_ = std::make_shared<std::atomic<bool>>(true);
    thread_ = QThread::create([this, address = address_, path = logPath_, goOn = goOn_] {
        const auto result = [&]() -> Result<HangarLog::Exchanged> {
            const auto hangar = HangarLog::open(address);
            if (!hangar)
                return Failure{hangar.error()};
            // Whether it is in order the book looks, and puts aside what is not.
            const auto own = LogFile::open(path, LogFile::Check::none);
            if (!own)
                return Failure{own.error()};
            return hangar.value()->merge(*own.value(), [&](std::size_t rows) {
                if (rows > 0)
                    QMetaObject::invokeMethod(
                        this, [this, rows] { say(tr("The hangar's log: %1 rows have gone over.").arg(rows)); },
                        Qt::QueuedConnection);
                return goOn->load();
            });
        }();
        // The thread is waited for before this goes, so it is here to be told.
        QMetaObject::invokeMethod(
            this, [this, result, address] { done(result, address); }, Qt::QueuedConnection);
    });
    say(tr("The hangar's log: merging."));
    thread_->start();
}

void Hangar::stop() {
    if (isBusy())
        *goOn_ = false;
    soon_.stop();
    again_.stop();
}

void Hangar::done(const Result<HangarLog::Exchanged>& result, const QString& with) {
    thread_->wait();
    delete thread_;
    thread_ = nullptr;
    if (result && result.value().came.runs + result.value().came.entries + result.value().came.traces > 0)
        emit came();
    const bool more = std::exchange(more_, false);
    if (with != address_) { // it tells nothing of the one of now
        emit changed();
        return soon();
    }
    const QString at = QDateTime::currentDateTimeUtc().toString(QStringLiteral("HH:mm"));
    merged_ = result && !result.value().stopped;
    told_ = result ? result.value().told() : QStringList{q(result.error())};
    if (!result)
        say(tr("The hangar's log is not merged: what is kept goes over later."));
    else
        say(merged_ ? tr("The hangar's log: merged at %1 UTC.").arg(at)
                    : tr("The hangar's log: stopped at %1 UTC, it goes on from there.").arg(at));
    if (more)
        soon();
    else if (merged_ || !result)
        again_.start(again);
}

void Hangar::say(const QString& state) {
    state_ = address_.isEmpty() ? QString() : state;
    emit changed();
}

} // namespace amber::app
