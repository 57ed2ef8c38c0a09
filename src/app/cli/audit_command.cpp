// SPDX-License-Identifier: GPL-3.0-or-later
// What of an airframe's log an engineer should know of, and the engineer's answers.
#include "cli/cautions.h"
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "cli/open_log.h"
#include "flight/open_files.h"
#include "record/log_text.h"
#include "record/write_up.h"
#include <QDateTime>
#include <QRandomGenerator>
#include <algorithm>
#include <map>
#include <nlohmann/json.hpp>
#include <optional>

namespace amber::app {
namespace {

class AuditCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "audit"; }
    [[nodiscard]] const char* help() const override {
        return "What of an airframe's log an engineer should know of, and what holds its next flight";
    }
    void declare(Arguments& a) override {
        a.text("airframe", airframe_, "Registration", Arguments::Need::required);
        a.text("--log", log_, "The log (SQLite), or postgresql://… of the hangar's; without: your own");
        a.text("--run", run_, "Of this run; without: of the latest 500");
        a.text("--sortie", sortie_, "A sortie of this aircraft, by which runs are judged that hold none of their own");
        a.flag("--open", open_, "Only what no engineer has answered");
        a.text("--answer", answer_, "Id of what an engineer answers, with --found, --done and --signed");
        a.text("--found", found_, "answer: what it was");
        a.text("--done", done_, "answer: what was done");
        a.text("--signed", signed_, "answer: who answers for it");
        a.flag("--json", json_, "As JSON");
    }
    int run(const CommandActions&) override {
        if (answer_.empty() && !(found_ + done_ + signed_).empty())
            return told("--answer ID tells what is answered", exitUsage);
        OpenLog log(log_);
        if (!log)
            return told(log.why(), exitProblems);
        LogFile::Wanted wanted;
        wanted.airframe = QString::fromStdString(airframe_);
        wanted.run = QString::fromStdString(run_);
        wanted.latest = run_.empty() ? mostRuns : 0;
        auto read = log->read(wanted);
        if (!read)
            return told(read.error(), exitProblems);
        if (read.value().runs.empty())
            return told(fmt::format("the log has no {} {}", run_.empty() ? "run of" : "such run of", airframe_),
                        exitUsage);
        const int code = gather(read.value());
        if (code != exitOk)
            return code;
        if (!answer_.empty())
            return answer(log);
        json_ ? printJson() : print();
        const bool held = std::any_of(all_.begin(), all_.end(), [](const Found& f) { return f.held.line.holds(); });
        return held ? exitProblems : exitOk;
    }

private:
    struct Found {
        record::Holding held;
        std::string engine; ///< its name
    };
    static constexpr int mostRuns = 500;
    static int told(const std::string& why, int code) {
        fmt::print(stderr, "{}\n", why);
        return code;
    }

    int gather(const record::Log& log) {
        const auto flown = record::flownOf();
        std::map<std::string, std::optional<record::RunFlown>> own;
        std::optional<record::RunFlown> now; // the aircraft as it is: by it runs are judged whose own is not there
        if (!sortie_.empty()) {
            auto loaded = flight::loadSortie(sortie_);
            for (const auto& p : loaded.problems)
                fmt::print(stderr, "{}\n", p.text());
            if (!loaded.ok())
                return exitProblems;
            now = record::RunFlown{loaded.aircraft, std::move(*loaded.sortie)};
        }
        for (const auto& [id, run] : log.runs) {
            own[id] = flown(run);
            if (sortie_.empty() && own[id])
                now = own[id];
        }
        std::size_t unjudged = 0;
        for (const auto& [id, standing] : record::standing(log)) {
            const auto& then = own.at(id) ? own.at(id) : now;
            if (!then) {
                ++unjudged;
                continue;
            }
            const auto& notes = then->aircraft->notes;
            for (auto& line : record::writeUp(id, standing, notes, then->sortie).lines)
                if (!open_ || !line.answered()) {
                    std::string engine = record::engineName(notes, line.engine);
                    all_.push_back({{log.runs.at(id), std::move(line)}, std::move(engine)});
                }
        }
        if (unjudged > 0)
            return told(
                fmt::format("{} runs hold no sortie, or its notes are not there, and cannot be judged: --sortie "
                            "FILE names one of the same aircraft",
                            unjudged),
                exitProblems);
        std::stable_sort(all_.begin(), all_.end(),
                         [](const Found& a, const Found& b) { return a.held.line.at > b.held.line.at; });
        return exitOk;
    }

    int answer(OpenLog& log) {
        const auto line =
            std::find_if(all_.begin(), all_.end(), [&](const Found& f) { return f.held.line.about == answer_; });
        if (line == all_.end())
            return told(fmt::format("--answer: nothing found has the id {}: audit {} lists them", answer_, airframe_),
                        exitUsage);
        const auto ids = record::idsFrom([] { return QRandomGenerator::system()->generate64(); });
        const auto entries = record::answerEntries(line->held.line, line->held.run.id, {found_, done_, signed_, 0}, ids,
                                                   QDateTime::currentMSecsSinceEpoch());
        if (!entries)
            return told(entries.error(), exitUsage);
        record::Log news;
        for (const auto& e : entries.value())
            news.entries.emplace(e.id, e);
        if (const QString why = log->append(news); !why.isEmpty())
            return told("It was not kept: " + why.toStdString(), exitWrite);
        fmt::print("Answered: {}\n", line->held.line.verdict.sentence());
        return exitOk;
    }

    void print() const {
        for (const auto& [held, engine] : all_) {
            const auto& line = held.line;
            fmt::print("{:<6} {}  {}{}{}: {}\n", wordOf(line.verdict.colour()), record::timeText(line.at).substr(0, 16),
                       titleOf(line.phase), engine.empty() ? "" : ", ", engine, line.verdict.sentence());
            if (!line.look.empty())
                fmt::print("       look at (practice): {}\n", line.look);
            for (const auto& a : line.answers)
                fmt::print("       answered {}: found {}; done {}; signed {}\n", record::timeText(a.at).substr(0, 16),
                           a.found, a.done, a.by);
            if (!line.answered())
                fmt::print("       {}  {}\n",
                           line.holds() ? "holds the next flight until an engineer has answered" : "not answered",
                           line.about);
        }
        if (all_.empty())
            fmt::print("Nothing stands out of normal in what was read.\n");
        fmt::print("{}", logCaution);
    }
    void printJson() const {
        nlohmann::ordered_json out = nlohmann::ordered_json::array();
        for (const auto& [held, engine] : all_) {
            const auto& [run, line] = held;
            nlohmann::ordered_json answers = nlohmann::ordered_json::array();
            for (const auto& a : line.answers)
                answers.push_back({{"at", a.at}, {"found", a.found}, {"done", a.done}, {"signed", a.by}});
            out.push_back({{"run", run.id},
                           {"at", line.at},
                           {"phase", keyOf(line.phase)},
                           {"engine", line.engine},
                           {"what", line.what},
                           {"colour", wordOf(line.verdict.colour())},
                           {"sentence", line.verdict.sentence()},
                           {"look_at", line.look},
                           {"answered", line.answered()},
                           {"holds", line.holds()},
                           {"answers", answers},
                           {"id", line.about}});
        }
        fmt::print("{}\n", out.dump(1));
    }

    std::string airframe_, log_, run_, sortie_, answer_, found_, done_, signed_;
    bool open_ = false, json_ = false;
    std::vector<Found> all_;
};

} // namespace

std::unique_ptr<Command> auditCommand() {
    return std::make_unique<AuditCommand>();
}

} // namespace amber::app
