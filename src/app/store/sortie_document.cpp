// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/sortie_document.h"
#include "files/document.h"
#include "flight/taught.h"
#include "sortie/airframe_file.h"
#include "sortie/sortie_text.h"
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QUndoCommand>
#include <QUuid>
#include <algorithm>

namespace amber::app {
namespace {
constexpr int autosaveDelay = 250; // ms after the first change that is not yet kept: held keys do not put it off
const QString originalTag = QStringLiteral("# autosave of: ");
} // namespace

class SortieDocument::EditCommand : public QUndoCommand {
public:
    EditCommand(SortieDocument& document, Sortie before, Sortie after,
                std::shared_ptr<const powerplant::Aircraft> aircraftBefore,
                std::shared_ptr<const powerplant::Aircraft> aircraftAfter, const QString& what, int gesture)
        : QUndoCommand(what), document_(document), before_(std::move(before)), after_(std::move(after)),
          aircraftBefore_(std::move(aircraftBefore)), aircraftAfter_(std::move(aircraftAfter)), gesture_(gesture) {}
    void undo() override {
        document_.put(before_, aircraftBefore_);
        setObsolete(abandoned_);
    }
    void abandon() { abandoned_ = true; }
    [[nodiscard]] const Sortie& before() const { return before_; }
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
    std::shared_ptr<const powerplant::Aircraft> aircraftBefore_, aircraftAfter_;
    int gesture_;
    bool abandoned_ = false; ///< goes when it is undone, instead of waiting to be done again
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
    Problems problems;
    auto text = document::readFile(path.toStdString(), problems);
    if (!text)
        return problems;
    auto loaded = flight::loadSortieText(*text, path.toStdString(), &shelf_);
    if (!loaded.ok())
        return loaded.problems;
    recovered_ = false;
    open(std::move(loaded), path, std::move(*text));
    return {};
}

Problems SortieDocument::recover(const QString& autosaveFile, const QString& original) {
    Problems problems;
    const auto kept = document::readFile(autosaveFile.toStdString(), problems);
    if (!kept)
        return problems;
    auto loaded = flight::loadSortieText(
        *kept, original.isEmpty() ? autosaveFile.toStdString() : original.toStdString(), &shelf_);
    if (!loaded.ok())
        return loaded.problems;
    Problems ignored;
    auto text = original.isEmpty() ? std::nullopt : document::readFile(original.toStdString(), ignored);
    recovered_ = true;
    open(std::move(loaded), original, std::move(text).value_or(std::string{}));
    // Kept again under this run's name at once: whoever discards the old copy leaves no moment without one.
    autosave();
    if (!QFile::exists(autosavePath()))
        return {{autosaveFile.toStdString(), 0, "it was brought back, but no new copy of it could be written",
                 "Save it under a name of its own; the old copy stays until then"}};
    return {};
}

Problems SortieDocument::startNew(const QString& notesPath) {
    flight::LoadedSortie loaded;
    auto aircraft = shelf_.aircraft(notesPath.toStdString(), {});
    if (!aircraft.aircraft)
        return aircraft.problems;
    const TypeNotes& notes = aircraft.aircraft->notes;
    Sortie s = flight::plainSortie(notes);
    s.airframe.notes = QFileInfo(notesPath).absoluteFilePath().toStdString();
    loaded.sortie = s;
    loaded.aircraft = aircraft.aircraft;
    recovered_ = true; // nothing of it is on disk yet
    open(std::move(loaded), {}, {});
    return {};
}

void SortieDocument::open(flight::LoadedSortie loaded, const QString& path, std::string text) {
    dropAutosave();
    undo_.clear();
    path_ = path;
    text_ = std::move(text);
    reread_.reset();
    put(*loaded.sortie, std::move(loaded.aircraft));
    autosaveTimer_.stop();
    emit fileChanged();
}

void SortieDocument::put(const Sortie& sortie, std::shared_ptr<const powerplant::Aircraft> aircraft) {
    const bool reading =
        isOpen() && (sortie.walk.found != sortie_.walk.found || sortie.runUpFound != sortie_.runUpFound);
    const bool asItWas = aircraft == aircraft_ && sortie == sortie_; // opened again: its plan is the same
    sortie_ = sortie;
    aircraft_ = std::move(aircraft);
    if (reread_ && sortie_.airframe.facts && sortie_.airframe.facts != reread_) {
        sortie_.airframe.facts = reread_;
        aircraft_ = flight::taught(std::move(aircraft_), sortie_);
    }
    if (!asItWas) {
        traces_.reset();
        plan_ = plan::makePlan(*aircraft_, sortie_);
    }
    keepSoon_ = reading;
    if (!autosaveTimer_.isActive())
        autosaveTimer_.start();
    emit changed();
}

Problems SortieDocument::problemsOf(const Sortie& proposed, const powerplant::Aircraft& aircraft) const {
    return checkSortie(proposed, aircraft.notes, path_.toStdString());
}

namespace {
QString sentenceOf(const Problems& problems) {
    return problems.empty() ? QString()
                            : QString::fromStdString(problems.front().what + ". " + problems.front().remedy + ".");
}
} // namespace

const std::vector<flight::EngineTrace>& SortieDocument::warmUpTraces() const {
    if (!traces_) {
        const auto& runUp = plan_.flown[Phase::runUp];
        traces_ = flight::tracesUntil(plan_.flown.engines, runUp.start + runUp.duration);
    }
    return *traces_;
}

QString SortieDocument::refusal(const Sortie& proposed) const {
    return sentenceOf(problemsOf(proposed, *aircraft_));
}

QString SortieDocument::edit(const Sortie& proposed, const QString& what, int gesture) {
    auto aircraft = aircraft_;
    Sortie next = proposed;
    if (proposed.airframe.notes != sortie_.airframe.notes || proposed.airframe.variant != sortie_.airframe.variant) {
        auto loaded = shelf_.aircraft(flight::notesPathOf(proposed, path_.toStdString()), proposed.airframe.variant);
        if (!loaded.aircraft)
            return loaded.problems.empty() ? tr("The notes could not be read.")
                                           : QString::fromStdString(loaded.problems.front().text());
        aircraft = flight::taught(loaded.aircraft, next);
    }
    if (const QString why = sentenceOf(problemsOf(proposed, *aircraft)); !why.isEmpty())
        return why;
    undo_.push(new EditCommand(*this, sortie_, next, aircraft_, aircraft, what, gesture));
    // A reading that has been entered is on disk before anything else happens.
    if (keepSoon_)
        autosave();
    return {};
}

const Sortie& SortieDocument::before(int gesture) const {
    const int last = undo_.index() - 1;
    if (gesture == 0 || last < 0 || undo_.command(last)->id() != gesture)
        return sortie_;
    return static_cast<const EditCommand*>(undo_.command(last))->before();
}

void SortieDocument::abandon(int gesture) {
    const int last = undo_.index() - 1;
    if (gesture == 0 || last < 0 || undo_.command(last)->id() != gesture)
        return;
    // The stack lends its commands as constants; they are all ours.
    static_cast<EditCommand*>(const_cast<QUndoCommand*>(undo_.command(last)))->abandon();
    undo_.undo();
}

QString SortieDocument::rereadAirframe() {
    Sortie now = sortie_;
    Problems problems;
    joinAirframe(now, path_.toStdString(), problems);
    if (!problems.empty())
        return QString::fromStdString(problems.front().text());
    reread_ = now.airframe.facts;
    auto aircraft = flight::taught(aircraft_, now);
    put(now, std::move(aircraft));
    return {};
}

bool SortieDocument::changedOnDisk() const {
    if (path_.isEmpty())
        return false;
    Problems gone;
    const auto now = document::readFile(path_.toStdString(), gone);
    return now && *now != text_;
}

QString SortieDocument::save(const QString& path) {
    Sortie toWrite = sortie_;
    // The notes are found from the sortie's folder: keep them found when the sortie moves.
    const QFileInfo target(path);
    const QString notes =
        QFileInfo(QString::fromStdString(flight::notesPathOf(sortie_, path_.toStdString()))).absoluteFilePath();
    if (path != path_ && sortie_.airframe.file.empty())
        toWrite.airframe.notes = target.absoluteDir().relativeFilePath(notes).toStdString();
    if (path != path_ && !sortie_.airframe.file.empty())
        toWrite.airframe.file =
            target.absoluteDir()
                .relativeFilePath(
                    QFileInfo(QString::fromStdString(airframePathOf(sortie_, path_.toStdString()))).absoluteFilePath())
                .toStdString();
    auto text = rewriteSortie(text_, toWrite, aircraft_->notes.cockpit);
    const QString error = writeAtomically(path, QByteArray::fromStdString(text));
    if (!error.isEmpty())
        return error;
    const bool moved = path != path_;
    path_ = path;
    text_ = std::move(text);
    recovered_ = false;
    if (moved && (toWrite.airframe.notes != sortie_.airframe.notes || toWrite.airframe.file != sortie_.airframe.file)) {
        // Undoing past here would bring back a path that no longer leads anywhere.
        undo_.clear();
        sortie_.airframe.notes = toWrite.airframe.notes;
        sortie_.airframe.file = toWrite.airframe.file;
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
    keepSoon_ = false;
    autosaveTimer_.stop();
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
    absolute.airframe.notes = QFileInfo(QString::fromStdString(flight::notesPathOf(sortie_, path_.toStdString())))
                                  .absoluteFilePath()
                                  .toStdString();
    if (!absolute.airframe.file.empty())
        absolute.airframe.file = QFileInfo(QString::fromStdString(airframePathOf(sortie_, path_.toStdString())))
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
        out.append({info.absoluteFilePath(), original, info.lastModified()});
    }
    return out;
}

void SortieDocument::discard(const Leftover& leftover) {
    QFile::remove(leftover.autosave);
}

} // namespace amber::app
