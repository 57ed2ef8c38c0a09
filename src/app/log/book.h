// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "record/hours.h"
#include "record/judged.h"
#include "record/read_lines.h"
#include "record/trend.h"
#include "record/write_up.h"
#include "store/log_file.h"
#include "store/sortie_document.h"
#include "store/taken_in.h"
#include <QObject>
#include <QString>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

namespace amber::app {

/// The log as somebody writes in it: the run that is open, its plan as it was that day, and what stands in it. A run
/// begins with the first thing that is kept; everything is on the disk before kept() says so, and nothing that was kept
/// is changed: a correction is another entry.
class Book : public QObject {
    Q_OBJECT
public:
    /// @param logPath SQLite file, opened when the book first is
    Book(SortieDocument& document, QString logPath, QObject* parent = nullptr);

    /// Ms since 1970, and ids; tests give their own.
    std::function<std::int64_t()> now;
    record::Ids ids;

    /// Opens the log, and the latest run of today of the document's airframe. @return why not, or empty
    QString open();
    /// Something of others has come into the file: what stands is read again, and what was done here can still be
    /// undone.
    void readAgain();
    /// Lays it aside: it is opened again with `open`.
    void close();
    [[nodiscard]] bool isOpen() const { return file_ != nullptr; }
    [[nodiscard]] QString path() const { return logPath_; }
    /// What was found wrong with the file and mended.
    [[nodiscard]] QStringList told() const { return file_ ? file_->told() : QStringList(); }
    void wasTold() const {
        if (file_)
            file_->wasTold();
    }

    // ---- runs
    /// The latest runs of an airframe with all that is kept in them.
    [[nodiscard]] Result<record::Log> latest(const std::string& airframe, int runs) const {
        return file_->read({QString::fromStdString(airframe), {}, runs});
    }
    /// Hours, starts, oil and what is due of this airframe, by all its runs and its file.
    [[nodiscard]] Result<record::Hours> hours() const;
    /// The latest runs of this airframe, newest first.
    [[nodiscard]] std::vector<record::Run> runs() const;
    /// The run that is written in; null: one begins with what is kept next.
    [[nodiscard]] const record::Run* run() const { return run_ ? &*run_ : nullptr; }
    /// An earlier run, with the plan of its day. @return why not, or empty
    QString choose(const std::string& run);
    /// A new run, of the sortie as it stands: it begins with what is kept next.
    void anew();
    /// When the run that is to begin was flown, where it is not now: ms since 1970.
    void setFlown(std::optional<std::int64_t> began);
    [[nodiscard]] std::optional<std::int64_t> flown() const { return flown_; }
    /// While a run is live a needle is read again and again: what is typed a minute after the last is another reading,
    /// not its correction.
    void setRereads(bool rereads) { rereads_ = rereads; }
    void setWho(const QString& who) { who_ = who.trimmed().toStdString(); }
    /// What was flown that day, and how it was planned.
    [[nodiscard]] const plan::Plan& plan() const;
    [[nodiscard]] const TypeNotes& notes() const;
    [[nodiscard]] std::string airframe() const;
    /// What is read in a phase, beside that plan.
    [[nodiscard]] std::vector<record::ReadLine> lines(Phase phase) const;
    /// Whether it is the plan of the run: of one whose plan was not kept, or cannot be reckoned, it is another day's,
    /// and nothing is held against it.
    [[nodiscard]] bool hasItsPlan() const { return !run_ || plan_; }
    /// Whether it was flown at another time than now: times are rough, in the middle of their phase.
    [[nodiscard]] bool isAfterwards() const;
    /// When something of a phase is kept as having been.
    [[nodiscard]] std::int64_t timeOf(Phase phase) const;

    // ---- entries
    struct Place {
        Phase phase;
        std::string what;
        std::string engine; ///< position id; empty: of the aircraft
        bool operator==(const Place&) const = default;
    };
    /// @return why it was not kept, or empty. What stands there already is corrected, and stays in the log.
    QString keepTyped(const Place& place, const record::Typed& typed);
    QString keepLooked(const Place& place);
    QString keepWords(const Place& place, const QString& words);
    /// Several at once: all or none.
    QString keepScan(Phase phase, const std::vector<record::ReadLine>& lines,
                     const std::vector<record::QuickRead>& scan);
    QString withdraw(const Place& place);
    /// Takes back the last thing that was kept here, by a correction to what stood before. @return why not, or empty
    QString undo();
    [[nodiscard]] bool canUndo() const { return !done_.empty(); }
    /// What stands in a place; null: nothing was read. There are two where it was corrected apart: the later one.
    [[nodiscard]] const record::Entry* at(const Place& place) const;
    /// A recorder's file as it would be kept: in the run that is open, or in one that it begins.
    [[nodiscard]] TakenIn lookAt(const QString& path);
    /// Keeps it. @return why not, or empty
    QString take(const TakenIn& taken);
    /// What a recorder saw in this run, and its moments; empty: nothing.
    [[nodiscard]] const record::RunTrace& trace() const { return trace_; }
    [[nodiscard]] const record::Anchors& anchors() const { return anchors_; }
    /// Puts a moment of it elsewhere, ms since 1970, or back to where the rules find it; what the trace comes to is
    /// reckoned anew and supersedes what it had come to. One undo. @return why it was not kept, or empty
    QString putMoment(const record::AnchorAt& moment, bool undoing = false);
    QString forgetMoment(const record::AnchorAt& moment, bool undoing = false);
    /// Keeps a moment that was pressed for: of its row, "at-now" (not yet named) or a tank that feeds ("tank/ID"). It
    /// begins the run where none is open. One undo. @param at ms since 1970 @return why it was not kept, or empty
    QString keepPressed(const std::string& what, const std::string& engine, const std::string& words, Phase phase,
                        std::int64_t at);
    /// Takes one entry back, or puts a word beside it. @return why it was not kept, or empty
    QString withdrawEntry(const std::string& id);
    [[nodiscard]] const std::vector<record::Standing>& standing() const { return standing_; }
    /// Blocks of a recorder as it goes, with the run that they are of. @return why they were not kept, or empty
    QString keepBlocks(const std::vector<record::TraceBlock>& blocks);
    /// Of the run, else of the document.
    [[nodiscard]] const Sortie& sortie() const { return sortie_ ? *sortie_ : document_.sortie(); }
    [[nodiscard]] const powerplant::Aircraft& aircraft() const { return aircraft_ ? *aircraft_ : document_.aircraft(); }
    /// What somebody has written of a moment; null: nothing, it stands where the rules find it.
    [[nodiscard]] const record::Entry* written(const record::AnchorAt& moment) const;
    /// What the one judge says of what stands; null: nothing.
    [[nodiscard]] const record::Judged::Said* judged(const record::Entry& entry) const;
    /// What of the run an engineer should know of.
    [[nodiscard]] const record::WriteUp& writeUp() const { return writeUp_; }
    /// An engineer's answer to a line of it. @return why it was not kept, or empty
    QString answer(const record::Holding& line, const record::Answer& answer);
    /// What of this airframe's runs holds the next flight, and the sentence that says so.
    [[nodiscard]] const std::vector<record::Holding>& holding() const { return holding_; }
    [[nodiscard]] const watch::Verdict& held() const { return held_; }
    /// Looks at the log, where there is one, for what holds the document's airframe.
    void lookForHolds();
    /// All that stands in the run, by when it was.
    [[nodiscard]] std::vector<const record::Entry*> soFar() const;
    /// A series of this airframe over its runs, this one too; empty: never read.
    [[nodiscard]] record::Series series(const Place& place) const;

signals:
    void changed();           ///< another run, or something was kept
    void kept(QString);       ///< when: it is on the disk
    void failed(QString why); ///< it is not

private:
    struct Done {
        Place place;
        std::optional<record::Entry> before; ///< what stood there
    };
    [[nodiscard]] record::Entry entryFor(const Place& place) const;
    QString keep(std::vector<record::Entry> entries, bool undoing = false);
    /// A moment that is written, and with it all that hangs on it.
    QString keepMoment(record::Entry entry, bool undoing);
    /// Where the file has been taken away under the open book, what it held is written into a new one.
    QString bringBack();
    void readSeries();
    void readTrace();
    /// The run's write-up, and whether the airframe is held.
    void judge();

    SortieDocument& document_;
    QString logPath_;
    std::unique_ptr<LogFile> file_;
    std::optional<record::Run> run_;
    std::shared_ptr<const powerplant::Aircraft> aircraft_; ///< of the run
    std::optional<Sortie> sortie_;                         ///< of the run
    std::optional<plan::Plan> plan_;                       ///< of the run
    record::Log log_;                                      ///< of the run
    std::vector<record::Standing> standing_;               ///< into it
    std::optional<record::Judged> judged_;                 ///< of the run
    record::WriteUp writeUp_;                              ///< of the run
    std::vector<record::Holding> holding_;
    watch::Verdict held_;
    record::FlownOf flownOf_ = record::flownOf();
    record::Log season_; ///< the airframe's latest runs
    std::vector<record::Series> series_;
    record::RunTrace trace_;              ///< of the run
    record::Anchors anchors_;             ///< of it
    std::vector<std::vector<Done>> done_; ///< the last one last
    std::optional<std::int64_t> flown_;
    std::optional<std::string> openedFor_; ///< registration
    std::optional<std::string> lookedFor_; ///< registration whose holds were looked for
    std::string who_;
    bool rereads_ = false;
};

} // namespace amber::app
