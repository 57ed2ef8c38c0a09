// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/snapshot.h"
#include "air/atmosphere.h"
#include "charts/power_chart_view.h"
#include "charts/start_timeline_view.h"
#include "cli/exit_codes.h"
#include "cli/option_range.h"
#include "files/document.h"
#include "flight/flown.h"
#include "flight/open_files.h"
#include "hand/careful_hand.h"
#include "live/played.h"
#include "log/hours_dialog.h"
#include "log/learnt_dialog.h"
#include "log/trials_dialog.h"
#include "pages/symptoms_page.h"
#include "record/log_text.h"
#include "script/script.h"
#include "seat/debrief_view.h"
#include "shell/main_window.h"
#include "store/data_folder.h"
#include "units/text.h"
#include <QApplication>
#include <QBuffer>
#include <QPainter>
#include <QTemporaryDir>
#include <algorithm>
#include <array>
#include <cstdio>
#include <fmt/format.h>
#include <tuple>

namespace amber::app {

namespace {
/// A page beside the first of a phase, as the table of pages has it; or the same gone wrong.
struct ExtraPage {
    std::string name;
    Phase phase;
    std::string_view page;
    bool failed = false;  ///< a first try that does not catch; of the sheet, engines that are not well
    bool trouble = false; ///< a page of trouble, opened from that phase
    bool hot = false;     ///< on a hot day, as heavy as she may be
    enum class Sat {
        no,
        begins,
        led,
        challenged,
        alone,
        debriefed,
        asked
    } sat = Sat::no;      ///< a rehearsal, from that phase
    bool records = false; ///< what was read in it, after a season of runs
    enum class Over { nothing, learnt, hours, trials } over = Over::nothing; ///< and a window over it
    double aloft = -1.0; ///< flown with a stand-in, so much of the phase gone by
};
const std::vector<ExtraPage>& extraPages() {
    static const std::vector<ExtraPage> all = [] {
        std::vector<ExtraPage> out;
        for (const auto& row : pageTable())
            for (const Phase phase : row.phases)
                if (!row.shown && row.key != "settings")
                    out.push_back({fmt::format("{}-{}", keyOf(phase), row.key), phase, row.key});
        out.push_back({"start-failed", Phase::start, "order", true});
        out.push_back({"run-up-sick", Phase::runUp, "sheet", true});
        // Where each is likeliest wanted; with four engines, two of them out at height.
        for (const auto& row : troubleTable())
            out.push_back({fmt::format("trouble-{}", row.key),
                           row.key == "engine-fails" ? Phase::takeOff
                           : row.key == "go-round"   ? Phase::landing
                                                     : Phase::cruise,
                           row.key, false, true});
        out.push_back({"trouble-hot-and-heavy", Phase::takeOff, "engine-fails", false, true, true});
        using Sat = ExtraPage::Sat;
        for (const auto& [name, phase, sat] : {std::tuple{"rehearse-begin", Phase::start, Sat::begins},
                                               {"rehearse-led", Phase::start, Sat::led},
                                               {"rehearse-challenged", Phase::walkRound, Sat::challenged},
                                               {"rehearse-alone", Phase::climb, Sat::alone},
                                               {"rehearse-debrief", Phase::climb, Sat::debriefed},
                                               {"rehearse-question", Phase::climb, Sat::asked}})
            out.push_back({name, phase, "settings", false, false, false, sat});
        for (const Phase phase :
             {Phase::walkRound, Phase::start, Phase::runUp, Phase::cruise, Phase::letDown, Phase::writeUp})
            out.push_back(
                {fmt::format("record-{}", keyOf(phase)), phase, "settings", false, false, false, Sat::no, true});
        using Over = ExtraPage::Over;
        out.push_back({"record-learnt", Phase::cruise, "settings", false, false, false, Sat::no, true, Over::learnt});
        out.push_back({"record-trials", Phase::letDown, "settings", false, false, false, Sat::no, true, Over::trials});
        out.push_back({"record-hours", Phase::writeUp, "settings", false, false, false, Sat::no, true, Over::hours});
        for (const auto& [name, phase, share] : {std::tuple{"aloft-warm-up", Phase::warmUp, 0.75},
                                                 {"aloft-climb", Phase::climb, 0.5},
                                                 {"aloft-cruise", Phase::cruise, 0.55},
                                                 {"aloft-landing", Phase::landing, 0.5}})
            out.push_back({name, phase, "settings", false, false, false, Sat::no, false, Over::nothing, share});
        return out;
    }();
    return all;
}
/// Flown as far as a share of a phase, with an aircraft that is none.
void flyAlong(MainWindow& window, Phase phase, double share) {
    constexpr std::int64_t day = 1'778'751'000'000; // 14 May 2026, 9:30
    double at = 0.0;
    window.live().stamp = [&at] {
        return aloft::Stamp{"made-up", static_cast<std::int64_t>(1000.0 * at),
                            day + static_cast<std::int64_t>(1000.0 * at)};
    };
    aloft::StandInSetting setting;
    setting.seed = 3;
    const auto flight = aloft::standInFlight(window.document().aircraft(), window.document().sortie(), setting);
    double begin = -1.0, end = 0.0, fired = 1e9;
    for (std::size_t t = 0; t < flight.truth.size(); ++t)
        if (flight.truth[t].phase == phase) {
            begin = begin < 0.0 ? static_cast<double>(t) : begin;
            end = static_cast<double>(t);
        }
    for (const auto& m : flight.moments)
        fired = std::min(fired, m.at);
    at = fired - 1.0;
    window.openAloft();
    const double until = begin + share * (end - begin);
    if (const QString why = play(window.live(), flight, 0.0, until, [&at](double t) { at = t; }); !why.isEmpty())
        fmt::print(stderr, "{}\n", why.toStdString());
    window.aloft().refresh();
    // The picture is of that second.
    window.live().stamp = [at] {
        return aloft::Stamp{"made-up", static_cast<std::int64_t>(1000.0 * at),
                            day + static_cast<std::int64_t>(1000.0 * at)};
    };
}

/// Readings typed into the run-up sheet: as they should be; or, engine by engine, a good one, oily plugs, a dead lead,
/// a switch that does not earth.
void fillSheet(SortieDocument& document, bool sick) {
    Sortie changed = document.sortie();
    static constexpr std::array<std::array<const char*, 2>, 4> drops{
        {{"50 rpm", "60 rpm"}, {"60 rpm", "140 rpm, slow"}, {"170 rpm, rough", "50 rpm"}, {"0 rpm", "60 rpm"}}};
    for (const auto& line : document.plan().runUpSheet.lines)
        for (std::size_t i = 0; i < line.cells.size(); ++i) {
            std::string text;
            if (line.kind == watch::SheetKind::drop)
                text = drops[sick ? i % drops.size() : 0][line.id == "left" ? 0 : 1];
            else if (line.kind == watch::SheetKind::reading && line.band.normalLow && line.band.normalHigh) {
                const double value =
                    (0.45 * *line.band.normalLow + 0.55 * *line.band.normalHigh - line.unit->offset) / line.unit->scale;
                text = fmt::format("{:.3g} {}", value, line.unit->symbol); // three figures are what one reads
                if (std::abs(value) >= 1000)
                    text = fmt::format("{:.0f} {}", 10 * std::round(value / 10), line.unit->symbol);
            }
            if (!text.empty())
                changed.runUpFound[line.cells[i].key] = watch::sheetKept(line, text);
        }
    document.edit(changed, QStringLiteral("run-up reading"));
}
/// Two at the keyboard, challenged into the first engine's start: an item of the second one's was answered from habit.
void challenge(MainWindow& window, const rehearse::Setup& setup) {
    Seat& seat = window.seat();
    constexpr int mostItems = 60;
    window.seatFrame().beginPanel().setWay(rehearse::Way::challenged);
    seat.sit(setup, rehearse::Way::challenged, {}, true);
    window.seatFrame().showHands();
    auto& session = seat.session();
    for (int i = 0; i < mostItems && session.toNextAct({}); ++i) {
        const bool item = session.guide().challenges();
        if (item && session.rehearsal().phase() == Phase::start &&
            !session.guide().wanting(session.rehearsal()).empty() &&
            seat.pairOf(session.guide().next()->puts.front().control) == 1) {
            session.answerItem();
            break;
        }
        session.doNext();
        if (item)
            session.answerItem();
    }
    seat.pause(true);
}
/// A rehearsal as it stands after a while: led, the first engine's start; alone, a climb in which an oil pump fails on
/// the last engine and a throttle is pushed too far.
void rehearse(MainWindow& window, const ExtraPage& extra) {
    using Sat = ExtraPage::Sat;
    window.openRehearsal();
    if (extra.sat == Sat::begins)
        return;
    if (extra.sat == Sat::asked) {
        window.seatFrame().openCards();
        return;
    }
    Seat& seat = window.seat();
    rehearse::Setup setup;
    setup.from = extra.phase;
    const bool led = extra.sat == Sat::led || extra.sat == Sat::challenged;
    const std::size_t engines = window.document().aircraft().notes.engineCount();
    if (!led) {
        rehearse::Trap trap;
        trap.fault = powerplant::Fault::oilPump;
        trap.engine = static_cast<int>(engines) - 1;
        trap.earliest = trap.latest = 110.0;
        setup.traps.push_back(trap);
    }
    if (extra.sat == Sat::challenged) {
        challenge(window, setup);
        return;
    }
    window.seatFrame().beginPanel().setWay(led ? rehearse::Way::led : rehearse::Way::alone);
    seat.sit(setup, led ? rehearse::Way::led : rehearse::Way::alone);
    window.seatFrame().showHands();
    auto& session = seat.session();
    constexpr int actsOfTheStart = 11;
    constexpr double soLong = 126.0, moment = 0.25; // s
    for (int i = 0; led && i < actsOfTheStart; ++i) {
        session.toNextAct({});
        session.doNext();
    }
    if (led)
        session.toNextAct({});
    seat.chooseAsked();
    if (!led) {
        while (session.doNext())
            ;
        seat.chooseGauge(Gauge::oilPressure);
        seat.setSpeed(20);
        for (double t = 0; t < soLong; t += moment * std::max(1, session.speed()))
            seat.live(moment);
        rehearse::Act act;
        act.share = 1.0;
        if (engines > 1)
            seat.chooseEngines({engines - 2});
        seat.put(act);
        seat.setSpeed(1);
        for (double t = 0; t < 6.0; t += moment)
            seat.live(moment);
    }
    seat.pause(true);
    if (extra.sat == Sat::debriefed) {
        seat.call(powerplant::Fault::oilPump, static_cast<int>(engines) - 1);
        window.seatFrame().showDebrief();
        // What would have changed it most is flown in the background: drawn when all of it is known.
        if (const auto* debrief = window.findChild<DebriefView*>())
            while (!debrief->isCounted())
                QApplication::processEvents(QEventLoop::WaitForMoreEvents);
    }
}
/// What an engineer should know of: an engine whose oil was too hot, a magneto, a defect; one of them answered.
void readForTheEngineer(Book& book) {
    const auto& n = book.notes();
    const std::string last = n.positions.back().id;
    const auto& oil = n.gauges.at(Gauge::oilTemperature).in(Phase::cruise);
    using Kind = record::Entry::Kind;
    book.keepTyped({Phase::runUp, "magneto-right", n.positions.front().id},
                   {Kind::figure, 70.0 / 60.0, "70 rpm, rough"});
    book.keepTyped({Phase::cruise, "oil", last}, {Kind::figure, oil.limitHigh.value_or(368.15) + 4.0, {}});
    if (const auto gauge = n.gauges.find(Gauge::oilPressure); gauge != n.gauges.end())
        book.keepTyped({Phase::cruise, "oil-pressure", last},
                       {Kind::figure, 0.97 * gauge->second.in(Phase::cruise).normalLow.value_or(4e5), {}});
    book.keepWords({Phase::landing, "defect", {}}, QStringLiteral("left brake fades when it is held"));
    for (const auto& line : std::vector(book.writeUp().lines)) // an answer writes it anew
        if (line.what == "magneto-right")
            book.answer({*book.run(), line},
                        {"oil on two plugs", "cleaned, gapped, 55 rpm and smooth", "A. Fitter", 0});
}

/// A recorder's file of the same sortie: a careful hand stands in for the flight.
void takeInARecording(MainWindow& window) {
    const auto& document = window.document();
    const powerplant::Powerplant plant(document.aircraft(), document.sortie().fuelGrade);
    std::string trace = powerplant::traceHeader(plant);
    constexpr powerplant::Milliseconds every = 1000;
    (void)hand::doDrill(document.aircraft(), document.sortie(), document.plan().flown, hand::byThePlansClock,
                        [&](const hand::Moment& m) {
                            if (m.state.now % every == 0)
                                trace += powerplant::traceLine(plant, m.state, m.readings);
                        });
    QTemporaryDir scratch;
    const QString path = scratch.filePath(QStringLiteral("recorder.csv"));
    if (writeAtomically(path, QByteArray::fromStdString(trace)).isEmpty())
        window.book().take(window.book().lookAt(path));
}

/// A run as it is read: a scan of the phase a little off the plan.
void readSome(MainWindow& window, Phase phase) {
    Book& book = window.book();
    Problems problems;
    const std::string season = (dataFolder() + QStringLiteral("/logs/lorimer-season.json")).toStdString();
    if (const auto text = document::readFile(season, problems))
        if (auto log = LogFile::open(book.path()))
            (void)log.value()->merge(record::readLogJson(*text, season, problems));
    for (const auto& p : problems)
        fmt::print(stderr, "{}\n", p.text());
    window.openRecord();
    window.showPhase(phase);
    const auto& lines = window.recordFrame().model().lines();
    std::vector<record::QuickRead> scan;
    const std::size_t engines = window.recordFrame().model().engines();
    for (std::size_t l = 0; l + 1 < lines.size(); ++l)
        for (std::size_t e = 0; e < (lines[l].eachEngine ? engines : 1); ++e) {
            if (lines[l].gauge && lines[l].planned) {
                // The last engine's oil is warm, as it has been in the season.
                const bool sick = lines[l].what == "oil" && e + 1 == engines;
                const bool set = lines[l].what == "boost" || lines[l].what == "rpm";
                const double off = lines[l].span * (sick  ? 0.12
                                                    : set ? 0.0
                                                          : 0.008 * (static_cast<double>((l + e) % 3) - 1.0));
                scan.push_back(
                    {l, e, {record::Entry::Kind::figure, watch::asRead(*lines[l].planned + off, *lines[l].unit), {}}});
            } else if (lines[l].planned && !lines[l].unit) {
                scan.push_back({l, e, {record::Entry::Kind::figure, *lines[l].planned, {}}});
            }
        }
    if (!scan.empty() && phase != Phase::letDown)
        book.keepScan(phase, lines, scan);
    if (phase == Phase::writeUp)
        readForTheEngineer(book);
    if (phase == Phase::letDown)
        takeInARecording(window);
    if (phase == Phase::walkRound)
        for (std::size_t l = 0; l < lines.size(); ++l)
            if (lines[l].item && lines[l].item->kind == WalkItemKind::look && l < 9)
                l == 7
                    ? book.keepTyped({phase, lines[l].what, {}}, {record::Entry::Kind::words, 0.0, "oil on the cowl"})
                    : book.keepLooked({phase, lines[l].what, {}});
    auto& table = window.recordFrame().table();
    for (int row = 0; row < window.recordFrame().model().rowCount(); ++row)
        if (window.recordFrame().model().line(row)->what == "oil")
            table.setCurrentIndex(
                window.recordFrame().model().index(row, ReadModel::firstEngine + static_cast<int>(engines) - 1));
}
} // namespace

namespace {
/// The season's last third tried another oil.
void markATrial(const Book& book) {
    auto log = LogFile::open(book.path());
    const auto runs = book.runs();
    record::Log marks;
    for (std::size_t i = 1; i < runs.size() && i <= runs.size() / 3; ++i) {
        record::Entry e;
        e.id = "snapshot-trial-" + std::to_string(i);
        e.run = runs[i].id;
        e.at = e.entered = runs[i].began;
        e.what = "trial";
        e.kind = record::Entry::Kind::words;
        e.words = "another oil";
        marks.entries.emplace(e.id, e);
    }
    if (log)
        (void)log.value()->append(marks);
}
} // namespace

std::vector<std::string> snapshotViews() {
    std::vector<std::string> out;
    for (const auto& demo : demoSorties())
        for (std::size_t i = 0; i < plannedPhases; ++i)
            out.push_back(fmt::format("{}-{}", demo.aircraft, phaseNames[i].key));
    for (const auto& demo : demoSorties())
        for (const auto& extra : extraPages())
            out.push_back(fmt::format("{}-{}", demo.aircraft, extra.name));
    return out;
}

namespace {
/// One view as an image; null, after telling why, when it cannot be drawn.
QImage drawView(const std::string& view, int width, int height, bool hangar, int& code) {
    code = exitUsage;
    const auto all = snapshotViews();
    const auto found = std::find(all.begin(), all.end(), view);
    if (found == all.end()) {
        fmt::print(stderr, "amber-throttle snapshot: there is no view \"{}\"; see snapshot --list\n", view);
        return {};
    }
    const auto place = static_cast<std::size_t>(found - all.begin());
    const std::size_t pages = demoSorties().size() * plannedPhases;
    const ExtraPage* extra = place >= pages ? &extraPages()[(place - pages) % extraPages().size()] : nullptr;
    const std::size_t index = extra ? (place - pages) / extraPages().size() * plannedPhases +
                                          std::min(static_cast<std::size_t>(extra->phase), plannedPhases - 1)
                                    : place;
    QTemporaryDir scratch;
    MainWindow window(scratch.filePath(QStringLiteral("settings.ini")), scratch.filePath(QStringLiteral("autosave")));
    window.setTheme(hangar ? ThemeKind::hangar : ThemeKind::day);
    const auto problems =
        window.document().load(demoSortie(QString::fromLatin1(demoSorties()[index / plannedPhases].file)));
    if (!problems.empty()) {
        for (const auto& p : problems)
            fmt::print(stderr, "{}\n", p.text());
        code = exitProblems;
        return {};
    }
    window.resize(width, height);
    window.show();
    window.showPhase(phaseNames[index % plannedPhases].phase);
    if (extra && extra->hot) {
        Sortie changed = window.document().sortie();
        changed.day.oat = Temperature::of(36, units::celsius);
        changed.weight = window.document().aircraft().notes.maxWeight;
        changed.load.weightTyped = true;
        window.document().edit(changed, QStringLiteral("hot and heavy"));
    }
    if (extra && extra->trouble) {
        const auto& n = window.document().aircraft().notes;
        const auto& f = window.document().plan().flown;
        const bool many = n.positions.size() > 3 && extra->page == "engine-fails";
        const auto& phase = f[many ? Phase::cruise : extra->phase];
        if (many)
            window.showPhase(Phase::cruise);
        window.openTrouble();
        window.trouble().setTime(phase.start + (extra->phase == Phase::takeOff ? 0.9 : 0.5) * phase.duration);
        if (many)
            window.trouble().setDead({0, 1});
        window.trouble().showPage(extra->page);
        if (auto* symptoms = qobject_cast<SymptomsPage*>(&window.trouble().page()))
            symptoms->notice({{Gauge::oilPressure, Way::falls}, {Gauge::oilTemperature, Way::rises}, Felt::shake});
        window.trouble().focusFirst();
        window.trouble().reckonNow();
    } else if (extra) {
        window.page().showPage(extra->page);
        // What if the second engine's first try does not catch.
        if (extra->page == "sheet")
            fillSheet(window.document(), extra->failed);
        else if (auto* timeline = window.page().page().findChild<StartTimelineView*>(); extra->failed && timeline)
            timeline->failOnceMore(
                timeline->timeline().order[std::min<std::size_t>(1, timeline->timeline().order.size() - 1)]);
    }
    if (extra && extra->sat != ExtraPage::Sat::no)
        rehearse(window, *extra);
    if (extra && extra->records)
        readSome(window, extra->phase);
    if (extra && extra->aloft >= 0.0)
        flyAlong(window, extra->phase, extra->aloft);
    QDialog* over = nullptr;
    if (extra && extra->over == ExtraPage::Over::hours)
        over = window.showHours();
    if (extra && extra->over == ExtraPage::Over::trials) {
        markATrial(window.book());
        over = window.showTrials();
    }
    if (extra && extra->over == ExtraPage::Over::learnt)
        if (auto* learnt = window.showLearnt()) {
            while (!learnt->isDone())
                QApplication::processEvents(QEventLoop::WaitForMoreEvents);
            over = learnt;
        }
    // Layout, then the queued repaint of the picture.
    for (int i = 0; i < 4; ++i)
        QApplication::processEvents();
    code = exitOk;
    QPixmap picture = window.grab();
    if (over) { // a window of its own, over it
        QPainter painter(&picture);
        const QPoint at = window.rect().center() - over->rect().center();
        painter.drawPixmap(at, over->grab());
        painter.setPen(QPen(Colours(&window).rule, 1));
        painter.drawRect(QRect(at, over->size()));
    }
    return picture.toImage();
}
} // namespace

int takeSnapshot(const std::string& view, const std::string& out, int width, int height, bool hangar) {
    int code = exitOk;
    const QImage picture = drawView(view, width, height, hangar, code);
    if (picture.isNull())
        return code;
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    // Packed well enough: as hard as it goes takes as long as the drawing.
    picture.convertToFormat(QImage::Format_RGB888).save(&buffer, "PNG", 50);
    if (const QString error = writeAtomically(QString::fromStdString(out), bytes); !error.isEmpty()) {
        fmt::print(stderr, "amber-throttle snapshot: {}\n", error.toStdString());
        return exitWrite;
    }
    return exitOk;
}

int drawChart(const ChartOptions& o) {
    const auto loaded = flight::loadAircraft(o.notes, o.variant);
    for (const auto& p : loaded.problems)
        fmt::print(stderr, "{}\n", p.text());
    if (!loaded.aircraft)
        return exitProblems;
    const TypeNotes& n = loaded.aircraft->notes;
    const Rating& rating = flight::ratingFor(n, {}, Phase::climb);
    PowerChartView::Reading reading{rating.rpm, rating.boost.value_or(ManifoldPressure::si(standardPressure)), 0,
                                    Length::si(1000), air::standardTemperature(Length::si(1000))};
    const auto bad = [](const std::string& why) {
        fmt::print(stderr, "amber-throttle chart: {}\n", why);
        return static_cast<int>(exitUsage);
    };
    if (!o.rpm.empty()) {
        const auto rpm = readOption<Dimension::rotation>("rpm", o.rpm, units::rpm.spec);
        if (!rpm)
            return bad(rpm.error());
        reading.rpm = rpm.value();
    }
    if (!o.boost.empty()) {
        const auto boost = readOption<Dimension::manifoldPressure>("boost", o.boost, n.cockpit.boost);
        if (!boost)
            return bad(boost.error());
        reading.boost = boost.value();
    }
    if (!o.altitude.empty()) {
        const auto altitude = readOption<Dimension::length>("altitude", o.altitude, n.cockpit.height);
        if (!altitude)
            return bad(altitude.error());
        reading.height = altitude.value();
        reading.outside = air::standardTemperature(reading.height);
    }
    if (!o.oat.empty()) {
        const auto oat = readOption<Dimension::temperature>("oat", o.oat, n.cockpit.temperature);
        if (!oat)
            return bad(oat.error());
        reading.outside = oat.value();
    }
    const auto gear = n.gearIndex(o.gear);
    if (!gear)
        return bad(fmt::format("--gear: the {} has no gear \"{}\"", n.engine.name, o.gear));
    reading.gear = *gear;
    const QPalette palette = paletteFor(ThemeKind::day);
    qApp->setPalette(palette);
    PowerChartView view;
    view.resize(1100, 620);
    view.QWidget::show();
    view.show(loaded.aircraft, reading);
    for (int i = 0; i < 4; ++i)
        QApplication::processEvents();
    for (const auto& [path, bytes] : {std::pair{o.svg, o.svg ? view.svg(1100, 620) : QByteArray()},
                                      std::pair{o.png, o.png ? view.png(1100, 620) : QByteArray()}})
        if (path)
            if (const QString error = writeAtomically(QString::fromStdString(*path), bytes); !error.isEmpty()) {
                fmt::print(stderr, "amber-throttle chart: {}\n", error.toStdString());
                return exitWrite;
            }
    return exitOk;
}

} // namespace amber::app
