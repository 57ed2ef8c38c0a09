// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/sortie_document.h"
#include "air/atmosphere.h"
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QSaveFile>
#include <QUndoCommand>
#include <QUuid>
#include <algorithm>

namespace amber::app {
namespace {
constexpr int autosaveDelay = 250; // ms after the last change
const QString originalTag = QStringLiteral("# autosave of: ");
} // namespace

QString writeAtomically(const QString& path, const QByteArray& contents) {
    QSaveFile file(path);
    // Unbuffered: on a full disk a buffered QSaveFile (Qt 6.4) commits what little was written and reports success.
    if (!file.open(QIODevice::WriteOnly | QIODevice::Unbuffered))
        return QObject::tr("%1 cannot be written: %2. Choose another folder or name.").arg(path, file.errorString());
    bool whole = file.write(contents) == contents.size() && file.size() == contents.size();
    if (!whole)
        file.cancelWriting();
    whole = file.commit() && whole;
    if (!whole)
        return QObject::tr("%1 was not written: %2. What was there before is still there.")
            .arg(path, file.errorString());
    return {};
}

class SortieDocument::EditCommand : public QUndoCommand {
public:
    EditCommand(SortieDocument& document, Sortie before, Sortie after,
                std::shared_ptr<const plan::Aircraft> aircraftBefore,
                std::shared_ptr<const plan::Aircraft> aircraftAfter, const QString& what, int gesture)
        : QUndoCommand(what), document_(document), before_(std::move(before)), after_(std::move(after)),
          aircraftBefore_(std::move(aircraftBefore)), aircraftAfter_(std::move(aircraftAfter)), gesture_(gesture) {}
    void undo() override { document_.put(before_, aircraftBefore_); }
    void redo() override { document_.put(after_, aircraftAfter_); }
    int id() const override { return gesture_ == 0 ? -1 : gesture_; }
    bool mergeWith(const QUndoCommand* other) override {
        const auto* later = static_cast<const EditCommand*>(other);
        after_ = later->after_;
        aircraftAfter_ = later->aircraftAfter_;
        return true;
    }

private:
    SortieDocument& document_;
    Sortie before_, after_;
    std::shared_ptr<const plan::Aircraft> aircraftBefore_, aircraftAfter_;
    int gesture_;
};

SortieDocument::SortieDocument(QString autosaveFolder, QObject* parent)
    : QObject(parent), folder_(std::move(autosaveFolder)),
      autosaveName_(QUuid::createUuid().toString(QUuid::WithoutBraces)) {
    autosaveTimer_.setSingleShot(true);
    autosaveTimer_.setInterval(autosaveDelay);
    connect(&autosaveTimer_, &QTimer::timeout, this, &SortieDocument::autosave);
    connect(&undo_, &QUndoStack::cleanChanged, this, &SortieDocument::fileChanged);
}

SortieDocument::~SortieDocument() {
    dropAutosave();
}

Problems SortieDocument::load(const QString& path) {
    auto loaded = plan::loadSortie(path.toStdString());
    if (!loaded.ok())
        return loaded.problems;
    recovered_ = false;
    open(std::move(loaded), path);
    return {};
}

Problems SortieDocument::recover(const QString& autosaveFile, const QString& original) {
    QFile file(autosaveFile);
    if (!file.open(QIODevice::ReadOnly))
        return {{autosaveFile.toStdString(), 0, "the autosave cannot be read", "Check the folder"}};
    auto loaded = plan::loadSortieText(file.readAll().toStdString(),
                                       original.isEmpty() ? autosaveFile.toStdString() : original.toStdString());
    if (!loaded.ok())
        return loaded.problems;
    recovered_ = true;
    open(std::move(loaded), original);
    autosaveTimer_.start();
    return {};
}

Problems SortieDocument::startNew(const QString& notesPath) {
    plan::LoadedSortie loaded;
    auto aircraft = plan::loadAircraft(notesPath.toStdString(), {});
    if (!aircraft.aircraft)
        return aircraft.problems;
    const TypeNotes& notes = aircraft.aircraft->notes;
    Sortie s = plan::plainSortie(notes);
    s.airframe.notes = QFileInfo(notesPath).absoluteFilePath().toStdString();
    loaded.sortie = s;
    loaded.aircraft = aircraft.aircraft;
    recovered_ = true; // nothing of it is on disk yet
    open(std::move(loaded), {});
    return {};
}

void SortieDocument::open(plan::LoadedSortie loaded, const QString& path) {
    dropAutosave();
    undo_.clear();
    path_ = path;
    put(*loaded.sortie, std::move(loaded.aircraft));
    autosaveTimer_.stop();
    emit fileChanged();
}

void SortieDocument::put(const Sortie& sortie, std::shared_ptr<const plan::Aircraft> aircraft) {
    sortie_ = sortie;
    aircraft_ = std::move(aircraft);
    plan_ = plan::makePlan(*aircraft_, sortie_);
    autosaveTimer_.start();
    emit changed();
}

QString SortieDocument::edit(const Sortie& proposed, const QString& what, int gesture) {
    auto aircraft = aircraft_;
    if (proposed.airframe.notes != sortie_.airframe.notes || proposed.airframe.variant != sortie_.airframe.variant) {
        auto loaded = plan::loadAircraft(plan::notesPathOf(proposed, path_.toStdString()), proposed.airframe.variant);
        if (!loaded.aircraft)
            return loaded.problems.empty() ? tr("The notes could not be read.")
                                           : QString::fromStdString(loaded.problems.front().text());
        aircraft = loaded.aircraft;
    }
    const auto problems = checkSortie(proposed, aircraft->notes, path_.toStdString());
    if (!problems.empty())
        return QString::fromStdString(problems.front().what + ". " + problems.front().remedy);
    undo_.push(new EditCommand(*this, sortie_, proposed, aircraft_, aircraft, what, gesture));
    return {};
}

QString SortieDocument::save(const QString& path) {
    Sortie toWrite = sortie_;
    // The notes are found from the sortie's folder: keep them found when the sortie moves.
    const QFileInfo target(path);
    const QString notes =
        QFileInfo(QString::fromStdString(plan::notesPathOf(sortie_, path_.toStdString()))).absoluteFilePath();
    if (path != path_)
        toWrite.airframe.notes = target.absoluteDir().relativeFilePath(notes).toStdString();
    const auto text = writeSortie(toWrite, aircraft_->notes.cockpit);
    const QString error = writeAtomically(path, QByteArray::fromStdString(text));
    if (!error.isEmpty())
        return error;
    const bool moved = path != path_;
    path_ = path;
    recovered_ = false;
    if (moved && toWrite.airframe.notes != sortie_.airframe.notes) {
        // Undoing past here would bring back a path that no longer leads anywhere.
        undo_.clear();
        sortie_.airframe.notes = toWrite.airframe.notes;
    }
    undo_.setClean();
    dropAutosave();
    emit fileChanged();
    return {};
}

QString SortieDocument::autosavePath() const {
    return folder_ + QLatin1Char('/') + autosaveName_ + QStringLiteral(".toml");
}

void SortieDocument::autosave() {
    if (!isOpen())
        return;
    if (!isModified()) {
        dropAutosave();
        return;
    }
    if (!QDir().mkpath(folder_)) {
        emit failed(tr("The autosave folder %1 cannot be made; work is not protected against a crash.").arg(folder_));
        return;
    }
    if (!lock_) {
        lock_ = std::make_unique<QLockFile>(autosavePath() + QStringLiteral(".lock"));
        lock_->setStaleLockTime(0);
        lock_->tryLock(0);
    }
    Sortie absolute = sortie_;
    absolute.airframe.notes = QFileInfo(QString::fromStdString(plan::notesPathOf(sortie_, path_.toStdString())))
                                  .absoluteFilePath()
                                  .toStdString();
    const QByteArray text = (originalTag + path_ + QLatin1Char('\n')).toUtf8() +
                            QByteArray::fromStdString(writeSortie(absolute, aircraft_->notes.cockpit));
    const QString error = writeAtomically(autosavePath(), text);
    if (!error.isEmpty())
        emit failed(error);
}

void SortieDocument::dropAutosave() {
    autosaveTimer_.stop();
    QFile::remove(autosavePath());
    lock_.reset();
}

QList<SortieDocument::Leftover> SortieDocument::leftovers(const QString& folder) {
    QList<Leftover> out;
    for (const QFileInfo& info : QDir(folder).entryInfoList({QStringLiteral("*.toml")}, QDir::Files, QDir::Time)) {
        QLockFile lock(info.absoluteFilePath() + QStringLiteral(".lock"));
        lock.setStaleLockTime(0);
        if (!lock.tryLock(0))
            continue; // another window is at work on it
        QFile file(info.absoluteFilePath());
        QString original;
        if (file.open(QIODevice::ReadOnly)) {
            const QString first = QString::fromUtf8(file.readLine()).trimmed();
            if (first.startsWith(originalTag.trimmed()))
                original = first.mid(originalTag.trimmed().size()).trimmed();
        }
        out.append({info.absoluteFilePath(), original});
    }
    return out;
}

void SortieDocument::discard(const Leftover& leftover) {
    QFile::remove(leftover.autosave);
}

} // namespace amber::app
