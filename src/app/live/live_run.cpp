// SPDX-License-Identifier: GPL-3.0-or-later
#include "live/live_run.h"
#include "kit/words.h"
#include "notes/cockpit_units.h"
#include "record/anchors.h"
#include "record/what.h"
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
constexpr int tickEach = 1000;                            // ms
constexpr std::int64_t reckonEach = 5000;                 // ms: at most so long a plan is counted on
constexpr std::int64_t clockDrifts = 2000;                // ms
constexpr std::int64_t needleStands = 10'000;             // ms that a needle stands
constexpr double takenEach = 60.0, takenInTheAir = 300.0; // s between two readings that the estimate takes
constexpr std::size_t blockLength = 60;                   // samples of one second
constexpr int spinsFor = 5;                               // s
} // namespace

LiveRun::LiveRun(Book& book, QObject* parent) : QObject(parent), stamp(aloft::stampNow), book_(book) {
    tick_.setInterval(tickEach);
    connect(&tick_, &QTimer::timeout, this, [this] {
        if (timeNow() - reckonedAt_ >= reckonEach)
            reckon();
        else
            emit changed();
    });
    connect(&book_, &Book::changed, this, [this] {
        if (tick_.isActive())
            reckon();
    });
}

std::int64_t LiveRun::timeNow() const {
    const auto here = stamp();
    return stamp_ ? stamp_->utc + aloft::passed(*stamp_, here).milliseconds : here.utc;
}

double LiveRun::since() const {
    return static_cast<double>(timeNow() - reckonedAt_) / 1000.0;
}

void LiveRun::takeUp() {
    if (book_.run() && (book_.isAfterwards() || now_.over))
        book_.anew();
    stamp_.reset();
    question_.clear();
    std::string last;
    for (const auto& s : book_.standing())
        for (const auto* e : s.last)
            if (e->what == "clock" && e->kind == record::Entry::Kind::words && e->id > last)
                if (const auto read = aloft::stampFrom(e->words)) {
                    stamp_ = read;
                    last = e->id;
                }
    if (stamp_) {
        // Since the last entry, which is what a crew remembers.
        lastEntry_ = stamp_->utc;
        for (const auto& s : book_.standing())
            for (const auto* e : s.last)
                lastEntry_ = std::max(lastEntry_, e->at);
        const auto went =
            aloft::passed({stamp_->boot, stamp_->running + (lastEntry_ - stamp_->utc), lastEntry_}, stamp());
        if (!went.certain) {
            question_ = q(went.says);
            offered_ = went.milliseconds;
        }
    }
    book_.setRereads(true);
    tick_.start();
    reckon();
}

void LiveRun::answer(bool asItSays) {
    const auto here = stamp();
    stamp_ = aloft::Stamp{here.boot, here.running, lastEntry_ + (asItSays ? offered_ : 0)};
    question_.clear();
    (void)book_.keepWords({Phase::writeUp, "clock", {}}, q(aloft::textOf(*stamp_)));
    reckon();
}

QString LiveRun::keepStamp() {
    const auto here = stamp();
    const std::int64_t run = timeNow();
    const bool drifted =
        stamp_ && (stamp_->boot != here.boot ||
                   std::llabs((here.utc - here.running) - (stamp_->utc - stamp_->running)) > clockDrifts);
    if (stamp_ && !drifted && runOf_ == (book_.run() ? book_.run()->id : std::string()))
        return {};
    runOf_ = book_.run() ? book_.run()->id : std::string();
    if (stamp_ && drifted && stamp_->boot == here.boot)
        return {}; // the clock was set: the run's time goes on from the stamp that it has
    stamp_ = aloft::Stamp{here.boot, here.running, run};
    return book_.keepWords({Phase::writeUp, "clock", {}}, q(aloft::textOf(*stamp_)));
}

void LiveRun::reckon() {
    if (!book_.isOpen() || (!book_.run() && book_.airframe().empty()))
        return;
    happened_ = book_.run() ? aloft::happenedOf(book_.standing(), *book_.run()) : aloft::Happened();
    happened_.readings.insert(happened_.readings.end(), recorded_.begin(), recorded_.end());
    std::stable_sort(happened_.readings.begin(), happened_.readings.end(),
                     [](const auto& a, const auto& b) { return a.at < b.at; });
    reckonedAt_ = timeNow();
    const double at = book_.run() ? static_cast<double>(reckonedAt_ - book_.run()->began) / 1000.0 : 0.0;
    now_ = aloft::nowOf(book_.aircraft(), book_.sortie(), book_.plan(), happened_, std::max(0.0, at), options_);
    emit changed();
}

const aloft::Given* LiveRun::lastUnnamed() const {
    const aloft::Given* out = nullptr;
    for (const auto& m : happened_.moments)
        if (m.what == aloft::unnamed)
            out = &m;
    return out;
}

std::optional<LiveRun::Named> LiveRun::proposed() const {
    if (!now_.nextMoment)
        return std::nullopt;
    return Named{std::string(now_.nextMoment->row->key), now_.nextMoment->engine,
                 q(aloft::nameOf(*now_.nextMoment, book_.notes()))};
}

std::vector<LiveRun::Named> LiveRun::names() const {
    std::vector<Named> out;
    const auto& notes = book_.notes();
    for (const auto& p : aloft::plannedMoments(book_.plan().flown, notes))
        if (!happened_.when(p.row->key, p.engine))
            out.push_back({std::string(p.row->key), p.engine, q(aloft::nameOf(p, notes))});
    if (now_.phase >= Phase::warmUp && now_.phase < Phase::stop && notes.fuel.tanks.size() > 1)
        for (std::size_t t = 0; t < notes.fuel.tanks.size(); ++t)
            if (static_cast<int>(t) != now_.here.feeding && notes.fuel.tanks[t].kind != TankKind::transfer)
                out.push_back({std::string(record::ofTank) + notes.fuel.tanks[t].id,
                               {},
                               tr("%1 feeds").arg(q(notes.fuel.tanks[t].name))});
    return out;
}

QString LiveRun::pressNow() {
    QString why = book_.keepPressed(std::string(aloft::unnamed), {}, {}, now_.phase, timeNow());
    if (why.isEmpty())
        why = keepStamp();
    reckon();
    return why;
}

QString LiveRun::press(const Named& moment) {
    std::int64_t at = timeNow();
    const auto* unnamed = lastUnnamed();
    const std::string was = unnamed ? unnamed->entry : std::string();
    if (unnamed && book_.run())
        at = book_.run()->began + static_cast<std::int64_t>(std::llround(unnamed->at * 1000.0));
    const double inRun = book_.run() ? static_cast<double>(at - book_.run()->began) / 1000.0 : 0.0;
    if (const auto no =
            aloft::cannotBe(book_.plan().flown, book_.notes(), happened_, {moment.what, moment.engine, inRun, {}});
        !no.empty())
        return q(no);
    QString why = book_.keepPressed(moment.what, moment.engine,
                                    moment.what.starts_with(record::ofTank) ? moment.name.toStdString() : std::string(),
                                    now_.phase, at);
    if (why.isEmpty() && !was.empty())
        why = book_.withdrawEntry(was);
    if (why.isEmpty())
        why = keepStamp();
    // The last engine that is stopped ends the run.
    if (why.isEmpty() && moment.what == "at-engine-stop") {
        happened_ = aloft::happenedOf(book_.standing(), *book_.run());
        const auto& positions = book_.notes().positions;
        if (std::all_of(positions.begin(), positions.end(),
                        [&](const auto& p) { return happened_.when("at-engine-stop", p.id).has_value(); }))
            why = book_.keepPressed("at-stop", {}, {}, Phase::stop, at);
    }
    reckon();
    return why;
}

QString LiveRun::earlier(double seconds) {
    // The moment entered last, in its own place or the unnamed one.
    const record::Entry* last = nullptr;
    for (const auto& s : book_.standing())
        for (const auto* e : s.last)
            if (e->kind == record::Entry::Kind::figure &&
                (record::isMoment(e->what) || e->what == aloft::unnamed || e->what.starts_with(record::ofTank)) &&
                (!last || e->entered > last->entered || (e->entered == last->entered && e->id > last->id)))
                last = e;
    if (!last || !book_.run())
        return tr("Nothing was pressed yet.");
    const std::int64_t at = last->at - static_cast<std::int64_t>(std::llround(seconds * 1000.0));
    if (at < book_.run()->began)
        return tr("That is before the run began.");
    const aloft::Given given{last->what, last->engine, static_cast<double>(at - book_.run()->began) / 1000.0, {}};
    if (const auto no = aloft::cannotBe(book_.plan().flown, book_.notes(), happened_, given); !no.empty())
        return q(no);
    const std::string what = last->what, engine = last->engine, words = last->words, id = last->id;
    const Phase phase = last->phase;
    QString why = book_.keepPressed(what, engine, words, phase, at);
    if (why.isEmpty() && !record::isMoment(what))
        why = book_.withdrawEntry(id);
    reckon();
    return why;
}

QString LiveRun::undo() {
    const QString why = book_.undo();
    reckon();
    return why;
}

void LiveRun::setBends(bool bends) {
    options_.bend = bends;
    reckon();
}

QString LiveRun::tick(const aloft::NextItem& item) {
    if (!book_.run())
        return tr("No run is open.");
    // Oil pressure that came is a needle that was looked at; the others have no needle.
    const QString why = item.kind == aloft::NextItem::Kind::oilPressure
                            ? book_.keepLooked({Phase::start, "oil-pressure", item.engine})
                            : book_.keepWords({now_.phase, "tick", {}}, q(item.id));
    reckon();
    return why;
}

QString LiveRun::standBy(const aloft::AskedReading& asked) {
    if (asked.reading.entry.empty())
        return tr("It came from the recorder.");
    const QString why = book_.keepWords(
        {now_.phase, "note", asked.reading.engine},
        QStringLiteral("%1 %2").arg(QString::fromUtf8(aloft::believes.data(), static_cast<int>(aloft::believes.size())),
                                    q(asked.reading.entry)));
    reckon();
    return why;
}

std::optional<double> LiveRun::needle(Gauge gauge, const std::string& engine) const {
    const auto found = needles_.find({gauge, engine});
    return found != needles_.end() && timeNow() - found->second.first <= needleStands
               ? std::optional(found->second.second)
               : std::nullopt;
}

void LiveRun::look(const record::RecorderMap& map, const aloft::LiveRow& row) {
    // What the needles look like: an engine that turns by itself, take-off power.
    const auto& n = book_.notes();
    const double idle = record::idleOf(n);
    seems_.clear();
    for (std::size_t c = 0; c < map.columns.size() && c < row.values.size(); ++c) {
        const auto& column = map.columns[c];
        if (column.gauge != Gauge::rpm || std::isnan(row.values[c]))
            continue;
        const std::string engine = column.engine.empty() ? n.positions.front().id : column.engine;
        auto& spins = spins_[engine];
        spins = row.values[c] >= 0.5 * idle ? spins + 1 : 0;
        if (spins >= spinsFor && !happened_.when("at-first-fire", engine)) {
            for (const auto& p : aloft::plannedMoments(book_.plan().flown, n))
                if (p.row->key == "at-first-fire" && p.engine == engine)
                    seems_ = tr("It looks like: %1").arg(q(aloft::nameOf(p, n)));
        } else if (!n.ratings.empty() && happened_.when("at-taxi") && !happened_.when("at-take-off") &&
                   row.values[c] >= 0.94 * flight::ratingFor(n, book_.sortie(), Phase::takeOff).rpm.si()) {
            seems_ = tr("It looks like: Take-off power");
        }
    }
}

void LiveRun::feed(const record::RecorderMap& map, const std::vector<aloft::LiveRow>& rows) {
    const bool same =
        columns_.size() == map.columns.size() &&
        std::equal(columns_.begin(), columns_.end(), map.columns.begin(), [](const Column& a, const auto& b) {
            return a.column.gauge == b.gauge && a.column.engine == b.engine && a.column.column == b.column;
        });
    if (!same) {
        flush(true);
        columns_.clear();
        for (const auto& c : map.columns)
            columns_.push_back({c, {}, 0});
    }
    for (const auto& row : rows) {
        if (!row.past)
            look(map, row);
        for (std::size_t c = 0; c < columns_.size() && c < row.values.size(); ++c) {
            auto& column = columns_[c];
            if (!std::isnan(row.values[c]) && !row.past) {
                const std::string engine = isOfAircraft(column.column.gauge) ? std::string()
                                           : column.column.engine.empty()    ? book_.notes().positions.front().id
                                                                             : column.column.engine;
                needles_[{column.column.gauge, engine}] = {row.at, row.values[c]};
                if (book_.run()) {
                    const double at = static_cast<double>(row.at - book_.run()->began) / 1000.0;
                    // What the estimate takes: once a minute while it warms up, each five minutes in the air.
                    const double often = now_.phase <= Phase::runUp ? takenEach : takenInTheAir;
                    const auto last = taken_.find({column.column.gauge, engine});
                    if (at >= 0.0 && (last == taken_.end() || at - last->second >= often)) {
                        recorded_.push_back({column.column.gauge, engine, at, row.values[c], {}, false});
                        taken_[{column.column.gauge, engine}] = at;
                    }
                }
            }
            // One sample a second; a gap ends the block.
            if (column.values.empty())
                column.start = row.at;
            const auto index =
                static_cast<std::int64_t>(std::llround(static_cast<double>(row.at - column.start) / 1000.0));
            if (index < 0 || index > static_cast<std::int64_t>(column.values.size()) + 5) {
                flush(true);
                column.start = row.at;
                column.values.assign(1, row.values[c]);
                continue;
            }
            column.values.resize(std::max(column.values.size(), static_cast<std::size_t>(index) + 1), NAN);
            column.values[static_cast<std::size_t>(index)] = row.values[c];
        }
    }
    flush(false);
}

void LiveRun::flush(bool all) {
    if (!book_.run())
        return;
    std::vector<record::TraceBlock> blocks;
    for (auto& c : columns_) {
        if (c.values.empty() || (!all && c.values.size() < blockLength))
            continue;
        record::TraceBlock b;
        b.run = book_.run()->id;
        b.source = "live";
        b.engine = c.column.engine;
        b.quantity = std::string(nameOf(c.column.gauge).key);
        b.start = c.start;
        b.step = 1000;
        b.values = std::move(c.values);
        c.values.clear();
        b.id = record::contentId('t',
                                 {b.run, b.engine, b.quantity, std::to_string(b.start), record::samplesText(b.values)});
        blocks.push_back(std::move(b));
    }
    if (!blocks.empty())
        (void)book_.keepBlocks(blocks);
}

} // namespace amber::app
