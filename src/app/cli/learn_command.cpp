// SPDX-License-Identifier: GPL-3.0-or-later
// What an airframe's log teaches of it, and what is answered to that in its own file.
#include "cli/airframe_log.h"
#include "cli/cautions.h"
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "flight/taught.h"
#include "store/teaching.h"
#include <QDate>
#include <algorithm>
#include <nlohmann/json.hpp>

namespace amber::app {
namespace {

class LearnCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "learn"; }
    [[nodiscard]] const char* help() const override {
        return "What an airframe's log teaches: by how much it differs from its notes and the model";
    }
    void declare(Arguments& a) override {
        a.text("sortie", sortie_, "A sortie of the airframe", Arguments::Need::required);
        a.text("--log", log_, "The log (SQLite), or postgresql://… of the hangar's; without: your own");
        a.text("--accept", accept_, "Plan with this from now on: oil/1, fuel; all: everything that is offered");
        a.text("--refuse", refuse_, "Do not plan with this: oil/1, fuel");
        a.text("--who", who_, "accept, refuse: who answers");
        a.flag("--json", json_, "As JSON");
    }
    int run(const CommandActions&) override {
        AirframeLog of(sortie_, log_, Teaching::latestRuns);
        if (!of)
            return of.code;
        if (of.log.runs.empty())
            return told(fmt::format("the log has no run of {}", of.airframe()), exitUsage);
        Teaching teaching(std::move(of.log), of.loaded, sortie_);
        while (teaching.next()) {
        }
        const auto lessons = teaching.lessons();
        if (!accept_.empty() || !refuse_.empty())
            return answer(teaching, lessons);
        json_ ? printJson(teaching, lessons) : print(teaching, lessons);
        return exitOk;
    }

private:
    static int told(const std::string& why, int code) {
        fmt::print(stderr, "{}\n", why);
        return code;
    }
    static std::string keyOf(const LearntLine& line) {
        return line.engine.empty() ? line.what : line.what + "/" + line.engine;
    }
    int answer(Teaching& teaching, const std::vector<record::Lesson>& lessons) {
        const QString day = QDate::currentDate().toString(Qt::ISODate), who = QString::fromStdString(who_);
        int answered = 0;
        for (const auto& lesson : lessons) {
            const bool accepts = lesson.offered() && (accept_ == "all" || accept_ == keyOf(lesson.line)),
                       refuses = lesson.planned && refuse_ == keyOf(lesson.line);
            if (!accepts && !refuses)
                continue;
            if (const QString why = teaching.answer(lesson, accepts, day, who); !why.isEmpty())
                return told("It was not kept: " + why.toStdString(), exitWrite);
            fmt::print("{}: {}\n", accepts ? "Planned with from now on" : "Not planned with", lesson.words);
            ++answered;
        }
        if (answered > 0)
            return exitOk;
        const std::string asked = accept_.empty() ? refuse_ : accept_;
        for (const auto& lesson : lessons)
            if (asked == keyOf(lesson.line))
                return told(
                    fmt::format("{} cannot be accepted: {}", asked,
                                lesson.planned ? lesson.notOffered : "it is told only, no plan reckons with it."),
                    exitUsage);
        return told(asked == "all" ? std::string("nothing is offered")
                                   : fmt::format("nothing of that name was learnt: {}", asked),
                    exitUsage);
    }
    static std::string standing(const std::vector<LearntLine>& lines, const record::Lesson& lesson) {
        const auto* said = record::answerTo(lines, lesson);
        if (!said)
            return lesson.offered() ? "offered" : "";
        if (!said->accepted)
            return fmt::format("refused {}", said->answered);
        return fmt::format("{} {}",
                           said->model == lesson.line.model ? "planned with since" : "accepted against other models",
                           said->answered);
    }
    static void print(const Teaching& teaching, const std::vector<record::Lesson>& lessons) {
        const auto lines = teaching.lines();
        for (const auto& lesson : lessons) {
            if (lesson.line.runs == 0)
                continue;
            const std::string stands = standing(lines, lesson);
            fmt::print("{:<16} {}{}\n", keyOf(lesson.line), lesson.words, stands.empty() ? "" : "  [" + stands + "]");
            if (!lesson.notOffered.empty())
                fmt::print("{:<16} {}\n", "", lesson.notOffered);
        }
        fmt::print(
            "Offered lines are planned with once somebody accepts them (--accept KEY); they loosen no limit.\n{}",
            logCaution);
    }
    static void printJson(const Teaching& teaching, const std::vector<record::Lesson>& lessons) {
        const auto lines = teaching.lines();
        nlohmann::ordered_json out = nlohmann::ordered_json::array();
        for (const auto& lesson : lessons)
            out.push_back({{"what", lesson.line.what},
                           {"engine", lesson.line.engine},
                           {"runs", lesson.line.runs},
                           {"first", lesson.line.first},
                           {"last", lesson.line.last},
                           {"found", lesson.planned ? lesson.line.value : lesson.usual},
                           {"low", lesson.low},
                           {"high", lesson.high},
                           {"offered", lesson.offered()},
                           {"why_not", lesson.notOffered},
                           {"answer", standing(lines, lesson)},
                           {"words", lesson.words}});
        fmt::print("{}\n", out.dump(1));
    }

    std::string sortie_, log_, accept_, refuse_, who_;
    bool json_ = false;
};

} // namespace

std::unique_ptr<Command> learnCommand() {
    return std::make_unique<LearnCommand>();
}

} // namespace amber::app
