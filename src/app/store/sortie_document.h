// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/loading.h"
#include "plan/plan.h"
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
    [[nodiscard]] const plan::Aircraft& aircraft() const { return *aircraft_; }
    [[nodiscard]] const plan::Plan& plan() const { return plan_; }
    [[nodiscard]] const QString& path() const { return path_; }
    [[nodiscard]] bool isModified() const { return !undo_.isClean() || recovered_; }
    [[nodiscard]] QUndoStack& undoStack() { return undo_; }

    /// Opens a file; on any problem the open work stays as it is and the problems are returned.
    Problems load(const QString& path);
    /// Opens an autosave as unsaved work that belongs to `original` (empty: never saved).
    Problems recover(const QString& autosave, const QString& original);
    /// A new sortie for the type of a notes file, on a standard day; unsaved.
    Problems startNew(const QString& notesPath);
    /// Writes atomically. @return an error to show, or an empty text
    QString save(const QString& path);

    /// Proposes an edit: undoable when it can be planned, refused with a sentence when not. Edits with the same gesture
    /// (one drag, one stay in a field) are undone together; 0 never merges.
    QString edit(const Sortie& changed, const QString& what, int gesture = 0);

    /// Autosaves left by a crash: file and the sortie it belongs to.
    struct Leftover {
        QString autosave, original;
    };
    static QList<Leftover> leftovers(const QString& folder);
    static void discard(const Leftover& leftover);

signals:
    void changed();       ///< sortie or plan
    void fileChanged();   ///< path or saved state
    void failed(QString); ///< autosave could not be written

private:
    class EditCommand;
    void put(const Sortie& sortie, std::shared_ptr<const plan::Aircraft> aircraft);
    void open(plan::LoadedSortie loaded, const QString& path);
    void autosave();
    void dropAutosave();
    [[nodiscard]] QString autosavePath() const;

    Sortie sortie_;
    std::shared_ptr<const plan::Aircraft> aircraft_;
    plan::Plan plan_;
    QString path_;
    QUndoStack undo_;
    QString folder_, autosaveName_;
    std::unique_ptr<QLockFile> lock_;
    QTimer autosaveTimer_;
    bool recovered_ = false;
};

/// Writes a file so that either the old or the new contents are there whatever happens. @return an error, or empty
QString writeAtomically(const QString& path, const QByteArray& contents);

} // namespace amber::app
