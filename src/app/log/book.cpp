// SPDX-License-Identifier: GPL-3.0-or-later
#include "log/book.h"
#include "flight/open_files.h"
#include "kit/words.h"
#include "record/from_trace.h"
#include "record/planned.h"
#include "record/run_of.h"
#include "record/what.h"
#include <QDateTime>
#include <QFileInfo>
#include <QRandomGenerator>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
constexpr int seasonRuns = 500; // latest of the airframe, that trends are told from
QString noRegistration() {
    return Book::tr("The airframe has no registration, by which a log tells one from another: give it one in its file "
                    "([airframe] registration = \"…\").");
}
constexpr std::int64_t sameDay = 16LL * 3600 * 1000; // ms: a run so long ago is another day's
constexpr std::int64_t rereadAfter = 60'000;         // ms
} // namespace

Book::Book(SortieDocument& document, QString logPath, QObject* parent)
    : QObject(parent), now([] { return QDateTime::currentMSecsSinceEpoch(); }),
      ids(record::idsFrom([] { return QRandomGenerator::system()->generate64(); })), document_(document),
      logPath_(std::move(logPath)) {}

QString Book::open() {
    if (!file_) {
        auto opened = LogFile::open(logPath_);
        if (!opened)
            return q(opened.error());
        file_ = std::move(opened.value());
    }
    if (!document_.isOpen())
        return {};
    // Another airframe: its latest run goes on where it is of today and of this sortie.
    if (openedFor_ != document_.sortie().airframe.registration) {
        anew();
        openedFor_ = document_.sortie().airframe.registration;
        const auto latest = runs();
        if (!latest.empty() && now() - latest.front().began < sameDay && latest.front().began <= now() &&
            latest.front().title == document_.sortie().title)
            return choose(latest.front().id);
    }
    return {};
}

void Book::close() {
    anew();
    openedFor_.reset();
    lookedFor_.reset();
    file_.reset();
    season_ = {};
    series_.clear();
}

void Book::readAgain() {
    lookedFor_.reset();
    if (!file_) {
        lookForHolds();
        return;
    }
    if (run_)
        if (auto read = file_->read({{}, q(run_->id), 0})) {
            standing_.clear();
            log_ = std::move(read.value());
            standing_ = record::standing(log_, run_->id);
            readTrace();
        }
    readSeries();
    emit changed();
}

QString Book::bringBack() {
    if (file_->isInPlace())
        return {};
    auto all = file_->read(); // an open file can still be read though its name is gone
    if (!all)
        return q(all.error());
    auto opened = LogFile::open(logPath_);
    if (!opened)
        return q(opened.error());
    if (const auto merged = opened.value()->merge(all.value()); !merged)
        return q(merged.error());
    file_ = std::move(opened.value()); // only now is the other let go
    return {};
}

std::string Book::airframe() const {
    return run_ ? run_->airframe : document_.isOpen() ? document_.sortie().airframe.registration : std::string();
}

Result<record::Hours> Book::hours() const {
    const auto log = latest(airframe(), 0);
    if (!log)
        return Failure{log.error()};
    return record::hoursOf(log.value(), airframe(), notes(), document_.sortie().airframe.facts.get(), now());
}

std::vector<record::Run> Book::runs() const {
    const std::string of = document_.isOpen() ? document_.sortie().airframe.registration : airframe();
    if (!file_ || of.empty())
        return {};
    auto found = file_->runs(q(of), 200);
    return found ? std::move(found.value()) : std::vector<record::Run>();
}

void Book::anew() {
    run_.reset();
    plan_.reset();
    aircraft_.reset();
    sortie_.reset();
    standing_.clear();
    log_ = {};
    done_.clear();
    flown_.reset();
    readTrace();
    readSeries();
    emit changed();
}

QString Book::choose(const std::string& id) {
    if (!file_)
        return tr("The log is not open.");
    auto read = file_->read({{}, q(id), 0});
    if (!read)
        return q(read.error());
    const auto found = read.value().runs.find(id);
    if (found == read.value().runs.end())
        return tr("The log has no such run.");
    QString why;
    std::optional<plan::Plan> plan;
    std::shared_ptr<const powerplant::Aircraft> aircraft;
    std::optional<Sortie> sortie;
    if (!found->second.sortie.empty()) {
        const auto loaded = flight::loadSortieText(found->second.sortie, "run.toml");
        if (loaded.ok()) {
            aircraft = loaded.aircraft;
            plan = plan::makePlan(*loaded.aircraft, *loaded.sortie);
            sortie = loaded.sortie;
        } else
            why = tr("The plan of that day cannot be reckoned again (%1); beside the readings stands the plan that is "
                     "open.")
                      .arg(loaded.problems.empty() ? tr("its notes are not there") : q(loaded.problems.front().text()));
    }
    run_ = found->second;
    plan_ = std::move(plan);
    aircraft_ = std::move(aircraft);
    sortie_ = std::move(sortie);
    standing_.clear();
    log_ = std::move(read.value());
    standing_ = record::standing(log_, run_->id);
    done_.clear();
    flown_.reset();
    readTrace();
    readSeries();
    emit changed();
    return why;
}

void Book::setFlown(std::optional<std::int64_t> began) {
    if (run_)
        return;
    flown_ = began;
    emit changed();
}

const plan::Plan& Book::plan() const {
    return plan_ ? *plan_ : document_.plan();
}
const TypeNotes& Book::notes() const {
    return aircraft_ ? aircraft_->notes : document_.aircraft().notes;
}

std::vector<record::ReadLine> Book::lines(Phase phase) const {
    auto out = record::readLines(plan(), notes(), phase);
    if (!hasItsPlan())
        for (auto& line : out) {
            line.planned.reset();
            line.each.clear();
        }
    return out;
}

bool Book::isAfterwards() const {
    if (!run_)
        return flown_.has_value();
    // A flight of the morning that is typed in the evening goes on as it was begun.
    return now() - run_->began > sameDay ||
           std::any_of(log_.entries.begin(), log_.entries.end(), [](const auto& e) { return e.second.rough; });
}

std::int64_t Book::timeOf(Phase phase) const {
    if (!isAfterwards())
        return now();
    const auto& p = plan()[std::min(phase, Phase::stop)];
    return (run_ ? run_->began : *flown_) + static_cast<std::int64_t>(1000.0 * (p.start + 0.5 * p.duration));
}

const record::Entry* Book::at(const Place& place) const {
    const record::Entry* out = nullptr;
    for (const auto& s : standing_)
        for (const auto* e : s.last)
            if (e->phase == place.phase && e->what == place.what && e->engine == place.engine &&
                (!out || e->entered >= out->entered))
                out = e;
    return out;
}

std::vector<const record::Entry*> Book::soFar() const {
    std::vector<const record::Entry*> out;
    for (const auto& s : standing_)
        out.insert(out.end(), s.last.begin(), s.last.end());
    std::stable_sort(out.begin(), out.end(), [](const auto* a, const auto* b) { return a->at < b->at; });
    return out;
}

record::Entry Book::entryFor(const Place& place) const {
    record::Entry out;
    out.phase = place.phase;
    out.what = place.what;
    out.engine = place.engine;
    out.entered = now();
    out.at = timeOf(place.phase);
    out.rough = isAfterwards();
    out.who = who_;
    if (!record::takesWords(place.what)) {
        if (hasItsPlan())
            out.planned = record::unlearntOf(plan(), place.phase, place.what, place.engine);
        if (const auto* stands = at(place);
            stands && (!rereads_ || record::isMoment(place.what) || out.entered - stands->entered < rereadAfter)) {
            out.supersedes = stands->id;
            out.at = stands->at; // it was read when it was read
            out.rough = stands->rough;
        }
    }
    return out;
}

QString Book::keep(std::vector<record::Entry> entries, bool undoing) {
    const auto refuse = [this](const QString& why) {
        emit failed(why);
        return why;
    };
    if (!file_)
        return refuse(tr("The log is not open: nothing was kept."));
    if (const QString why = bringBack(); !why.isEmpty())
        return refuse(tr("The log's file has been taken away: %1").arg(why));
    record::Log news;
    record::Run run;
    if (run_) {
        run = *run_;
    } else {
        if (document_.sortie().airframe.registration.empty())
            return refuse(noRegistration());
        run = record::runOf(document_.sortie(), QFileInfo(document_.path()).absoluteFilePath().toStdString(),
                            document_.aircraft().notes, ids(now()), flown_.value_or(now()));
        news.runs.emplace(run.id, run);
    }
    std::vector<Done> done;
    for (auto& e : entries) {
        e.id = ids(now());
        e.run = run.id;
        if (const auto wrong = record::wrongWith(e); !wrong.empty())
            return refuse(q(wrong));
        const Place place{e.phase, e.what, e.engine};
        const auto* before = e.supersedes.empty() ? nullptr : at(place);
        done.push_back({place, before ? std::optional(*before) : std::nullopt});
        news.entries.emplace(e.id, e);
    }
    if (const QString why = file_->append(news); !why.isEmpty())
        return refuse(tr("It was not kept: %1").arg(why));
    if (!run_) {
        run_ = run;
        aircraft_ = document_.sharedAircraft();
        plan_ = document_.plan();
        sortie_ = document_.sortie();
        flown_.reset();
        season_.runs.emplace(run.id, run);
    }
    standing_.clear();
    log_.runs.emplace(run.id, run);
    log_.entries.insert(news.entries.begin(), news.entries.end());
    season_.runs.emplace(run.id, run);
    season_.entries.insert(news.entries.begin(), news.entries.end());
    standing_ = record::standing(log_, run_->id);
    series_ = record::seriesOf(season_, run_->airframe);
    judge();
    if (!undoing)
        done_.push_back(std::move(done));
    emit changed();
    emit kept(QDateTime::fromMSecsSinceEpoch(now(), Qt::UTC).toString(QStringLiteral("HH:mm:ss")));
    return {};
}

QString Book::keepTyped(const Place& place, const record::Typed& typed) {
    auto e = entryFor(place);
    e.kind = typed.kind;
    e.value = typed.value;
    e.words = typed.words;
    return keep({std::move(e)});
}

QString Book::keepLooked(const Place& place) {
    auto e = entryFor(place);
    e.kind = record::Entry::Kind::looked;
    return keep({std::move(e)});
}

QString Book::keepWords(const Place& place, const QString& words) {
    auto e = entryFor(place);
    e.kind = record::Entry::Kind::words;
    e.words = words.trimmed().toStdString();
    return keep({std::move(e)});
}

QString Book::keepScan(Phase phase, const std::vector<record::ReadLine>& lines,
                       const std::vector<record::QuickRead>& scan) {
    std::vector<record::Entry> entries;
    for (const auto& read : scan) {
        const auto& line = lines.at(read.line);
        auto e = entryFor({phase, line.what, line.eachEngine ? notes().positions.at(read.engine).id : std::string()});
        e.kind = read.typed.kind;
        e.value = read.typed.value;
        e.words = read.typed.words;
        entries.push_back(std::move(e));
    }
    return keep(std::move(entries));
}

QString Book::withdraw(const Place& place) {
    const auto* stands = at(place);
    if (!stands)
        return {};
    auto e = *stands;
    e.supersedes = stands->id;
    e.entered = now();
    e.who = who_;
    e.kind = record::Entry::Kind::withdrawn;
    return keep({std::move(e)});
}

QString Book::undo() {
    if (done_.empty())
        return {};
    if (const auto& d = done_.back().front(); const auto* row = record::momentOf(d.place.what)) {
        record::AnchorAt moment{row, d.place.engine, 0};
        const bool stood = d.before && d.before->kind == record::Entry::Kind::figure;
        if (stood)
            moment.at = run_->began + static_cast<std::int64_t>(std::llround(d.before->value * 1000.0));
        const QString why = stood ? putMoment(moment, true) : forgetMoment(moment, true);
        if (why.isEmpty()) {
            done_.pop_back();
            emit changed();
        }
        return why;
    }
    std::vector<record::Entry> back;
    for (const auto& d : done_.back()) {
        const record::Entry* stands = at(d.place);
        if (record::takesWords(d.place.what)) {
            // Of words there may be many in a place: the last one kept is meant.
            stands = nullptr;
            for (const auto& s : standing_)
                for (const auto* e : s.last)
                    if (e->phase == d.place.phase && e->what == d.place.what && e->engine == d.place.engine &&
                        (!stands || e->id > stands->id))
                        stands = e;
        }
        record::Entry e;
        if (d.before)
            e = *d.before;
        else if (stands)
            e = *stands;
        else
            continue;
        // What was withdrawn is written again; what was written anew is withdrawn.
        e.supersedes = stands ? stands->id : std::string();
        e.entered = now();
        if (!d.before)
            e.kind = record::Entry::Kind::withdrawn;
        back.push_back(std::move(e));
    }
    if (back.empty()) {
        done_.pop_back();
        return {};
    }
    const QString why = keep(std::move(back), true);
    if (why.isEmpty()) {
        done_.pop_back();
        emit changed();
    }
    return why;
}

record::Series Book::series(const Place& place) const {
    record::Series out{airframe(), place.engine, place.what, place.phase, false, {}};
    // With the plan and without it are two: the longer one.
    for (const auto& s : series_)
        if (s.what == place.what && s.phase == place.phase && s.engine == place.engine &&
            s.points.size() > out.points.size())
            out = s;
    return out;
}

void Book::readSeries() {
    season_ = {};
    series_.clear();
    const std::string of = airframe();
    if (file_ && !of.empty())
        if (auto read = file_->read({q(of), {}, seasonRuns})) {
            season_ = std::move(read.value());
            series_ = record::seriesOf(season_, of);
        }
    holding_.clear();
    if (document_.isOpen() && !season_.runs.empty())
        holding_ = record::holding(season_, of, notes(), sortie(), flownOf_);
    judge();
}

void Book::readTrace() {
    trace_ = {};
    anchors_ = {};
    if (!file_ || !run_)
        return;
    const auto blocks = file_->traces(q(run_->id));
    if (!blocks || blocks.value().empty())
        return;
    trace_ = record::traceOf(blocks.value(), notes());
    anchors_ = record::anchorsOf(trace_, notes(), standing_, run_->began);
}

TakenIn Book::lookAt(const QString& path) {
    const record::RunFlown flown{aircraft_ ? aircraft_ : document_.sharedAircraft(), sortie()};
    record::Run run;
    if (run_)
        run = *run_;
    else
        run = record::runOf(document_.sortie(), QFileInfo(document_.path()).absoluteFilePath().toStdString(),
                            document_.aircraft().notes, ids(now()), flown_.value_or(now()));
    auto taken = takeInRecorder(path.toStdString(), flown, plan(), run, standing_);
    if (run_ || !taken.recording)
        return taken;
    // A run that it begins began with it; without dates, and unless it is said when, it has just ended.
    const auto& pieces = taken.recording->pieces;
    if (taken.recording->dated)
        run.began = pieces.front().start;
    else if (!flown_)
        run.began = now() - (pieces.back().end() - pieces.front().start);
    return takeInRecorder(path.toStdString(), flown, plan(), run, standing_);
}

QString Book::take(const TakenIn& taken) {
    const auto refuse = [this](const QString& why) {
        emit failed(why);
        return why;
    };
    if (!file_)
        return refuse(tr("The log is not open: nothing was kept."));
    if (const QString why = bringBack(); !why.isEmpty())
        return refuse(why);
    if (taken.run.airframe.empty())
        return refuse(noRegistration());
    if (!run_) {
        record::Log news;
        news.runs.emplace(taken.run.id, taken.run);
        if (const QString why = file_->append(news); !why.isEmpty())
            return refuse(tr("It was not kept: %1").arg(why));
    }
    if (const auto kept = file_->keepTrace(taken.blocks, taken.entries); !kept)
        return refuse(tr("It was not kept: %1").arg(q(kept.error())));
    const QString why = choose(taken.run.id);
    emit this->kept(QDateTime::fromMSecsSinceEpoch(now(), Qt::UTC).toString(QStringLiteral("HH:mm:ss")));
    return why;
}

const record::Entry* Book::written(const record::AnchorAt& moment) const {
    for (const auto& s : standing_)
        for (const auto* e : s.last)
            if (e->what == moment.row->key && e->engine == moment.engine && e->kind == record::Entry::Kind::figure)
                return e;
    return nullptr;
}

QString Book::putMoment(const record::AnchorAt& moment, bool undoing) {
    if (!run_)
        return tr("No run is open.");
    auto e = entryFor({moment.row->phase, std::string(moment.row->key), moment.engine});
    e.at = moment.at;
    e.value = static_cast<double>(moment.at - run_->began) / 1000.0;
    if (const auto* before = written(moment)) {
        e.supersedes = before->id;
        e.phase = before->phase;
    }
    return keepMoment(std::move(e), undoing);
}

QString Book::forgetMoment(const record::AnchorAt& moment, bool undoing) {
    const auto* before = run_ ? written(moment) : nullptr;
    if (!before)
        return {};
    auto e = *before;
    e.supersedes = before->id;
    e.entered = now();
    e.who = who_;
    e.kind = record::Entry::Kind::withdrawn;
    return keepMoment(std::move(e), undoing);
}

QString Book::keepMoment(record::Entry e, bool undoing) {
    const auto blocks = file_ ? file_->traces(q(run_->id)) : Result<std::vector<record::TraceBlock>>(Failure{});
    if (!blocks) {
        const QString why = tr("The log is not open: nothing was kept.");
        emit failed(why);
        return why;
    }
    e.run = run_->id;
    std::vector<record::Entry> all =
        record::reckonedAnew(log_, e, *run_, blocks.value(), notes(), hasItsPlan() ? &plan() : nullptr);
    all.insert(all.begin(), e);
    const Place place{e.phase, e.what, e.engine};
    std::optional<record::Entry> before;
    if (const auto found = log_.entries.find(e.supersedes); found != log_.entries.end())
        before = found->second;
    const QString why = keep(std::move(all), undoing);
    if (!why.isEmpty())
        return why;
    if (!undoing)
        done_.back() = {{place, before}}; // all of it hangs on this one
    anchors_ = record::anchorsOf(trace_, notes(), standing_, run_->began);
    emit changed();
    return {};
}

QString Book::keepPressed(const std::string& what, const std::string& engine, const std::string& words, Phase phase,
                          std::int64_t at) {
    if (const auto* row = record::momentOf(what); row && run_)
        return putMoment({row, engine, at});
    record::Entry e;
    e.what = what;
    e.engine = engine;
    e.words = words;
    const auto* row = record::momentOf(what);
    e.phase = row ? row->phase : phase;
    e.entered = now();
    e.at = at;
    e.who = who_;
    e.value = run_ ? std::max(0.0, static_cast<double>(at - run_->began) / 1000.0) : 0.0;
    return keep({std::move(e)});
}

QString Book::withdrawEntry(const std::string& id) {
    const auto found = log_.entries.find(id);
    if (found == log_.entries.end())
        return tr("It is not in this run.");
    auto e = found->second;
    e.supersedes = e.id;
    e.entered = now();
    e.who = who_;
    e.kind = record::Entry::Kind::withdrawn;
    return keep({std::move(e)});
}

QString Book::keepBlocks(const std::vector<record::TraceBlock>& blocks) {
    if (!file_ || !run_)
        return tr("The log is not open: nothing was kept.");
    if (const QString why = bringBack(); !why.isEmpty())
        return why;
    if (const auto kept = file_->keepTrace(blocks, {}); !kept)
        return q(kept.error());
    return {};
}

void Book::judge() {
    judged_.reset();
    writeUp_ = {};
    if (!document_.isOpen()) {
        held_ = {};
        return;
    }
    if (run_) {
        judged_.emplace(notes(), sortie(), standing_);
        writeUp_ = record::writeUp(run_->id, standing_, notes(), sortie());
        // Earlier runs hold what they held; this one is looked at anew.
        std::erase_if(holding_, [&](const record::Holding& h) { return h.run.id == run_->id; });
        for (const auto& line : writeUp_.lines)
            if (line.holds())
                holding_.insert(holding_.begin(), {*run_, line});
    }
    held_ = record::heldBy(airframe(), holding_, notes());
}

void Book::lookForHolds() {
    // Once an airframe: a log that cannot be opened, or that somebody holds, is not tried again at every edit.
    if (!document_.isOpen() || lookedFor_ == document_.sortie().airframe.registration)
        return;
    lookedFor_ = document_.sortie().airframe.registration;
    if (isOpen() || QFileInfo::exists(logPath_))
        (void)open(); // of another airframe its runs are read
}

const record::Judged::Said* Book::judged(const record::Entry& entry) const {
    return judged_ ? judged_->of(entry.id) : nullptr;
}

QString Book::answer(const record::Holding& line, const record::Answer& answer) {
    auto entries = record::answerEntries(line.line, line.run.id, answer, ids, now());
    if (!entries)
        return q(entries.error());
    if (run_ && run_->id == line.run.id)
        return keep(std::move(entries.value()));
    // Of an earlier run: it goes there, and no run is begun by it.
    record::Log news;
    for (auto& e : entries.value()) {
        if (const auto wrong = record::wrongWith(e); !wrong.empty())
            return q(wrong);
        news.entries.emplace(e.id, std::move(e));
    }
    QString why = file_ ? bringBack() : tr("The log is not open: nothing was kept.");
    if (why.isEmpty())
        why = file_->append(news);
    if (!why.isEmpty()) {
        emit failed(why);
        return why;
    }
    readSeries();
    emit changed();
    emit kept(QDateTime::fromMSecsSinceEpoch(now(), Qt::UTC).toString(QStringLiteral("HH:mm:ss")));
    return {};
}

} // namespace amber::app
