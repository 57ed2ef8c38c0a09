// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "aloft/clock.h"
#include "aloft/line_reader.h"
#include "aloft/now.h"
#include "log/book.h"
#include <QObject>
#include <QTimer>
#include <functional>

namespace amber::app {

/// The run that is flown now: its time, its moments and what follows from them. What it keeps are entries of the log as
/// any other, on the disk before it says so; taken up again after a sleep, a crash or another day it is at the right
/// now, or asks.
class LiveRun : public QObject {
    Q_OBJECT
public:
    explicit LiveRun(Book& book, QObject* parent = nullptr);
    std::function<aloft::Stamp()> stamp; ///< tests give their own

    /// Ms since 1970 by the run's own time: the computer's clock may be set meanwhile.
    [[nodiscard]] std::int64_t timeNow() const;
    /// The run is taken up: how much time went by since it was last written in. A run that was typed afterwards, or is
    /// over, is left for a new one.
    void takeUp();
    /// Asked after the computer was started again; empty: nothing.
    [[nodiscard]] QString question() const { return question_; }
    /// @param asItSays else the run goes on from its last entry
    void answer(bool asItSays);

    /// The run as it is reckoned, at most five seconds ago; times in it are counted on.
    [[nodiscard]] const aloft::Now& now() const { return now_; }
    [[nodiscard]] double since() const; ///< s that went by since then
    [[nodiscard]] const aloft::Happened& happened() const { return happened_; }
    [[nodiscard]] bool begun() const { return book_.run() && !happened_.moments.empty(); }
    [[nodiscard]] Book& book() { return book_; }
    [[nodiscard]] const Book& book() const { return book_; }
    /// Reckons anew.
    void reckon();

    // ---- moments. All return why it was not kept, or empty.
    /// NOW: kept at once, without a name; the likeliest name is `proposed`.
    QString pressNow();
    struct Named {
        std::string what, engine;
        QString name;
    };
    [[nodiscard]] std::optional<Named> proposed() const;
    /// Every moment that may be pressed for next, the likeliest first; then tanks.
    [[nodiscard]] std::vector<Named> names() const;
    /// A moment: now, or when the last unnamed NOW was.
    QString press(const Named& moment);
    /// The last thing that was pressed was so many seconds before it was pressed.
    QString earlier(double seconds);
    [[nodiscard]] const aloft::Given* lastUnnamed() const;
    QString undo();

    /// Whether what is read bends the plan.
    [[nodiscard]] bool bends() const { return options_.bend; }
    void setBends(bool bends);
    /// What was called for is done.
    QString tick(const aloft::NextItem& item);
    /// A reading that was asked about stands.
    QString standBy(const aloft::AskedReading& asked);

    /// What a recorder has sent: needles of now, and traces of the log a minute at a time.
    void feed(const record::RecorderMap& map, const std::vector<aloft::LiveRow>& rows);
    /// The latest figure of a needle from a recorder; none: nothing in the last ten seconds.
    [[nodiscard]] std::optional<double> needle(Gauge gauge, const std::string& engine) const;
    /// What the recorder's needles look like, to be pressed for: "Port: First fire".
    [[nodiscard]] QString seems() const { return seems_; }

signals:
    void changed();

private:
    QString keepStamp();
    void flush(bool all);
    void look(const record::RecorderMap& map, const aloft::LiveRow& row);

    Book& book_;
    QTimer tick_;
    aloft::Now now_;
    aloft::Happened happened_;
    aloft::Options options_;
    std::int64_t reckonedAt_ = 0;
    std::optional<aloft::Stamp> stamp_; ///< the last one kept with the run; its utc is the run's time
    QString question_, seems_;
    std::int64_t lastEntry_ = 0, offered_ = 0; ///< when it was, and ms that would have gone by since
    std::string runOf_;
    std::string lastPressed_; ///< id of its entry
    struct Column {
        record::RecorderColumn column;
        std::vector<float> values;
        std::int64_t start = 0;
    };
    std::vector<Column> columns_;
    std::map<std::pair<Gauge, std::string>, std::pair<std::int64_t, double>> needles_;
    std::vector<aloft::Reading> recorded_;                  ///< thinned to what the estimate takes
    std::map<std::pair<Gauge, std::string>, double> taken_; ///< s, when the last of each was
    std::map<std::string, int> spins_;                      ///< s that an engine has turned by itself
};

} // namespace amber::app
