// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/engine_traces.h"
#include "flight/open_files.h"
#include "plan/plan.h"
#include "store/output.h"
#include <QDateTime>
#include <QLockFile>
#include <QObject>
#include <QString>
#include <QTimer>
#include <QUndoStack>
#include <memory>
#include <optional>

namespace amber::app {

/// The open sortie: its file, its undo history, its plan, and the autosave beside it. Everything on screen follows
/// changed().
class SortieDocument : public QObject {
    Q_OBJECT
public:
    explicit SortieDocument(QString autosaveFolder, QObject* parent = nullptr);
    ~SortieDocument() override;

    [[nodiscard]] bool isOpen() const { return aircraft_ != nullptr; }
    [[nodiscard]] const Sortie& sortie() const { return sortie_; }
    [[nodiscard]] const powerplant::Aircraft& aircraft() const { return *aircraft_; }
    /// For what outlives the next edit.
    [[nodiscard]] std::shared_ptr<const powerplant::Aircraft> sharedAircraft() const { return aircraft_; }
    [[nodiscard]] const plan::Plan& plan() const { return plan_; }
    /// Every engine's temperatures until the run-up is over; reckoned once for a plan, when they are first asked for.
    [[nodiscard]] const std::vector<flight::EngineTrace>& warmUpTraces() const;
    /// The moment that was chosen on the score, s; none: none yet.
    [[nodiscard]] std::optional<double> moment() const { return moment_; }
    void chooseMoment(double seconds) {
        moment_ = seconds;
        emit momentChosen();
    }
    [[nodiscard]] const QString& path() const { return path_; }
    [[nodiscard]] bool isModified() const { return !undo_.isClean() || recovered_; }
    [[nodiscard]] QUndoStack& undoStack() { return undo_; }

    /// Opens a file; on any problem the open work stays as it is and the problems are returned.
    Problems load(const QString& path);
    /// Opens an autosave as unsaved work that belongs to `original` (empty: never saved).
    Problems recover(const QString& autosave, const QString& original);
    /// A new sortie for the type of a notes file, on a standard day; unsaved.
    Problems startNew(const QString& notesPath);
    /// Writes atomically, keeping the comments of the file that was opened. @return an error to show, or an empty text
    QString save(const QString& path);
    /// Reads the airframe's own file anew, whose answers to what its log teaches have changed; no edit, and nothing to
    /// undo. @return why not, or empty
    QString rereadAirframe();
    /// Whether another window or program has written the file since it was read or saved here.
    [[nodiscard]] bool changedOnDisk() const;

    /// Proposes an edit: undoable when it can be planned, refused with a sentence when not. Edits with the same gesture
    /// (one drag, one stay in a field) are undone together; 0 never merges.
    QString edit(const Sortie& changed, const QString& what, int gesture = 0);
    /// Why an edit would be refused; empty when it would not.
    [[nodiscard]] QString refusal(const Sortie& proposed) const;
    /// The sortie as it was before a gesture began: what each of its edits starts from.
    [[nodiscard]] const Sortie& before(int gesture) const;
    /// Takes back what a gesture has done so far, as if it had never begun.
    void abandon(int gesture);

    /// Autosaves left by a crash, the latest first: file, the sortie it belongs to, when it was written.
    struct Leftover {
        QString autosave, original;
        QDateTime written;
    };
    static QList<Leftover> leftovers(const QString& folder);
    static void discard(const Leftover& leftover);

signals:
    void momentChosen();
    void changed();       ///< sortie or plan
    void fileChanged();   ///< path or saved state
    void failed(QString); ///< autosave could not be written

private:
    class EditCommand;
    void put(const Sortie& sortie, std::shared_ptr<const powerplant::Aircraft> aircraft);
    void open(flight::LoadedSortie loaded, const QString& path, std::string text);
    [[nodiscard]] Problems problemsOf(const Sortie& proposed, const powerplant::Aircraft& aircraft) const;
    void autosave();
    void dropAutosave();
    [[nodiscard]] QString autosavePath() const;

    flight::Shelf shelf_;
    Sortie sortie_;
    std::shared_ptr<const powerplant::Aircraft> aircraft_;
    std::shared_ptr<const AirframeFacts> reread_; ///< holds for earlier states of this document too
    plan::Plan plan_;
    mutable std::optional<std::vector<flight::EngineTrace>> traces_; ///< of this plan
    QString path_;
    std::string text_; ///< of the file as it was read or saved here
    QUndoStack undo_;
    QString folder_, autosaveName_;
    std::unique_ptr<QLockFile> lock_;
    QTimer autosaveTimer_;
    std::optional<double> moment_;
    bool recovered_ = false;
    bool keepSoon_ = false; ///< a reading changed: autosave without waiting
};

} // namespace amber::app
