// SPDX-License-Identifier: GPL-3.0-or-later
// The log without a window: runs, entries, export, import, merge; and what it tells.
#include "cli/cautions.h"
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "cli/open_log.h"
#include "cli/run_notes.h"
#include "files/document.h"
#include "flight/open_files.h"
#include "record/from_trace.h"
#include "record/judged.h"
#include "record/log_text.h"
#include "record/planned.h"
#include "record/read_lines.h"
#include "record/run_of.h"
#include "record/trend.h"
#include "record/what.h"
#include "store/hangar_log.h"
#include "store/log_file.h"
#include "store/sortie_document.h"
#include "store/taken_in.h"
#include "units/text.h"
#include <QCoreApplication>
#include <QDateTime>
#include <QFileInfo>
#include <QRandomGenerator>
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>
#include <limits>
#include <nlohmann/json.hpp>

namespace amber::app {
namespace {

int usage(const std::string& why) {
    fmt::print(stderr, "{}\n", why);
    return exitUsage;
}
int problemsTold(const Problems& problems, int code) {
    for (const auto& p : problems)
        fmt::print(stderr, "{}\n", p.text());
    return code;
}

class LogCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "log"; }
    [[nodiscard]] const char* help() const override {
        return "The log: runs, begin a run, add what was read, take in a recorder's file, list, export, import, merge "
               "with another, check";
    }
    void declare(Arguments& a) override {
        a.choice("does", does_, {"runs", "begin", "add", "trace", "list", "export", "import", "merge", "check"},
                 "runs, begin, add, trace, list, export, import, merge or check");
        a.text("--log", log_, "The log (SQLite), or postgresql://… of the hangar's; without: your own");
        a.text("--sortie", sortie_, "begin: the sortie (TOML) that is flown");
        a.text("--run", run_, "add, list: of this run; add without: the latest one");
        a.text("--airframe", airframe_, "runs, list: of this registration");
        a.text("--phase", phase_, "add: phase it was read in");
        a.text("--engine", engine_, "add: position of the engine, as the notes name it; without: of the aircraft");
        a.text("--what", what_, "add: what was read (head, oil-pressure, tries, …), defect or note");
        a.text("--figure", figure_, "add: what it read, with its unit");
        a.flag("--looked", looked_, "add: it was in its band, no figure was taken");
        a.text("--words", words_, "add: words, of a defect or a note");
        a.text("--corrects", corrects_, "add: id of the entry that this one corrects");
        a.flag("--withdraw", withdraw_, "add: what --corrects names should not have been written");
        a.text("--at", at_, "begin, add: when, UTC: 2026-11-29 14:05; without: now");
        a.flag("--rough", rough_, "add: about then");
        a.text("--who", who_, "add: who read it");
        a.text("--file", file_,
               "export, import, merge: the other file (JSON; merge: a log, or a hangar's address); trace: a recorder's "
               "(CSV)");
        a.flag("--preview", preview_, "trace: tells what the columns are and what was found, and keeps nothing");
        a.flag("--json", json_, "list: as JSON, SI");
        a.flag("--csv", csv_, "list: as CSV");
        a.oneOf({"--json", "--csv"});
        a.oneOf({"--figure", "--looked", "--words", "--withdraw"});
    }
    int run(const CommandActions&) override {
        OpenLog log(log_, does_ == "check" ? LogFile::Check::thorough : LogFile::Check::usual);
        if (!log)
            return wrongFile(log.why());
        if (does_ == "check") {
            fmt::print("{}: {}\n", log->path().toStdString(), log->told().isEmpty() ? "in order" : "as told");
            return log->told().isEmpty() ? exitOk : exitProblems;
        }
        if (!at_.empty() && !record::timeFrom(at_))
            return usage("--at: write a time as 2026-11-29 14:05, UTC");
        if (does_ == "runs")
            return listRuns(log);
        if (does_ == "begin")
            return begin(log);
        if (does_ == "add")
            return add(log);
        if (does_ == "trace")
            return trace(log);
        if (does_ == "list")
            return list(log);
        if (does_ == "export")
            return exportAll(log);
        return does_ == "import" ? importAll(log) : merge(log);
    }

private:
    static int wrongFile(const std::string& why) {
        fmt::print(stderr, "{}\n", why);
        return exitProblems;
    }
    [[nodiscard]] std::int64_t now() const { return QDateTime::currentMSecsSinceEpoch(); }
    [[nodiscard]] std::int64_t when() const { return at_.empty() ? now() : *record::timeFrom(at_); }
    static record::Ids ids() {
        return record::idsFrom([] { return QRandomGenerator::system()->generate64(); });
    }

    int listRuns(OpenLog& log) const {
        const auto latest = log->runs(QString::fromStdString(airframe_), 200);
        if (!latest)
            return wrongFile(latest.error());
        for (const auto& r : latest.value())
            fmt::print("{}  {}  {}  {}  {}\n", r.id, record::timeText(r.began), shownText(r.airframe),
                       shownText(r.type), shownText(r.title));
        return exitOk;
    }

    int begin(OpenLog& log) const {
        if (sortie_.empty())
            return usage("begin: --sortie FILE tells which aircraft and day");
        const auto loaded = flight::loadSortie(sortie_);
        if (!loaded.ok())
            return problemsTold(loaded.problems, exitProblems);
        const record::Run r = record::runOf(*loaded.sortie, sortie_, loaded.aircraft->notes, ids()(now()), when());
        if (r.airframe.empty())
            return usage(sortie_ + ": the airframe has no registration: [airframe] registration = \"…\"");
        if (const QString why = log->add(r); !why.isEmpty())
            return notKept(why);
        fmt::print("{}\n", r.id);
        return exitOk;
    }

    static int notKept(const QString& why) {
        fmt::print(stderr, "It was not kept: {}\n", why.toStdString());
        return exitWrite;
    }

    int add(OpenLog& log) const {
        std::string run;
        int code = exitOk;
        const auto read = runMeant(log, run, code);
        if (!read)
            return code;
        const auto of = read->runs.find(run);
        record::Entry e;
        const auto original = read->entries.find(corrects_);
        if (!corrects_.empty()) {
            if (original == read->entries.end())
                return usage(fmt::format("--corrects: run {} has no entry {}", run, corrects_));
            e = original->second; // what is not said anew stays
            e.supersedes = corrects_;
        }
        e.id = ids()(now());
        e.run = run;
        e.entered = now();
        if (corrects_.empty() || !at_.empty())
            e.at = when();
        e.rough = rough_ || (e.rough && at_.empty());
        if (!who_.empty())
            e.who = who_;
        if (!phase_.empty()) {
            const auto phase = phaseFromKey(phase_);
            if (!phase)
                return usage(fmt::format("--phase: \"{}\" is no phase", phase_));
            e.phase = *phase;
        } else if (corrects_.empty()) {
            return usage("add: --phase tells when it was read: climb, run-up, …");
        }
        if (!engine_.empty())
            e.engine = engine_;
        if (!what_.empty())
            e.what = what_;
        if (e.what.empty())
            return usage("add: --what tells what was read: head, oil-pressure, tries, …, defect or note");
        const auto plan = planOf(of->second);
        if (!engine_.empty() && !positions_.empty()) {
            // By its number or by its name, as the notes have them.
            const auto is = std::find_if(positions_.begin(), positions_.end(), [&](const Position& p) {
                return p.id == e.engine || QString::fromStdString(p.name).compare(QString::fromStdString(e.engine),
                                                                                  Qt::CaseInsensitive) == 0;
            });
            if (is == positions_.end()) {
                std::string all;
                for (const auto& p : positions_)
                    all += fmt::format("{}{} ({})", all.empty() ? "" : ", ", p.id, p.name);
                return usage(fmt::format("--engine: \"{}\" is none of {}", e.engine, all));
            }
            e.engine = is->id;
        }
        e.planned = plan ? record::unlearntOf(*plan, e.phase, e.what, e.engine) : e.planned;
        if (withdraw_) {
            if (corrects_.empty())
                return usage("--withdraw: --corrects ID tells what");
            e.kind = record::Entry::Kind::withdrawn;
        } else if (looked_) {
            e.kind = record::Entry::Kind::looked;
            e.value = 0.0;
            e.words.clear();
        } else if (!words_.empty()) {
            e.kind = record::Entry::Kind::words;
            e.words = words_;
            e.planned.reset();
        } else if (!figure_.empty()) {
            const auto typed = readAs(e, plan);
            if (!typed)
                return usage("--figure: " + typed.error());
            e.kind = typed.value().kind;
            e.value = typed.value().value;
            e.words = typed.value().words;
        } else if (corrects_.empty()) {
            return usage("add: one of --figure, --looked or --words");
        }
        if (const auto no = record::wrongWith(e); !no.empty())
            return usage(no);
        record::Log news;
        news.entries.emplace(e.id, e);
        if (record::isMoment(e.what) && aircraft_) {
            // What the run's traces come to hangs on it.
            const auto blocks = log->traces(QString::fromStdString(run));
            if (!blocks)
                return wrongFile(blocks.error());
            const auto next = ids();
            for (auto& more : record::reckonedAnew(*read, e, of->second, blocks.value(), aircraft_->notes,
                                                   plan ? &*plan : nullptr)) {
                more.id = next(now());
                news.entries.emplace(more.id, std::move(more));
            }
        }
        if (const QString why = log->append(news); !why.isEmpty())
            return notKept(why);
        fmt::print("{}\n", e.id);
        if (news.entries.size() > 1)
            fmt::print(stderr, "{} readings of the recorder were reckoned anew.\n", news.entries.size() - 1);
        if (e.kind == record::Entry::Kind::figure && e.planned)
            fmt::print(stderr, "The plan of the day expected {} (model or notes).\n",
                       record::figureText(e.what, *e.planned,
                                          record::unitIn(e.what, aircraft_ ? &aircraft_->notes : nullptr)));
        if (aircraft_)
            if (const auto said = record::judgedAlone(aircraft_->notes, e);
                said && said->colour() != watch::Colour::normal)
                fmt::print(stderr, "{}: {}\n", wordOf(said->colour()), said->sentence());
        return exitOk;
    }
    /// What the walk-round and the run-up sheet ask for is read as their lines are; a log's own figures want a unit.
    Result<record::Typed> readAs(const record::Entry& e, const std::optional<plan::Plan>& plan) const {
        if (plan && aircraft_)
            for (const auto& line : record::readLines(*plan, aircraft_->notes, e.phase))
                if (line.what == e.what && (line.sheet || line.item))
                    return record::readTyped(line, figure_);
        const auto value =
            record::readFigure(e.what, figure_, aircraft_ ? record::needleUnit(e.what, aircraft_->notes) : nullptr);
        return value ? Result<record::Typed>(record::Typed{record::Entry::Kind::figure, value.value(), {}})
                     : Failure{value.error()};
    }
    /// The plan of a run's day; none where its files are not there any more.
    std::optional<plan::Plan> planOf(const record::Run& run) const {
        if (run.sortie.empty())
            return std::nullopt;
        const auto loaded = flight::loadSortieText(run.sortie, "run.toml");
        if (!loaded.ok()) {
            fmt::print(stderr, "The plan of that day cannot be reckoned again: {}\n",
                       loaded.problems.empty() ? std::string("its notes are not there")
                                               : loaded.problems.front().text());
            return std::nullopt;
        }
        positions_ = loaded.aircraft->notes.positions;
        aircraft_ = loaded.aircraft;
        return plan::makePlan(*loaded.aircraft, *loaded.sortie);
    }

    /// The run that is meant, the latest one where none is named, and what the log has of it.
    std::optional<record::Log> runMeant(OpenLog& log, std::string& run, int& code) const {
        const auto last = log->runs({}, 1);
        if (!last) {
            code = wrongFile(last.error());
            return std::nullopt;
        }
        // A run that is still to come is not the one that goes on.
        constexpr std::int64_t slack = 86'400'000; // ms: clocks and time zones
        if (run_.empty() && !last.value().empty() && last.value().front().began > std::max(now(), when()) + slack) {
            code =
                usage(fmt::format("{}: the latest run begins on {}, which is to come: name the run that is meant with "
                                  "--run (log runs lists them), or begin one",
                                  does_, record::timeText(last.value().front().began).substr(0, 10)));
            return std::nullopt;
        }
        run = !run_.empty() ? run_ : last.value().empty() ? std::string() : last.value().front().id;
        LogFile::Wanted wanted;
        wanted.run = QString::fromStdString(run);
        auto read = run.empty() ? Result<record::Log>(record::Log()) : log->read(wanted);
        if (!read) {
            code = wrongFile(read.error());
            return std::nullopt;
        }
        if (!read.value().runs.contains(run)) {
            code = usage(run.empty() ? fmt::format("{}: the log has no run yet: log begin --sortie FILE", does_)
                                     : fmt::format("{}: there is no run {}: log runs lists them", does_, run));
            return std::nullopt;
        }
        return std::move(read.value());
    }

    int trace(OpenLog& log) const {
        if (file_.empty())
            return usage("trace: --file FILE, a recorder's (CSV)");
        std::string id;
        int code = exitOk;
        const auto there = runMeant(log, id, code);
        if (!there)
            return code;
        const auto& run = there->runs.at(id);
        const auto flown = record::flownOf()(run);
        if (!flown)
            return usage(
                fmt::format("trace: the aircraft of run {} is not there: its sortie or its notes have gone", id));
        const auto plan = plan::makePlan(*flown->aircraft, flown->sortie);
        auto taken = takeInRecorder(file_, *flown, plan, run, record::standing(*there, id));
        for (const auto& p : taken.problems)
            fmt::print(stderr, "{}\n", p.text());
        if (!taken.recording)
            return exitProblems;
        for (const auto& line : toldOf(taken, flown->aircraft->notes))
            line.name.empty() ? fmt::print("{}\n", line.text) : fmt::print("{:<24} {}\n", line.name, line.text);
        if (preview_)
            return exitOk;
        const auto kept = log->keepTrace(taken.blocks, taken.entries);
        if (!kept)
            return notKept(QString::fromStdString(kept.error()));
        fmt::print("{} blocks of it were new.\n", kept.value());
        fmt::print("{}", logCaution);
        return exitOk;
    }
    /// Run by run: no more than one is held, however many there are.
    int list(OpenLog& log) const {
        std::vector<std::string> ids;
        if (run_.empty()) {
            auto runs = log->runs(QString::fromStdString(airframe_), std::numeric_limits<int>::max());
            if (!runs)
                return wrongFile(runs.error());
            for (auto& r : runs.value())
                ids.push_back(std::move(r.id));
            std::sort(ids.begin(), ids.end());
        } else {
            ids.push_back(run_);
        }
        std::string why;
        const auto each = [&](const auto& take) {
            for (const auto& id : ids) {
                const auto read = log->read({QString::fromStdString(airframe_), QString::fromStdString(id), 0});
                if (!read) {
                    why = read.error();
                    return;
                }
                take(read.value());
            }
        };
        if (json_) {
            record::LogJsonWriter writer(
                [](std::string_view text) { return std::fwrite(text.data(), 1, text.size(), stdout) == text.size(); });
            each([&](const record::Log& one) {
                for (const auto& [id, run] : one.runs)
                    writer.put(run);
            });
            each([&](const record::Log& one) {
                for (const auto& [id, entry] : one.entries)
                    writer.put(entry);
            });
            writer.end();
        } else if (csv_) {
            fmt::print("{}", record::logCsv({}));
            each([](const record::Log& one) { fmt::print("{}", record::logCsvRows(one)); });
        } else {
            RunNotes cockpits;
            each([&](const record::Log& one) {
                const auto all = record::standing(one);
                for (const auto& [id, r] : one.runs) {
                    fmt::print("{}  {}  {}  {}\n", record::timeText(r.began), shownText(r.airframe), shownText(r.type),
                               shownText(r.title));
                    if (const auto of = all.find(id); of != all.end())
                        for (const auto& s : of->second)
                            print(s, cockpits.of(r));
                }
            });
        }
        return why.empty() ? exitOk : wrongFile(why);
    }
    static void print(const record::Standing& s, const TypeNotes* notes) {
        for (const auto* e : s.last) {
            const auto* row = record::whatOf(e->what);
            std::string text = shownText(e->words);
            if (e->kind == record::Entry::Kind::figure) {
                if (text.empty())
                    text = record::figureText(e->what, e->value, record::unitIn(e->what, notes));
                if (e->planned)
                    text += fmt::format("  (planned {})",
                                        record::figureText(e->what, *e->planned, record::unitIn(e->what, notes)));
            } else if (e->kind == record::Entry::Kind::looked) {
                text = "looked: in its band";
            }
            fmt::print("  {}{}  {:<10} {:<10} {:<24} {}{}  {}\n", e->rough ? "about " : "",
                       record::timeText(e->at).substr(11, 5), keyOf(e->phase), shownText(e->engine),
                       row ? std::string(row->title) : shownText(e->what), text,
                       s.disagrees ? "  [corrected apart: see the others]" : "", e->id);
            for (const auto* old : s.was)
                if (old->kind == record::Entry::Kind::figure)
                    fmt::print("      was {}, corrected  {}\n",
                               record::figureText(old->what, old->value, record::unitIn(old->what, notes)), old->id);
        }
    }

    int exportAll(OpenLog& log) const {
        std::optional<Output> file;
        if (!file_.empty()) {
            if (const auto error = overInput(file_, {log->path().toStdString()}); !error.isEmpty())
                return notKept(error);
            file.emplace(QString::fromStdString(file_));
        }
        QByteArray waiting;
        const auto flush = [&] {
            const bool gone = file ? file->write(waiting)
                                   : std::fwrite(waiting.constData(), 1, static_cast<std::size_t>(waiting.size()),
                                                 stdout) == static_cast<std::size_t>(waiting.size());
            waiting.clear();
            return gone;
        };
        constexpr qsizetype piece = 1 << 20;
        record::LogJsonWriter writer([&](std::string_view text) {
            waiting.append(text.data(), static_cast<qsizetype>(text.size()));
            return waiting.size() < piece || flush();
        });
        const auto put = [&](const auto& row) { return writer.put(row); };
        const QString why = log->each({put, put, put});
        // Half a log does not take the place of a whole one.
        if (!why.isEmpty())
            return file && !file->wrong().isEmpty() ? notKept(file->wrong()) : wrongFile(why.toStdString());
        if (writer.end())
            flush();
        if (const QString error = file ? file->commit() : QString(); !error.isEmpty())
            return notKept(error);
        return exitOk;
    }
    int importAll(OpenLog& log) const {
        Problems problems;
        if (file_.empty())
            return usage("import: --file FILE, a log in JSON");
        constexpr std::uintmax_t largest = 500u << 20;
        std::error_code error;
        if (const auto size = std::filesystem::file_size(file_, error); !error && size > largest) {
            fmt::print(
                stderr,
                "{}: a log in JSON of over {} MiB is not taken in. Export it in parts, or merge its SQLite file.\n",
                file_, largest >> 20);
            return exitProblems;
        }
        std::ifstream in(file_, std::ios::binary);
        if (!std::filesystem::is_regular_file(file_, error) || !in) {
            fmt::print(stderr, "{}: there is no such file that can be read. Check the name and the folder.\n", file_);
            return exitProblems;
        }
        // Some thousands of rows at a time, each lot all or none: importing again adds what a stop has left out.
        constexpr std::size_t lot = 20'000, lotOfBlocks = 500;
        record::Log rows;
        std::vector<record::TraceBlock> blocks;
        record::Merged all;
        std::size_t newBlocks = 0;
        bool anyBlocks = false;
        QString why;
        const auto keep = [&] {
            if (!why.isEmpty()) { // the rest is read for what is wrong with it, and not held
                rows = {};
                blocks.clear();
                return;
            }
            if (!rows.runs.empty() || !rows.entries.empty()) {
                const auto merged = log->merge(rows);
                if (merged) {
                    all.runs += merged.value().runs;
                    all.entries += merged.value().entries;
                    all.told.insert(all.told.end(), merged.value().told.begin(), merged.value().told.end());
                } else
                    why = QString::fromStdString(merged.error());
                rows = {};
            }
            if (!blocks.empty() && why.isEmpty()) {
                const auto kept = log->keepTrace(blocks, {});
                kept ? static_cast<void>(newBlocks += kept.value())
                     : static_cast<void>(why = QString::fromStdString(kept.error()));
                blocks.clear();
            }
        };
        const auto twice = [&](const char* what, const std::string& id) {
            problems.push_back({file_, 0, fmt::format("{} {} is there twice", what, id), "The second is left out"});
        };
        record::LogSink sink;
        sink.run = [&](record::Run r) {
            if (const std::string id = r.id; !rows.runs.try_emplace(id, std::move(r)).second)
                twice("run", id);
            if (rows.runs.size() >= lot)
                keep();
        };
        sink.entry = [&](record::Entry e) {
            if (const std::string id = e.id; !rows.entries.try_emplace(id, std::move(e)).second)
                twice("entry", id);
            if (rows.entries.size() >= lot)
                keep();
        };
        sink.block = [&](record::TraceBlock b) {
            anyBlocks = true;
            blocks.push_back(std::move(b));
            if (blocks.size() >= lotOfBlocks)
                keep();
        };
        record::readLogJson(in, file_, problems, sink);
        keep();
        const int code = problemsTold(problems, problems.empty() ? exitOk : exitProblems);
        if (!why.isEmpty())
            return notKept(why);
        tellMerged(all);
        if (anyBlocks)
            fmt::print("{} blocks of recorders' traces were new.\n", newBlocks);
        return code;
    }
    int merge(OpenLog& log) const {
        if (file_.empty())
            return usage("merge: --file FILE, another log (SQLite) or the address of a hangar's");
        if (HangarLog::isAddress(QString::fromStdString(file_)))
            return exchange(log);
        if (!QFileInfo::exists(QString::fromStdString(file_)))
            return usage(fmt::format("merge: there is no {}", file_));
        OpenLog other(file_);
        if (!other)
            return wrongFile(other.why());
        const auto from = other->read();
        if (!from)
            return wrongFile(from.error());
        if (const int code = takeIn(log, from.value(), exitOk); code != exitOk)
            return code;
        const auto blocks = other->traces({});
        if (!blocks)
            return wrongFile(blocks.error());
        return keepTraces(log, blocks.value(), exitOk);
    }
    static int keepTraces(OpenLog& log, const std::vector<record::TraceBlock>& blocks, int code) {
        const auto kept = log->keepTrace(blocks, {});
        if (!kept)
            return notKept(QString::fromStdString(kept.error()));
        fmt::print("{} blocks of recorders' traces were new.\n", kept.value());
        return code;
    }
    int exchange(OpenLog& log) const {
        const auto hangar = HangarLog::open(QString::fromStdString(file_));
        if (!hangar)
            return wrongFile(hangar.error());
        const auto done = hangar.value()->merge(log.file());
        if (!done)
            return notKept(QString::fromStdString(done.error()));
        for (const auto& line : done.value().told())
            fmt::print("{}\n", line.toStdString());
        return exitOk;
    }
    static int takeIn(OpenLog& log, const record::Log& from, int code) {
        const auto merged = log->merge(from);
        if (!merged)
            return notKept(QString::fromStdString(merged.error()));
        tellMerged(merged.value());
        return code;
    }
    static void tellMerged(const record::Merged& merged) {
        fmt::print("{} runs and {} entries were new.\n", merged.runs, merged.entries);
        for (const auto& line : merged.told)
            fmt::print("{}\n", shownText(line));
    }

    std::string does_, log_, sortie_, run_, airframe_, phase_, engine_, what_, figure_, words_, corrects_, at_, who_,
        file_;
    bool looked_ = false, withdraw_ = false, rough_ = false, json_ = false, csv_ = false, preview_ = false;
    mutable std::vector<Position> positions_;
    mutable std::shared_ptr<const powerplant::Aircraft> aircraft_; ///< of the run
};

class TrendCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "trend"; }
    [[nodiscard]] const char* help() const override {
        return "What creeps on an airframe: every reading of the log against the plan of its own day";
    }
    void declare(Arguments& a) override {
        a.text("airframe", airframe_, "Registration", Arguments::Need::required);
        a.text("--log", log_, "The log (SQLite), or postgresql://… of the hangar's; without: your own");
        a.flag("--all", all_, "What does not change, too");
        a.flag("--json", json_, "As JSON, SI, slopes a day");
    }
    int run(const CommandActions&) override {
        OpenLog log(log_);
        if (!log) {
            fmt::print(stderr, "{}\n", log.why());
            return exitProblems;
        }
        LogFile::Wanted wanted;
        wanted.airframe = QString::fromStdString(airframe_);
        wanted.latest = mostRuns;
        const auto read = log->read(wanted);
        if (!read) {
            fmt::print(stderr, "{}\n", read.error());
            return exitProblems;
        }
        if (read.value().runs.empty())
            return usage(fmt::format("the log has no run of {}", airframe_));
        nlohmann::ordered_json out = nlohmann::ordered_json::array();
        std::size_t quiet = 0;
        RunNotes cockpits;
        const TypeNotes* notes = nullptr;
        for (const auto& [id, run] : read.value().runs)
            notes = notes ? notes : cockpits.of(run);
        for (const auto& s : record::seriesOf(read.value(), airframe_)) {
            const auto t = record::trendOf(s.points);
            const auto bound = [](double v) {
                return std::isfinite(v) ? nlohmann::ordered_json(v) : nlohmann::ordered_json();
            };
            if (json_)
                out.push_back({{"what", s.what},
                               {"phase", keyOf(s.phase)},
                               {"engine", s.engine},
                               {"readings", t.readings},
                               {"against_plan", s.againstPlan},
                               {"slope_a_day", t.slope},
                               {"low", bound(t.low)},
                               {"high", bound(t.high)},
                               {"level", t.level},
                               {"tells", t.tells()}});
            else if (t.tells() || all_)
                fmt::print("{}\n", record::trendText(s, t, {}, notes));
            else
                ++quiet;
        }
        if (json_)
            fmt::print("{}\n", out.dump(1));
        else {
            if (quiet > 0)
                fmt::print("{} other series do not tell that anything changes (--all lists them).\n", quiet);
            fmt::print("{}", logCaution);
        }
        return exitOk;
    }

private:
    static constexpr int mostRuns = 500; ///< what was before is another engine's life
    std::string airframe_, log_;
    bool all_ = false, json_ = false;
};

} // namespace

std::unique_ptr<Command> logCommand() {
    return std::make_unique<LogCommand>();
}
std::unique_ptr<Command> trendCommand() {
    return std::make_unique<TrendCommand>();
}

} // namespace amber::app
