// SPDX-License-Identifier: GPL-3.0-or-later
// Hours, starts, oil and minutes at ratings of an airframe, and what is due.
#include "cli/airframe_log.h"
#include "cli/cautions.h"
#include "cli/command.h"
#include "record/hours.h"
#include "record/log_text.h"
#include <QDateTime>
#include <algorithm>
#include <nlohmann/json.hpp>

namespace amber::app {
namespace {

class HoursCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "hours"; }
    [[nodiscard]] const char* help() const override {
        return "Hours, starts, oil and minutes at ratings of an airframe, and what is due";
    }
    void declare(Arguments& a) override {
        a.text("sortie", sortie_, "A sortie of the airframe", Arguments::Need::required);
        a.text("--log", log_, "The log (SQLite), or postgresql://… of the hangar's; without: your own");
        a.text("--on", on_, "The day it is reckoned for, 2026-12-01; without: today");
        a.flag("--json", json_, "As JSON");
    }
    int run(const CommandActions&) override {
        const auto day = on_.empty() ? std::optional<std::int64_t>(QDateTime::currentMSecsSinceEpoch())
                                     : record::timeFrom(on_ + " 12:00");
        if (!day) {
            fmt::print(stderr, "--on: write a day as 2026-12-01\n");
            return exitUsage;
        }
        const AirframeLog of(sortie_, log_);
        if (!of)
            return of.code;
        const auto& notes = of.loaded.aircraft->notes;
        const auto hours = record::hoursOf(of.log, of.airframe(), notes, of.loaded.sortie->airframe.facts.get(), *day);
        json_ ? printJson(hours) : print(hours, notes);
        const bool overdue = std::any_of(hours.due.begin(), hours.due.end(), [](const record::DueLine& d) {
            return d.verdict.colour() == watch::Colour::red;
        });
        return overdue ? exitProblems : exitOk;
    }

private:
    static void print(const record::Hours& hours, const TypeNotes& notes) {
        const auto table = record::hoursTable(hours, notes);
        fmt::print("{:<22}", "");
        for (const auto& column : table.columns)
            fmt::print("{:>22}", column);
        fmt::print("\n");
        for (const auto& row : table.rows) {
            fmt::print("{:<22}", row.what);
            for (const auto& cell : row.cells)
                fmt::print("{:>22}", cell.empty() ? "-" : cell);
            fmt::print("\n");
        }
        for (const auto& line : table.told)
            fmt::print("{}\n", line);
        for (const auto& d : hours.due)
            fmt::print("{:<6} {}\n", wordOf(d.verdict.colour()), d.verdict.sentence());
        fmt::print("{}", logCaution);
    }
    static void printJson(const record::Hours& hours) {
        using Json = nlohmann::ordered_json;
        const auto h = [](const std::optional<double>& s) { return s ? Json(*s / 3600.0) : Json(nullptr); };
        Json out{{"since_new_h", h(hours.sinceNew)},     {"logged_h", hours.logged / 3600.0}, {"runs", hours.runs},
                 {"runs_without_times", hours.timeless}, {"engines", Json::array()},          {"due", Json::array()}};
        for (const auto& e : hours.engines) {
            Json ratings = Json::object();
            for (const auto& [name, seconds] : e.ratings)
                ratings[name] = seconds / 60.0;
            out["engines"].push_back({{"engine", e.engine},
                                      {"number", e.serial},
                                      {"since_new_h", h(e.sinceNew)},
                                      {"since_overhaul_h", h(e.sinceOverhaul)},
                                      {"overhauled", e.overhauled},
                                      {"logged_h", e.logged / 3600.0},
                                      {"starts", e.starts},
                                      {"tries", e.tries},
                                      {"oil_added_l", e.oilAdded * 1000.0},
                                      {"oil_l_h", e.oilAnHour ? Json(*e.oilAnHour * 3.6e6) : Json(nullptr)},
                                      {"ratings_min", ratings}});
        }
        for (const auto& d : hours.due)
            out["due"].push_back({{"what", d.what},
                                  {"engine", d.engine},
                                  {"done", d.done},
                                  {"left_h", d.leftHours ? Json(*d.leftHours) : Json(nullptr)},
                                  {"left_days", d.leftDays ? Json(*d.leftDays) : Json(nullptr)},
                                  {"colour", wordOf(d.verdict.colour())},
                                  {"sentence", d.verdict.sentence()}});
        fmt::print("{}\n", out.dump(1));
    }

    std::string sortie_, log_, on_;
    bool json_ = false;
};

} // namespace

std::unique_ptr<Command> hoursCommand() {
    return std::make_unique<HoursCommand>();
}

} // namespace amber::app
